import { api, faultsOf, type BuildFile, type Schemas } from '$lib/api/client';

export type ControllerCommand = Schemas['ControllerCommandOut'];
export type Kind = Schemas['ControllerCommandIn']['kind'];

const LOOKS_EVERY = 250;
const UNDER_WAY = ['waiting', 'running'];

/** The controllers of one board, as the worker last saw them, and the command that it is on. */
export class ControllerLink {
  seen = $state.raw<Schemas['LinkOut'] | null>(null);
  command = $state.raw<ControllerCommand | null>(null);
  /** Why the last request was not taken. */
  refused = $state('');
  /** The cable that was chosen, and which controller it leads to; an empty one for the simulated controllers. */
  port = $state('');
  unit = $state(0);
  /** What may go wrong is open, and stays so whatever arrives. */
  trying = $state(false);
  /** A request is on its way; until it is answered nothing else is asked. */
  private sending = $state(false);
  private timer: ReturnType<typeof setTimeout> | undefined;
  private closed = false;
  private asked = $state(0);
  private answered = $state(0);

  constructor(
    readonly id: string,
    /** The build with what is wanted of its controllers. */
    private readonly file: () => BuildFile,
    /** Called once when a command has ended. */
    private readonly ended: (command: ControllerCommand) => void,
  ) {
    void this.compare();
  }

  get busy(): boolean {
    return this.sending || (this.command !== null && UNDER_WAY.includes(this.command.state));
  }

  /** What is wanted has changed, and nobody has answered yet how the controllers stand against it. */
  get stale(): boolean {
    return this.asked !== this.answered;
  }

  private get line() {
    return { port: this.port, unit: this.unit };
  }

  /** How far the command under way is. */
  get step(): string {
    return (!this.sending && this.command?.step) || 'waiting for the worker';
  }

  /** What the controllers hold against what is wanted now; asks nothing of them. */
  async compare(): Promise<void> {
    const asked = ++this.asked;
    const { data } = await api
      .POST('/api/builds/{id}/controller/diff', {
        params: { path: { id: this.id } },
        body: {
          settings: this.file().settings ?? {},
          apart: this.file().settings_apart ?? [],
          ...this.line,
        },
      })
      .catch(() => ({ data: undefined }));
    if (!data || this.closed || asked !== this.asked) return;
    this.seen = data;
    this.answered = asked;
    if (!this.busy && data.command) {
      this.command = data.command;
      if (this.busy) this.follow();
    }
  }

  /** Another cable, or the same one in another controller. */
  lead(port: string, unit: number): void {
    this.port = port;
    this.unit = unit;
    void this.compare();
  }

  send(kind: Kind, further: Partial<Schemas['ControllerCommandIn']> = {}): Promise<boolean> {
    return this.begin(
      api.POST('/api/builds/{id}/controller', {
        params: { path: { id: this.id } },
        body: { kind, ...this.line, board: [], link: [], ...further },
      }),
    );
  }

  /** Sets what was confirmed of each controller, on the strength of what was seen. */
  write(
    settings: Record<string, unknown>[],
    reason: string,
    by: string,
    profile?: string | null,
  ): Promise<boolean> {
    return this.begin(
      api.POST('/api/builds/{id}/controller/write', {
        params: { path: { id: this.id } },
        body: {
          settings,
          seen: this.seen?.held ?? [],
          reason,
          by,
          profile: (profile ?? null) as Schemas['ConfirmedIn']['profile'],
          ...this.line,
        },
      }),
    );
  }

  async stop(): Promise<void> {
    if (!this.command) return;
    await api
      .POST('/api/controller-commands/{command}/stop', { params: { path: { command: this.command.id } } })
      .catch(() => undefined);
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.timer);
  }

  private async begin(request: Promise<{ data?: ControllerCommand; error?: unknown }>): Promise<boolean> {
    this.refused = '';
    this.sending = true;
    const { data, error } = await request.catch(() => ({
      data: undefined,
      error: { message: 'The server cannot be reached; nothing was sent.', faults: [] },
    }));
    this.sending = false;
    if (!data) {
      const refusal = faultsOf(error);
      this.refused = [refusal.message, ...(refusal.faults ?? []).map((f) => `${f.field}: ${f.reason}`)].join(
        ' ',
      );
      return false;
    }
    this.command = data;
    this.follow();
    return true;
  }

  private follow(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.look(), LOOKS_EVERY);
  }

  private async look(): Promise<void> {
    if (!this.command || this.closed) return;
    const { data } = await api
      .GET('/api/controller-commands/{command}', { params: { path: { command: this.command.id } } })
      .catch(() => ({ data: undefined }));
    if (this.closed) return;
    if (data) this.command = data;
    if (this.busy) {
      this.follow();
      return;
    }
    // Comparing may find a newer command under way; what has ended is this one.
    const last = this.command;
    await this.compare();
    this.ended(last);
  }
}
