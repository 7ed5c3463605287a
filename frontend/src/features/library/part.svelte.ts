import { api, faultsOf, type PartDetail } from '$lib/api/client';
import { valueAt, withValue } from '$lib/paths';
import { Drafts } from '$lib/sync/drafts';
import { History } from '$lib/sync/history.svelte';
import { alike } from '$lib/sync/merging';
import { SaveQueue, type SaveResult } from '$lib/sync/save-queue.svelte';

type Record_ = PartDetail['record'];
type Entries = Record<string, unknown>;

/** What waits on this device, why some of it does, and the record as it was when that was entered. */
interface Draft {
  entered: Entries;
  faults: Record<string, string>;
  before: Record_;
}

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
  private readonly drafts: Drafts<Draft>;
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
    this.keepDraft();
    void this.queue.now();
  }

  /** Takes the last alteration back, after all that was entered before it has arrived. */
  async undo(): Promise<void> {
    await this.queue.settled();
    const now = this.part!.record;
    const before = this.history.undo(now);
    if (!before) return;
    const ended = await this.put(before);
    if (ended !== 'arrived') this.history.redo(before);
    if (ended === 'changed') this.message = 'This part was changed elsewhere meanwhile. Nothing was undone.';
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
    const draft = this.drafts.read();
    if (draft?.before) {
      this.entered = draft.entered;
      this.faults = draft.faults;
      this.mark(draft.before, Object.keys(draft.entered));
    }
    if (this.waiting.length) this.queue.soon();
  }

  /** Each alteration builds on the record that the one before it left. */
  private async send(): Promise<SaveResult> {
    const sent = this.waiting;
    const was = this.part!.record;
    const record = sent.reduce<Record_>((r, [key, value]) => withValue(r, key, value), was);
    const ended = await this.put(record);
    if (ended === 'changed') {
      this.mark(was, Object.keys(this.entered));
      this.keepDraft();
      return 'arrived'; // what is not marked goes out again on top of what there is now
    }
    if (ended === 'arrived') {
      this.history.step(was);
      const gone = sent.filter(([key, value]) => this.entered[key] === value).map(([key]) => key);
      this.entered = without(this.entered, gone);
      // What was said of fields that stand as they are kept no longer holds.
      this.faults = Object.fromEntries(Object.entries(this.faults).filter(([key]) => key in this.entered));
    }
    // What was refused stays in its field; the rest goes out again without it.
    const refused = ended === 'stopped' && sent.some(([key]) => this.faults[key]);
    this.keepDraft();
    return refused ? 'arrived' : ended;
  }

  private keepDraft(): void {
    const { entered, faults, part } = this;
    if (Object.keys(entered).length) this.drafts.keep({ entered, faults, before: part!.record });
    else this.drafts.forget();
  }

  /** Which of what was entered was changed elsewhere since the record was so: it stays in its field and waits for the person. */
  private mark(before: Record_, entered: string[]): void {
    const there = entered.filter((key) => !alike(valueAt(before, key), valueAt(this.part!.record, key)));
    const both = there.filter((key) => !alike(this.entered[key], valueAt(this.part!.record, key)));
    const reason = 'This was changed elsewhere meanwhile. Enter it again to replace what is there now.';
    this.faults = { ...this.faults, ...Object.fromEntries(both.map((key) => [key, reason])) };
  }

  /** `changed`: nothing was taken, as the part was changed elsewhere since; it is here now as it is there. */
  private async put(record: Record_): Promise<SaveResult | 'changed'> {
    const before = this.part!.record;
    const { data, error, response } = await api.PUT('/api/parts/{id}', {
      params: { path: { id: this.id } },
      body: { record, before },
    });
    if (response.status === 409) {
      this.part = error as unknown as PartDetail;
      this.altered();
      return 'changed';
    }
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
