import {
  api,
  faultsOf,
  sendParting,
  type BuildFile,
  type BuildOut,
  type Prediction,
  type Sight,
  type View,
} from '$lib/api/client';
import { differences, valueAt, withValue } from './paths';

/** Where the build stands towards the server. */
export type Saving = 'saved' | 'saving' | 'unsent' | 'offline' | 'conflict' | 'refused' | 'signed out';

const PAUSE_BEFORE_SAVING = 500;
const PAUSE_BEFORE_THE_REST = 250;
const RETRY = 3000;
const REMEMBERED_STEPS = 200;

interface Draft {
  revision: number;
  document: BuildFile;
  /** What was on its way when the page was left, should it have arrived unanswered. */
  sent?: BuildFile | null;
}

/** One build on the bench: its file, its history, its prediction, and its way to the server. */
export class Bench {
  file = $state.raw<BuildFile>()!;
  /** The promises and the drawing of the file as it is now. */
  sight = $state.raw<Sight | null>(null);
  /** The whole prediction; it follows the promises a moment later. */
  prediction = $state.raw<Prediction | null>(null);
  saving = $state<Saving>('saved');
  /** Reasons by field, from the server's last look. */
  faults = $state.raw<Record<string, string>>({});
  message = $state('');
  predictionFailed = $state(false);
  theirs = $state.raw<BuildOut | null>(null);
  /** The view in which the board is drawn. */
  view = $state<View>('side');
  private held: BuildFile | null = null;
  private undone = $state.raw<BuildFile[]>([]);
  private done = $state.raw<BuildFile[]>([]);
  private revision: number;
  private saved: BuildFile;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private inFlight: BuildFile | null = null;
  private looking: AbortController | undefined;
  private closed = false;

  constructor(
    readonly id: string,
    build: BuildOut,
  ) {
    this.revision = build.revision;
    this.saved = this.file = build.document;
    const draft = this.draft();
    if (draft && differences(draft.document, build.document).length) {
      // Changes that never reached the server: they stand, and are sent from the revision they began with.
      this.file = draft.document;
      const arrived = draft.sent && !differences(draft.sent, build.document).length;
      if (!arrived) this.revision = draft.revision;
      this.saving = 'unsent';
      this.saveSoon(0);
    } else this.forgetDraft();
    void this.look();
  }

  get canUndo(): boolean {
    return this.done.length > 0;
  }
  get canRedo(): boolean {
    return this.undone.length > 0;
  }
  get unsent(): boolean {
    return this.file !== this.saved;
  }

  value(path: string): unknown {
    return valueAt(this.file, path);
  }

  /** Sets one figure. */
  set(path: string, value: unknown): void {
    if (Object.is(this.value(path) ?? null, value ?? null)) return;
    this.put(withValue(this.file, path, value));
  }

  /** Sets several figures as one step, as a cure does. */
  change(values: Record<string, unknown>): void {
    let file = this.file;
    for (const [path, value] of Object.entries(values)) file = withValue(file, path, value);
    this.put(file);
  }

  /** Follows a handle that is being dragged; all of it until `release` is one step. */
  slide(path: string, value: number): void {
    if (Object.is(this.value(path) ?? null, value)) return;
    this.held ??= this.file;
    this.show(withValue(this.file, path, value));
  }
  release(): void {
    const before = this.held;
    this.held = null;
    // Dragged back to where it was: nothing to undo.
    if (!before || !differences(before, this.file).length) return;
    this.done = [...this.done.slice(-REMEMBERED_STEPS), before];
    this.undone = [];
  }

  /** Takes parts and settings of a proposed build; name, rider and brief stay. */
  lay(proposed: BuildFile): void {
    this.put({ ...this.file, parts: proposed.parts, settings: proposed.settings });
  }

  /** Lets a finding stand, with the word of why; without a word it is taken up again. */
  setAside(finding: string, said: string, word: string | null): void {
    const others = (this.file.set_aside ?? []).filter((a) => a.finding !== finding);
    const day = new Date().toISOString().slice(0, 10);
    const all = word ? [...others, { finding, word, said: said.slice(0, 1000), day }] : others;
    this.put(withValue(this.file, 'set_aside', all.length ? all : null));
  }

  turn(view: View): void {
    this.view = view;
    void this.look();
  }

  /** Replaces whole parts, as choosing one does; null takes a part away. */
  choose(parts: Record<string, unknown>): void {
    let file = this.file;
    for (const [kind, record] of Object.entries(parts)) file = withValue(file, `parts.${kind}`, record);
    this.put(file);
  }

  undo(): void {
    const before = this.done.at(-1);
    if (!before) return;
    this.done = this.done.slice(0, -1);
    this.undone = [...this.undone, this.file];
    this.show(before);
  }

  redo(): void {
    const after = this.undone.at(-1);
    if (!after) return;
    this.undone = this.undone.slice(0, -1);
    this.done = [...this.done, this.file];
    this.show(after);
  }

  /** Ends the conflict: mine over theirs, theirs instead of mine, or both with mine as a copy. */
  async settle(choice: 'mine' | 'theirs' | 'both'): Promise<string | null> {
    const theirs = this.theirs;
    if (!theirs) return null;
    let copy: string | null = null;
    if (choice === 'both') {
      const name = `${this.file.name ?? 'Board'}, my copy`.slice(0, 120);
      const answer = await api
        .POST('/api/builds/import', { body: { ...this.file, name } as never })
        .catch(() => null);
      if (!answer?.data) return null;
      copy = answer.data.id;
    }
    this.revision = theirs.revision;
    this.theirs = null;
    if (choice === 'mine') {
      this.saving = 'unsent';
      await this.save();
    } else {
      this.done = [...this.done, this.file];
      this.saved = this.file = theirs.document;
      this.saving = 'saved';
      this.forgetDraft();
      void this.look();
    }
    return copy;
  }

  /** Called when the page is left: what is unsent goes out with it and stays here until it is known to have arrived. */
  leave(): void {
    if (this.unsent && this.saving !== 'conflict')
      sendParting(this.id, { revision: this.revision, document: this.file });
  }

  /** Called when the bench is taken down. */
  close(): void {
    clearTimeout(this.timer);
    if (this.unsent && this.saving !== 'conflict') void this.save();
    this.closed = true;
  }

  /** Tries again at once, as when the connection is back. */
  retry(): void {
    if (this.unsent && this.saving !== 'conflict') this.saveSoon(0);
    if (this.predictionFailed) void this.look();
  }

  private put(file: BuildFile): void {
    this.done = [...this.done.slice(-REMEMBERED_STEPS), this.file];
    this.undone = [];
    this.show(file);
  }

  private show(file: BuildFile): void {
    this.file = file;
    if (this.saving !== 'conflict') this.saving = this.saving === 'offline' ? 'offline' : 'unsent';
    this.keepDraft();
    void this.look();
    this.saveSoon(PAUSE_BEFORE_SAVING);
  }

  private saveSoon(pause: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), pause);
  }

  private async save(): Promise<void> {
    if (this.inFlight || this.saving === 'conflict' || this.closed) return;
    const sent = this.file;
    this.inFlight = sent;
    this.keepDraft();
    if (this.saving !== 'offline') this.saving = 'saving';
    try {
      const { data, error, response } = await api.PUT('/api/builds/{id}', {
        params: { path: { id: this.id } },
        body: { revision: this.revision, document: sent },
      });
      if (data) {
        this.revision = data.revision;
        this.saved = sent;
        this.saving = this.file === sent ? 'saved' : 'unsent';
        if (this.file === sent) this.forgetDraft();
        else this.keepDraft();
      } else if (response.status === 409) {
        this.theirs = error as unknown as BuildOut;
        this.saving = 'conflict';
      } else if (response.status === 401) this.saving = 'signed out';
      else if (response.status >= 500) this.failed();
      else {
        this.saving = 'refused';
        this.message = faultsOf(error).message;
      }
    } catch {
      this.failed();
    } finally {
      this.inFlight = null;
    }
    if (this.saving === 'unsent') this.saveSoon(PAUSE_BEFORE_SAVING);
  }

  private failed(): void {
    this.saving = 'offline';
    this.saveSoon(RETRY);
  }

  /** Asks for the prediction of the file as it is now; an answer that a newer question overtook is dropped. */
  private async look(): Promise<void> {
    this.looking?.abort();
    const own = (this.looking = new AbortController());
    try {
      const ask = { body: { document: this.file }, signal: own.signal };
      const { data, error } = await api.POST('/api/glance', {
        ...ask,
        body: { ...ask.body, view: this.view },
      });
      if (own !== this.looking) return;
      this.predictionFailed = false;
      if (data) {
        this.sight = data;
        this.faults = {};
        // The rest can wait for a pause of the hands, so that it never stands in the way of the next key.
        if (this.prediction) await new Promise((resolve) => setTimeout(resolve, PAUSE_BEFORE_THE_REST));
        if (own !== this.looking) return;
        const whole = await api.POST('/api/predict', ask);
        if (own === this.looking && whole.data) this.prediction = whole.data;
      } else {
        this.faults = Object.fromEntries(faultsOf(error).faults?.map((f) => [f.field, f.reason]) ?? []);
      }
    } catch {
      if (own === this.looking) this.predictionFailed = true;
    }
  }

  private get draftKey(): string {
    return `sand-pocket:draft:${this.id}`;
  }

  private draft(): Draft | null {
    try {
      return JSON.parse(localStorage.getItem(this.draftKey) ?? 'null') as Draft | null;
    } catch {
      return null;
    }
  }

  private keepDraft(): void {
    try {
      const draft: Draft = { revision: this.revision, document: this.file, sent: this.inFlight };
      localStorage.setItem(this.draftKey, JSON.stringify(draft));
    } catch {
      // A full or forbidden store: the build is still here in memory and on its way to the server.
    }
  }

  private forgetDraft(): void {
    localStorage.removeItem(this.draftKey);
  }
}
