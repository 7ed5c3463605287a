import { api, asItIs, faultsOf, type Schemas } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { session } from '$lib/session.svelte';
import { Query } from '$lib/sync/query.svelte';
import { Drafts } from '$lib/sync/drafts';
import { AWAY, Job, whyNot } from '$lib/sync/job.svelte';
import { SaveQueue, type SaveResult } from '$lib/sync/save-queue.svelte';
import { entry, type Entry } from './log';
import { dropPhoto, keepPhoto, keptPhoto, prepared } from './photos';

export type StepStatus = Schemas['StepStatus'];
export type WorkOut = Schemas['WorkOut'];
export type WorkPage = 'assembly' | 'first-ride';
export type LogLine = Schemas['LogLine'];

/** What lies on this device and has not reached the server: entries, and the ids of photos whose entries have. */
interface Waiting {
  entries: Entry[];
  photos: string[];
}

/** A photo as it stands in a list: here, on its way, or at the server. */
export interface Shown {
  id: string;
  step: string | null;
  caption: string;
  at: string;
  address: string | null;
  unsent: boolean;
}

/**
 * The work at one board: its steps as the core has them, and the log that is written beside it. What is ticked stands at once and is
 * kept here until the server has it; entries are only ever added, so that two devices cannot overwrite each other.
 */
export class Work {
  /** Why something was not taken, by `step` or `step.check`; '' for what belongs to no step. */
  faults = $state.raw<Record<string, string>>({});
  /** Something that the person should know, such as a clock that is wrong. */
  notice = $state('');
  private waiting = $state.raw<Waiting>({ entries: [], photos: [] });
  /** Photos of this session as the browser shows them, by entry. */
  private shown = $state.raw<Record<string, string>>({});
  private readonly drafts: Drafts<Waiting>;
  private readonly asked: Query<string, WorkOut>;
  private readonly queue = new SaveQueue(
    () => this.send(),
    () => this.count > 0,
    0,
  );

  constructor(
    readonly build: OpenBuild,
    readonly page: WorkPage,
  ) {
    this.drafts = new Drafts(`sand-pocket:log:${build.id}`);
    this.waiting = this.drafts.read() ?? { entries: [], photos: [] };
    this.asked = new Query(
      () => `${page}:${build.revision}`,
      (_, signal) =>
        api.GET('/api/builds/{id}/assembly', {
          params: { path: { id: build.id }, query: { page } },
          signal,
        }),
      { cacheKey: () => `${page}:${build.id}` },
    );
    for (const id of this.photosWaiting) void this.show(id);
    if (this.count) this.queue.soon();
  }

  get answer(): WorkOut | null {
    return this.asked.answer;
  }

  get report(): Schemas['Report'] | undefined {
    return this.asked.answer?.report;
  }

  get loading(): Query<string, WorkOut> {
    return this.asked;
  }

  get offline(): boolean {
    return this.queue.state === 'offline' || this.asked.failed;
  }

  /** How much waits for the network. */
  get count(): number {
    return this.waiting.entries.length + this.waiting.photos.length;
  }

  /** Entries that the log does not have yet. One whose answer was lost, or is being read just now, is in both: the log's counts. */
  private get onTheWay(): Entry[] {
    const known = new Set((this.answer?.log ?? []).map((line) => line.id));
    return this.waiting.entries.filter((e) => !known.has(e.id));
  }

  /** A step with what is still on its way: ticked here is ticked, what it is worth the core says later. */
  stands(step: StepStatus): StepStatus {
    let found = step;
    for (const e of this.onTheWay.filter((e) => e.step === step.id)) {
      if (e.kind === 'done' || e.kind === 'still_right')
        found = { ...found, state: 'done', again: [], at: e.at, by: e.by };
      else if (e.kind === 'left_out') found = { ...found, state: 'left_out', word: String(e.why) };
      else if (e.kind === 'opened') found = { ...found, state: 'ready', at: undefined };
      else if (e.kind === 'measured') {
        const values = { ...found.values, ...(e.values as Record<string, number>) };
        found = { ...found, values, judged: { verdict: 'open', changes: {} } };
      }
    }
    return found;
  }

  /** Whether something of a step has not reached the server. */
  unsent(step: string): boolean {
    return this.waiting.entries.some((e) => e.step === step);
  }

  get steps(): StepStatus[] {
    return (this.report?.steps ?? []).map((s) => this.stands(s));
  }

  /** The step to do now, with what was ticked here meanwhile. */
  get next(): string | undefined {
    const steps = this.steps;
    const open = (s: StepStatus) => s.state === 'ready' || s.state === 'again';
    const told = steps.find((s) => s.id === this.report?.next);
    if (told && open(told)) return told.id;
    const done = new Set(
      steps.filter((s) => s.optional || ['done', 'left_out'].includes(s.state)).map((s) => s.id),
    );
    const free = (s: StepStatus) =>
      open(s) || (s.state === 'waits' && (s.after ?? []).every((a) => done.has(a)));
    return (steps.find((s) => free(s) && !s.optional) ?? steps.find(free))?.id;
  }

  photosOf(step: string | null): Shown[] {
    return this.photos.filter((p) => p.step === step);
  }

  /** All photos, the latest last. */
  get photos(): Shown[] {
    const there = (this.answer?.log ?? [])
      .filter((l) => l.kind === 'photographed')
      .map((l) => ({
        id: l.id,
        step: l.step ?? null,
        caption: l.text ?? '',
        at: l.at,
        address: l.photo ? `/api/assembly/photos/${l.photo}` : (this.shown[l.id] ?? null),
        unsent: !l.photo,
      }));
    const back = this.waiting.entries.filter((e) => e.kind === 'taken_back').map((e) => e.entry);
    const here = this.onTheWay
      .filter((e) => e.kind === 'photographed')
      .map((e) => ({
        id: e.id,
        step: e.step ?? null,
        caption: String(e.caption ?? ''),
        at: e.at,
        address: this.shown[e.id] ?? null,
        unsent: true,
      }));
    return [...there, ...here].filter((p) => !back.includes(p.id));
  }

  /** Remarks at a step, those on their way among them. */
  notesOf(step: string): { id: string; text: string; trouble: boolean; at: string; by: string }[] {
    const there = (this.answer?.log ?? []).filter((l) => l.kind === 'noted' && l.step === step);
    const here = this.onTheWay.filter((e) => e.kind === 'noted' && e.step === step);
    const back = this.waiting.entries.filter((e) => e.kind === 'taken_back').map((e) => e.entry);
    return [...there, ...here]
      .filter((n) => !back.includes(n.id))
      .map((n) => ({
        id: n.id,
        text: String(n.text ?? ''),
        trouble: n.trouble === true,
        at: n.at,
        by: n.by ?? '',
      }));
  }

  done(step: StepStatus, minutes?: number, otherwise?: string): void {
    this.write('done', { step: step.id, facts: step.facts, minutes, otherwise });
  }

  stillRight(step: StepStatus): void {
    this.write('still_right', { step: step.id, facts: step.facts });
  }

  leaveOut(step: string, why: string): void {
    this.write('left_out', { step, why });
  }

  open(step: string, why?: string): void {
    this.write('opened', { step, why });
  }

  note(step: string | null, text: string, trouble: boolean): void {
    this.write('noted', { step, text, trouble });
  }

  measure(step: string, check: string, value: number | null): void {
    const faults = { ...this.faults };
    delete faults[`${step}.${check}`];
    this.faults = faults;
    this.write('measured', { step, values: { [check]: value } });
  }

  move(step: string, before: string | null): void {
    this.write('moved', { step, before });
  }

  tool(tool: string, have: string | null, price: number | null): void {
    this.write('tool', { tool, have: have ?? undefined, price: price ?? undefined });
  }

  wish(step: string | null, why: string, changes: Record<string, unknown>, cost?: number): void {
    this.write('wished', { step, why, changes, cost });
  }

  rode(ride: Record<string, unknown>): void {
    this.write('rode', ride);
  }

  takeBack(id: string): void {
    // What never left is simply gone.
    if (this.waiting.entries.some((e) => e.id === id)) {
      const entries = this.waiting.entries.filter((e) => e.id !== id);
      this.keep({ entries, photos: this.waiting.photos.filter((p) => p !== id) });
      void dropPhoto(this.build.id, id);
    } else this.write('taken_back', { entry: id });
  }

  /** A photo to a step; why not, where it is none. */
  async photograph(step: string | null, file: File): Promise<string> {
    const made = await prepared(file);
    if ('reason' in made) return made.reason;
    const said = entry('photographed', session.who?.name ?? '', { step, caption: '' });
    if (!(await keepPhoto(this.build.id, said.id, made.photo)))
      return 'This device has no room for the photo. Make some, and use it again.';
    this.shown = { ...this.shown, [said.id]: URL.createObjectURL(made.photo) };
    this.keep({ entries: [...this.waiting.entries, said], photos: [...this.waiting.photos, said.id] });
    void this.queue.now();
    return '';
  }

  retry(): void {
    if (this.asked.failed || this.asked.fromCache) void this.asked.again();
    this.queue.retry();
  }

  close(): void {
    this.queue.close();
    for (const address of Object.values(this.shown)) URL.revokeObjectURL(address);
  }

  private write(kind: Entry['kind'], more: Record<string, unknown>): void {
    const said = entry(kind, session.who?.name ?? '', more);
    this.keep({ ...this.waiting, entries: [...this.waiting.entries, said] });
    void this.queue.now();
  }

  private get photosWaiting(): string[] {
    return this.waiting.photos;
  }

  private async show(id: string): Promise<void> {
    const photo = await keptPhoto(this.build.id, id);
    if (photo) this.shown = { ...this.shown, [id]: URL.createObjectURL(photo) };
  }

  /** What waits now. The rooms of the work share one draft: only what this one adds or has sent is altered in it. */
  private keep(waiting: Waiting): void {
    const stored = this.drafts.read() ?? { entries: [], photos: [] };
    const had = new Set([...this.waiting.entries.map((e) => e.id), ...this.waiting.photos]);
    const others = stored.entries.filter((e) => !had.has(e.id));
    const entries = [...others, ...waiting.entries];
    const photos = [...new Set([...stored.photos.filter((id) => !had.has(id)), ...waiting.photos])];
    this.waiting = waiting;
    if (entries.length || photos.length) this.drafts.keep({ entries, photos });
    else this.drafts.forget();
  }

  private send(): Promise<SaveResult> {
    return this.waiting.entries.length ? this.sendEntries() : this.sendPhoto(this.waiting.photos[0]!);
  }

  private async sendEntries(): Promise<SaveResult> {
    const sent = this.waiting.entries.slice(0, 200);
    const { data, error, response } = await api.POST('/api/builds/{id}/assembly', {
      params: { path: { id: this.build.id } },
      body: { entries: sent, page: this.page },
    });
    if (data) {
      const gone = new Set(sent.map((e) => e.id));
      this.keep({ ...this.waiting, entries: this.waiting.entries.filter((e) => !gone.has(e.id)) });
      this.asked.take({ ...data, refused: [], clock: [] });
      this.refusedOf(sent, data.refused ?? []);
      if (data.clock?.length)
        this.notice =
          'The clock of this device is wrong: what you ticked stands under the time at which it arrived.';
      this.feed(sent, data);
      return 'arrived';
    }
    if (response.status >= 500 || response.status === 429) return 'unreachable';
    this.notice =
      response.status === 401
        ? 'Signed out elsewhere. What you entered is kept here; sign in again and it is sent.'
        : faultsOf(error).message;
    return 'stopped';
  }

  /** What was not taken is said where it was entered; nothing of it is sent again. */
  private refusedOf(sent: Entry[], refused: Schemas['RefusedEntry'][]): void {
    for (const { id, faults } of refused) {
      const of = sent.find((e) => e.id === id);
      for (const fault of faults) {
        const where = of?.kind === 'measured' ? `${of.step}.${fault.field}` : String(of?.step ?? '');
        this.faults = { ...this.faults, [where]: fault.reason };
      }
    }
  }

  /** What was measured here just now goes into the build; whoever undoes that is not asked again. */
  private feed(sent: Entry[], data: WorkOut): void {
    const steps = new Set(sent.filter((e) => e.kind === 'measured').map((e) => e.step));
    const changes = Object.assign(
      {},
      ...data.report.steps.filter((s) => steps.has(s.id)).map((s) => s.judged.changes ?? {}),
    ) as Record<string, unknown>;
    if (Object.keys(changes).length)
      this.build.changeAndSay(changes, 'The model counts with what you measured.');
  }

  private async sendPhoto(id: string): Promise<SaveResult> {
    const photo = await keptPhoto(this.build.id, id);
    const drop = () => {
      this.keep({ ...this.waiting, photos: this.waiting.photos.filter((p) => p !== id) });
      void dropPhoto(this.build.id, id);
    };
    if (!photo) {
      this.notice = 'A photo is no longer on this device, and cannot be sent.';
      drop();
      return 'arrived';
    }
    let away = true;
    const job = new Job('photo', async () => {
      const reply = await api.POST('/api/builds/{id}/assembly/photos', {
        params: { path: { id: this.build.id }, query: { entry: id } },
        ...asItIs(photo, 'application/octet-stream'),
      });
      away = reply.response.status >= 500 || reply.response.status === 429;
      return reply;
    });
    if (await job.run()) {
      drop();
      if (!this.waiting.photos.length) await this.asked.again();
      return 'arrived';
    }
    // Without an answer nobody knows whether it was kept: it is sent again, and stands once.
    if (away || job.faults?.message === AWAY) return 'unreachable';
    this.notice = `A photo was not kept: ${whyNot(job)}`;
    drop();
    return 'arrived';
  }
}
