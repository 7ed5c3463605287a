import { api, faultsOf, type PartDetail } from '$lib/api/client';
import { valueAt, withValue } from '$lib/paths';
import { Drafts } from '$lib/sync/drafts';
import { History } from '$lib/sync/history.svelte';
import { SaveQueue, type SaveResult } from '$lib/sync/save-queue.svelte';

type Record_ = PartDetail['record'];
type Entries = Record<string, unknown>;

/** One part of the library that is checked, and altered where it is one's own. */
export class OpenPart {
  part = $state.raw<PartDetail | null>(null);
  failed = $state(false);
  /** Reasons by key, of what the server did not take; it stays in its field and keeps nothing else back. */
  faults = $state.raw<Record<string, string>>({});
  message = $state('');
  readonly history = new History<Record_>();
  // What was entered and is not yet, or not at all, taken by the server: shown as it was entered.
  private entered = $state.raw<Entries>({});
  private readonly drafts: Drafts<Entries>;
  private readonly queue = new SaveQueue(
    () => this.send(),
    () => this.waiting.length > 0,
    0,
  );

  constructor(
    readonly id: string,
    /** The fields that are shown; what is wrong elsewhere is said above them. */
    private readonly fields: (part: PartDetail) => string[],
    private readonly altered: () => void,
  ) {
    this.drafts = new Drafts(`sand-pocket:part:${id}`);
    void this.load();
  }

  value(key: string): unknown {
    return key in this.entered ? this.entered[key] : valueAt(this.part?.record, key);
  }

  set(key: string, value: unknown): void {
    this.entered = { ...this.entered, [key]: value };
    this.faults = without(this.faults, [key]);
    this.drafts.keep(this.entered);
    void this.queue.now();
  }

  /** Takes the last alteration back, after all that was entered before it has arrived. */
  async undo(): Promise<void> {
    await this.queue.settled();
    const now = this.part!.record;
    const before = this.history.undo(now);
    if (!before) return;
    if ((await this.put(before)) !== 'arrived') this.history.redo(before);
    this.entered = {};
    this.faults = {};
    this.drafts.forget();
  }

  retry(): void {
    if (this.part) this.queue.retry();
    else void this.load();
  }

  close(): void {
    this.queue.close();
  }

  /** What is entered and not refused. */
  private get waiting(): [string, unknown][] {
    return Object.entries(this.entered).filter(([key]) => !this.faults[key]);
  }

  private async load(): Promise<void> {
    const answer = await api.GET('/api/parts/{id}', { params: { path: { id: this.id } } }).catch(() => null);
    this.part = answer?.data ?? null;
    this.failed = !this.part;
    if (!this.part?.own) return;
    this.entered = this.drafts.read() ?? {};
    if (this.waiting.length) this.queue.soon();
  }

  /** Each alteration builds on the record that the one before it left. */
  private async send(): Promise<SaveResult> {
    const sent = this.waiting;
    const was = this.part!.record;
    const record = sent.reduce<Record_>((r, [key, value]) => withValue(r, key, value), was);
    const ended = await this.put(record);
    if (ended === 'arrived') {
      this.history.step(was);
      const gone = sent.filter(([key, value]) => this.entered[key] === value).map(([key]) => key);
      this.entered = without(this.entered, gone);
      // What was said of fields that stand as they are kept no longer holds.
      this.faults = Object.fromEntries(Object.entries(this.faults).filter(([key]) => key in this.entered));
    }
    // What was refused stays in its field; the rest goes out again without it.
    const refused = ended === 'stopped' && sent.some(([key]) => this.faults[key]);
    if (Object.keys(this.entered).length) this.drafts.keep(this.entered);
    else this.drafts.forget();
    return refused ? 'arrived' : ended;
  }

  private async put(record: Record_): Promise<SaveResult> {
    const { data, error, response } = await api.PUT('/api/parts/{id}', {
      params: { path: { id: this.id } },
      body: { record },
    });
    if (data) {
      this.part = data;
      this.message = '';
      this.altered();
      return 'arrived';
    }
    if (response.status >= 500) return 'unreachable';
    const refusal = faultsOf(error);
    const shown = this.fields(this.part!);
    const elsewhere = refusal.faults?.filter((f) => !shown.includes(f.field)).map((f) => f.reason);
    this.faults = {
      ...this.faults,
      ...Object.fromEntries(refusal.faults?.map((f) => [f.field, f.reason]) ?? []),
    };
    this.message = elsewhere ? elsewhere.join(' ') : refusal.message;
    return 'stopped';
  }
}

function without<T>(from: Record<string, T>, keys: string[]): Record<string, T> {
  return Object.fromEntries(Object.entries(from).filter(([key]) => !keys.includes(key)));
}
