import { api, faultsOf, type Schemas } from '$lib/api/client';
import { valueAt, withValue } from '$lib/paths';

export type Step = Schemas['Step'];

const RETRY = 3000;

/** The bench test of one board. What is entered stands at once, and is kept here until the server has it. */
export class BenchTest {
  tests = $state.raw<Schemas['TestsOut'] | null>(null);
  /** Reasons by entry, of what the server did not take. */
  faults = $state.raw<Record<string, string>>({});
  /** Why the last request was not taken. */
  refused = $state('');
  offline = $state(false);
  private waiting = $state.raw<Record<string, unknown>>({});
  private flying: Promise<void> | null = null;
  private closed = false;
  /** The server has answered that it takes nothing now; another try waits for the person. */
  private stopped = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(readonly id: string) {
    try {
      this.waiting = JSON.parse(localStorage.getItem(this.key) ?? '{}') as Record<string, unknown>;
    } catch {
      // An unreadable draft is none.
    }
    void this.load();
  }

  /** What was entered, with what is still on its way. */
  get entered(): Record<string, unknown> {
    let file = (this.tests?.entered ?? {}) as Record<string, unknown>;
    for (const [path, value] of Object.entries(this.waiting)) file = withValue(file, path, value);
    return file;
  }

  value(path: string): unknown {
    return valueAt(this.entered, path);
  }

  enter(changes: Record<string, unknown>): void {
    this.waiting = { ...this.waiting, ...changes };
    this.faults = Object.fromEntries(Object.entries(this.faults).filter(([path]) => !(path in changes)));
    this.remember();
    void this.send();
  }

  /** Enters what the controllers found. */
  async take(errand: string): Promise<void> {
    await this.ask(() =>
      api.PATCH('/api/builds/{id}/bench-tests', { ...this.at, body: { changes: {}, errand } }),
    );
  }

  async keep(on: string, by: string): Promise<boolean> {
    if (!this.flying) void this.send();
    while (this.flying) await this.flying;
    if (Object.keys(this.waiting).length) {
      this.refused = 'Not everything has reached the server yet; keep the test when it has.';
      return false;
    }
    return this.ask(() => api.POST('/api/builds/{id}/bench-tests', { ...this.at, body: { on, by } }));
  }

  async beginAnew(): Promise<void> {
    this.waiting = {};
    this.faults = {};
    this.remember();
    await this.ask(() => api.DELETE('/api/builds/{id}/bench-tests', this.at));
  }

  /** Tries again at once, as when the connection is back. */
  retry(): void {
    if (this.tests === null) void this.load();
    else void this.send();
  }

  close(): void {
    clearTimeout(this.timer);
    void this.send();
    this.closed = true;
  }

  private get at() {
    return { params: { path: { id: this.id } } };
  }

  private get key(): string {
    return `sand-pocket:test:${this.id}`;
  }

  private async load(): Promise<void> {
    const loaded = await this.ask(() => api.GET('/api/builds/{id}/bench-tests', this.at));
    if (loaded) void this.send();
    else if (this.offline) this.again();
  }

  private async send(): Promise<void> {
    const changes = this.waiting;
    if (this.flying || this.closed || !Object.keys(changes).length) return;
    this.stopped = false;
    await (this.flying = this.fly(changes));
    if (this.offline) this.again();
    else if (!this.stopped) void this.send();
  }

  private async fly(changes: Record<string, unknown>): Promise<void> {
    let gone: string[] = [];
    try {
      const { data, error, response } = await api.PATCH('/api/builds/{id}/bench-tests', {
        ...this.at,
        body: { changes },
      });
      this.offline = !data && response.status >= 500;
      if (data) {
        this.tests = data;
        gone = Object.keys(changes);
      } else if (response.status === 422) {
        // What cannot be is said beside its field; the rest goes out again without it.
        const refusal = faultsOf(error);
        const faults = Object.fromEntries((refusal.faults ?? []).map((f) => [f.field, f.reason]));
        const bad = Object.keys(changes).filter((path) => path in faults);
        this.faults = { ...this.faults, ...faults };
        if (!bad.length) this.refused = refusal.message;
        gone = bad.length ? bad : Object.keys(changes);
      } else if (response.status === 401) {
        this.refused = 'Signed out elsewhere. What you entered is kept here; sign in again and it is sent.';
        this.stopped = true;
      } else this.stopped = true;
    } catch {
      this.offline = true;
    }
    this.flying = null;
    this.waiting = Object.fromEntries(
      Object.entries(this.waiting).filter(([path, value]) => !gone.includes(path) || value !== changes[path]),
    );
    this.remember();
  }

  private again(): void {
    clearTimeout(this.timer);
    if (!this.closed) this.timer = setTimeout(() => this.retry(), RETRY);
  }

  private async ask(
    request: () => Promise<{ data?: Schemas['TestsOut']; error?: unknown }>,
  ): Promise<boolean> {
    this.refused = '';
    try {
      const { data, error } = await request();
      this.offline = false;
      if (data) this.tests = data;
      else {
        const refusal = faultsOf(error);
        this.refused = [
          refusal.message,
          ...(refusal.faults ?? []).map((f) => `${f.field}: ${f.reason}.`),
        ].join(' ');
      }
      return data !== undefined;
    } catch {
      this.offline = true;
      return false;
    }
  }

  private remember(): void {
    try {
      if (Object.keys(this.waiting).length) localStorage.setItem(this.key, JSON.stringify(this.waiting));
      else localStorage.removeItem(this.key);
    } catch {
      // A full or forbidden store: it is still here in memory and on its way.
    }
  }
}
