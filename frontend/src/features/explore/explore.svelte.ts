import { PersistedState, useDebounce } from 'runed';
import { api, faultsOf, type BoardDocument, type Schemas } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';

export type Open = Schemas['Open'];
export type OpenKind = NonNullable<Open['kinds']>[number];
export type OpenNumber = NonNullable<Open['numbers']>[number];
export type Explored = Schemas['Exploration'];
export type Wish = Explored['spreads'][number]['name'];
export type Wishes = Record<Wish, number | null>;
export type ExploredBoard = Schemas['ExploredBoard'];

const IN_BRIEF: Record<Wish, string> = {
  speed: 'brief.top_speed_kmh',
  hill: 'brief.hill_grade_pct',
  range: 'brief.range_km',
  carry: 'brief.carry_mass_kg',
  money: 'brief.budget',
};
const WISHES = Object.keys(IN_BRIEF) as Wish[];
export const MOST_PINNED = 4;
const AWAY = 'The server cannot be reached; what is open here is kept.';

/** What is left open of one build, what is wished for, and the boards that come of it. */
export class Explorer {
  /** What may be open at all, and what most would no target. */
  may = $state.raw<Schemas['OpenChoices'] | null>(null);
  explored = $state.raw<Explored | null>(null);
  /** The board that is looked into. */
  looked = $state.raw<Schemas['LookedInto'] | null>(null);
  pinned = $state.raw<ExploredBoard[]>([]);
  running = $state(false);
  looking = $state(false);
  refused = $state('');
  faults = $state.raw<Record<string, string>>({});
  across = $state<Wish>('money');
  up = $state<Wish>('range');
  private readonly kept: PersistedState<{ open: Open | null; wishes: Partial<Wishes> }>;
  private under: AbortController | null = null;
  private readonly soon = useDebounce(() => this.run(), 180);

  constructor(readonly build: OpenBuild) {
    this.kept = new PersistedState(`sand-pocket:explorer:${build.id}`, { open: null, wishes: {} });
  }

  get open(): Open {
    return this.kept.current.open ?? this.may?.usual ?? { kinds: [], numbers: [] };
  }

  /** What is wished for: what the brief says, where nothing was pulled here. */
  get wishes(): Wishes {
    const pulled = this.kept.current.wishes;
    return Object.fromEntries(
      WISHES.map((w) => [w, w in pulled ? pulled[w]! : ((this.build.value(IN_BRIEF[w]) as number) ?? null)]),
    ) as Wishes;
  }

  /** Whether something is wished for otherwise than the brief says. */
  get pulled(): boolean {
    const wishes = this.wishes;
    return WISHES.some((w) => wishes[w] !== ((this.build.value(IN_BRIEF[w]) as number) ?? null));
  }

  async ask(): Promise<void> {
    const { data, error } = await api
      .POST('/api/explore/open', { body: { document: this.build.board, board: this.build.id } })
      .catch(() => ({ data: undefined, error: { message: AWAY } }));
    if (!data) this.refused = faultsOf(error).message;
    else {
      this.refused = '';
      this.may = data;
    }
  }

  /**
   * Asks what may change. Where the board has a target, searches at once with what is chosen, or with what builders usually leave
   * open; without one there is nothing to search for.
   */
  async begin(): Promise<void> {
    await this.ask();
    const aims = Object.values(this.wishes).some((wish) => wish !== null);
    if (this.may && aims && (this.open.kinds?.length || this.open.numbers?.length)) await this.run();
  }

  leaveOpen(open: Open): void {
    this.kept.current = { ...this.kept.current, open };
    this.looked = null;
  }

  pull(wish: Wish, value: number | null): void {
    this.kept.current = { ...this.kept.current, wishes: { ...this.kept.current.wishes, [wish]: value } };
    if (this.explored) void this.soon();
  }

  /** What is pulled here goes into the brief, as one step. */
  intoBrief(): void {
    const wishes = this.wishes;
    this.build.changeAndSay(
      { ...Object.fromEntries(WISHES.map((w) => [IN_BRIEF[w], wishes[w]])), 'brief.hill_rise_m': null },
      'These wishes are the brief now.',
    );
    this.asBriefed();
  }

  asBriefed(): void {
    this.kept.current = { ...this.kept.current, wishes: {} };
    if (this.explored) void this.soon();
  }

  show(across: Wish, up: Wish): void {
    [this.across, this.up] = [across, up];
    void this.soon();
  }

  private get question() {
    return {
      document: this.build.board,
      board: this.build.id,
      open: this.open,
      wanted: this.wishes,
      across: this.across,
      up: this.up,
    };
  }

  /** Looks at every board of what is open; what comes in between is shown at once. */
  async run(): Promise<void> {
    this.under?.abort();
    const own = (this.under = new AbortController());
    this.running = true;
    try {
      const { data, error } = await api.POST('/api/explore', {
        body: this.question,
        parseAs: 'stream',
        signal: own.signal,
      });
      if (error || !data) return this.refuse(error);
      this.refuse(null);
      // `parseAs: 'stream'` is not known to the types of the client.
      await this.take(data as unknown as ReadableStream<Uint8Array>);
    } catch {
      if (!own.signal.aborted) this.refuse({ message: AWAY });
    } finally {
      if (own === this.under) this.running = false;
    }
  }

  stop(): void {
    this.under?.abort();
    this.running = false;
  }

  private async take(lines: ReadableStream<Uint8Array>): Promise<void> {
    const reader = lines
      // The browser's types and those of the language disagree on whose buffer it is.
      .pipeThrough(new TextDecoderStream() as never)
      .getReader() as ReadableStreamDefaultReader<string>;
    let rest = '';
    for (;;) {
      const { done, value } = await reader.read();
      const whole = (rest + (value ?? '')).split('\n');
      rest = whole.pop() ?? '';
      if (whole.length) this.see(JSON.parse(whole.at(-1)!) as Explored);
      if (done) return;
    }
  }

  private see(explored: Explored): void {
    // In another space the same numbers are other boards.
    if (this.explored && this.explored.space !== explored.space) {
      this.pinned = [];
      this.looked = null;
    }
    this.explored = explored;
  }

  private refuse(error: unknown): void {
    const refusal = error ? faultsOf(error) : null;
    this.refused = refusal?.message ?? '';
    this.faults = Object.fromEntries((refusal?.faults ?? []).map((f) => [f.field, f.reason]));
  }

  /** A board of the space, with what each step beside it would buy. */
  async lookInto(number: number): Promise<void> {
    this.looking = true;
    const { data, error } = await api
      .POST('/api/explore/board', { body: { ...this.question, number, space: this.explored?.space ?? '' } })
      .catch(() => ({ data: undefined, error: { message: AWAY } }));
    this.looking = false;
    if (data) this.looked = data;
    else this.refuse(error);
  }

  isPinned(number: number): boolean {
    return this.pinned.some((b) => b.number === number);
  }

  pin(board: ExploredBoard): void {
    this.pinned = this.isPinned(board.number)
      ? this.pinned.filter((b) => b.number !== board.number)
      : [...this.pinned, board].slice(-MOST_PINNED);
  }

  /** Lays a board on the bench, as one step. */
  async lay(
    parts: NonNullable<BoardDocument['parts']>,
    settings?: BoardDocument['settings'],
  ): Promise<boolean> {
    return this.build.takeParts(parts, settings);
  }

  close(): void {
    this.under?.abort();
  }
}
