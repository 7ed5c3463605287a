import { api, faultsOf, sendParting, type BuildFile, type BuildOut } from '$lib/api/client';
import { differences, valueAt, withValue } from '$lib/paths';
import { notices } from '$lib/ui/notices.svelte';

/** Where the build stands towards the server. */
export type Saving = 'saved' | 'saving' | 'unsent' | 'offline' | 'conflict' | 'refused' | 'signed out';

const PAUSE_BEFORE_SAVING = 500;
const RETRY = 3000;
export const REMEMBERED_STEPS = 200;

interface Draft {
  revision: number;
  document: BuildFile;
  /** What was on its way when the page was left, should it have arrived unanswered. */
  sent?: BuildFile | null;
}

/** One build being worked on: its file, its history, and its way to the server. What it is looked at with is a room's own. */
export abstract class Workpiece {
  file = $state.raw<BuildFile>()!;
  saving = $state<Saving>('saved');
  /** Reasons by field, from the server's last look. */
  faults = $state.raw<Record<string, string>>({});
  message = $state('');
  /** The last look did not reach the server. */
  lookFailed = $state(false);
  theirs = $state.raw<BuildOut | null>(null);
  protected undone = $state.raw<BuildFile[]>([]);
  protected done = $state.raw<BuildFile[]>([]);
  private revision: number;
  private saved: BuildFile;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private inFlight: BuildFile | null = null;
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
  }

  /** Asks the server for what the room shows of the file as it is now; called after every change. */
  protected abstract look(): Promise<void>;

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

  /** Takes a part off the board; one that was bought is left over. */
  async takeOff(path: string): Promise<boolean> {
    return this.takeParts(withValue(this.file, path, null).parts ?? {});
  }

  protected async takeParts(
    parts: NonNullable<BuildFile['parts']>,
    settings = this.file.settings,
  ): Promise<boolean> {
    const before = this.file;
    const { data } = await api
      .POST('/api/other-parts', { body: { document: before, parts } })
      .catch(() => ({ data: undefined }));
    if (!data || this.file !== before) return false;
    this.put({ ...data, settings });
    return true;
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
    notices.forget(this);
    if (this.unsent && this.saving !== 'conflict') void this.save();
    this.closed = true;
  }

  /** Tries again at once, as when the connection is back. */
  retry(): void {
    if (this.unsent && this.saving !== 'conflict') this.saveSoon(0);
    if (this.lookFailed) void this.look();
  }

  /** Another file as one step. */
  put(file: BuildFile): void {
    this.done = [...this.done.slice(-REMEMBERED_STEPS), this.file];
    this.undone = [];
    this.show(file);
  }

  protected show(file: BuildFile): void {
    this.file = file;
    if (this.saving !== 'conflict') this.saving = this.saving === 'offline' ? 'offline' : 'unsent';
    this.keepDraft();
    void this.look();
    this.saveSoon(PAUSE_BEFORE_SAVING);
  }

  /** True once nothing is on its way any more; false where it cannot get there. */
  async settled(): Promise<boolean> {
    for (let i = 0; i < 100 && this.unsent; i++) {
      if (['offline', 'conflict', 'refused', 'signed out'].includes(this.saving)) return false;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    return !this.unsent;
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
