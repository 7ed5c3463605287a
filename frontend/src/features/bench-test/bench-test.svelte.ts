import { api, conflictOf, faultsOf, type Schemas } from '$lib/api/client';
import { valueAt, withValue } from '$lib/paths';
import { Drafts } from '$lib/sync/drafts';
import { SaveQueue, type SaveResult } from '$lib/sync/save-queue.svelte';
import { Query, type Reply } from '$lib/sync/query.svelte';

export type Step = Schemas['Step'];
type Tests = Schemas['TestsOut'];

/** One entry that is on its way, and what stood there when it was made. */
interface Entry {
  value: unknown;
  was: unknown;
}

/** Two devices entered one thing differently. */
export interface Clash {
  mine: unknown;
  theirs: unknown;
}

/** The bench test of one board. What is entered stands at once, and is kept here until the server has it. */
export class BenchTest {
  /** Reasons by entry, of what the server did not take. */
  faults = $state.raw<Record<string, string>>({});
  /** Entries that another device has made otherwise meanwhile; the person settles them. */
  clashes = $state.raw<Record<string, Clash>>({});
  /** Why the last request was not taken. */
  refused = $state('');
  private waiting = $state.raw<Record<string, Entry>>({});
  private readonly drafts: Drafts<Record<string, Entry>>;
  private readonly loaded: Query<string, Tests>;
  private readonly queue = new SaveQueue(
    () => this.send(),
    () => this.count > 0,
    0,
  );

  constructor(readonly id: string) {
    this.drafts = new Drafts(`sand-pocket:benchtest:${id}`);
    this.waiting = this.drafts.read() ?? {};
    this.loaded = new Query(
      () => id,
      (_, signal) => api.GET('/api/builds/{id}/bench-test', { ...this.at, signal }),
      { cacheKey: () => `bench-test:${id}` },
    );
    if (this.count) this.queue.soon();
  }

  get tests(): Tests | null {
    return this.loaded.answer;
  }

  get offline(): boolean {
    return this.queue.state === 'offline' || this.loaded.failed;
  }

  /** How many entries wait for the server. */
  get count(): number {
    return Object.keys(this.waiting).length;
  }

  /** What was entered, with what is still on its way or in dispute. */
  get entered(): Record<string, unknown> {
    let file = (this.tests?.entered ?? {}) as Record<string, unknown>;
    for (const [path, { value }] of Object.entries(this.waiting)) file = withValue(file, path, value);
    for (const [path, { mine }] of Object.entries(this.clashes)) file = withValue(file, path, mine);
    return file;
  }

  value(path: string): unknown {
    return valueAt(this.entered, path);
  }

  enter(changes: Record<string, unknown>): void {
    const stands = (path: string) => this.waiting[path]?.was ?? valueAt(this.tests?.entered, path) ?? null;
    const entries = Object.entries(changes).map(([path, value]) => [path, { value, was: stands(path) }]);
    this.waiting = { ...this.waiting, ...Object.fromEntries(entries) };
    this.faults = without(this.faults, Object.keys(changes));
    this.clashes = without(this.clashes, Object.keys(changes));
    this.keepDraft();
    void this.queue.now();
  }

  /** Ends a clash: what was entered here goes over the other, or the other stands. */
  settle(path: string, mine: boolean): void {
    const clash = this.clashes[path];
    if (!clash) return;
    this.clashes = without(this.clashes, [path]);
    if (mine) this.enter({ [path]: clash.mine });
  }

  /** Enters what the controllers found. */
  async take(command: string): Promise<void> {
    await this.ask(() =>
      api.PATCH('/api/builds/{id}/bench-test', { ...this.at, body: { changes: {}, was: {}, command } }),
    );
  }

  async keep(on: string, by: string): Promise<boolean> {
    if (!(await this.queue.settled())) {
      this.refused = 'Not everything has reached the server yet; keep the test when it has.';
      return false;
    }
    return this.ask(() => api.POST('/api/builds/{id}/bench-test', { ...this.at, body: { on, by } }));
  }

  async beginAnew(): Promise<void> {
    this.waiting = {};
    this.faults = {};
    this.clashes = {};
    this.keepDraft();
    await this.ask(() => api.DELETE('/api/builds/{id}/bench-test', this.at));
  }

  /** Tries again at once, as when the connection is back. */
  retry(): void {
    if (this.loaded.failed || this.loaded.fromCache) void this.loaded.again();
    this.queue.retry();
  }

  close(): void {
    this.queue.close();
  }

  private get at() {
    return { params: { path: { id: this.id } } };
  }

  private async send(): Promise<SaveResult> {
    const sent = this.waiting;
    const part = (key: keyof Entry) =>
      Object.fromEntries(Object.entries(sent).map(([path, entry]) => [path, entry[key]]));
    const { data, error, response } = await api.PATCH('/api/builds/{id}/bench-test', {
      ...this.at,
      body: { changes: part('value'), was: part('was') },
    });
    if (data) {
      this.loaded.take(data);
      this.leave(sent, Object.keys(sent), true);
      return 'arrived';
    }
    if (response.status >= 500) return 'unreachable';
    if (response.status === 401) {
      this.refused = 'Signed out elsewhere. What you entered is kept here; sign in again and it is sent.';
      return 'stopped';
    }
    if (response.status === 409) return this.meet(sent, conflictOf<Tests>(error));
    // What cannot be is said beside its field; the rest goes out again without it.
    const refusal = faultsOf(error);
    const faults = Object.fromEntries((refusal.faults ?? []).map((f) => [f.field, f.reason]));
    const bad = Object.keys(sent).filter((path) => path in faults);
    this.faults = { ...this.faults, ...faults };
    if (!bad.length) this.refused = refusal.message;
    this.leave(sent, bad.length ? bad : Object.keys(sent), false);
    return 'arrived';
  }

  /** Another device was here first: its entries stand beside ours until the person has chosen; the rest goes out again. */
  private meet(sent: Record<string, Entry>, tests: Tests): SaveResult {
    this.loaded.take(tests);
    const paths = (tests.overtaken ?? []).filter((path) => path in sent);
    if (!paths.length) return 'stopped';
    const clashes = paths.map((path) => [
      path,
      { mine: this.waiting[path]?.value ?? null, theirs: valueAt(tests.entered, path) ?? null },
    ]);
    this.clashes = { ...this.clashes, ...Object.fromEntries(clashes) };
    this.waiting = without(this.waiting, paths);
    this.keepDraft();
    return 'arrived';
  }

  /** What was kept or refused no longer waits, unless it was entered anew meanwhile; then it stands on what was kept. */
  private leave(sent: Record<string, Entry>, gone: string[], kept: boolean): void {
    this.waiting = Object.fromEntries(
      Object.entries(this.waiting)
        .filter(([path, entry]) => !gone.includes(path) || entry !== sent[path])
        .map(([path, entry]) => [path, kept && path in sent ? { ...entry, was: sent[path]!.value } : entry]),
    );
    this.keepDraft();
  }

  private async ask(request: () => Promise<Reply<Tests>>): Promise<boolean> {
    this.refused = '';
    const { data, error } = await request().catch((): Reply<Tests> => ({
      error: { message: 'The server cannot be reached; nothing was changed.', faults: [] },
    }));
    if (data) this.loaded.take(data);
    else {
      const refusal = faultsOf(error);
      this.refused = [refusal.message, ...(refusal.faults ?? []).map((f) => `${f.field}: ${f.reason}.`)].join(
        ' ',
      );
    }
    return data !== undefined;
  }

  private keepDraft(): void {
    if (this.count) this.drafts.keep(this.waiting);
    else this.drafts.forget();
  }
}

function without<T>(from: Record<string, T>, keys: string[]): Record<string, T> {
  return Object.fromEntries(Object.entries(from).filter(([key]) => !keys.includes(key)));
}
