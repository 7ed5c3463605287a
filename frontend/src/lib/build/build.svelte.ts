import { getContext, setContext } from 'svelte';
import {
  api,
  asItIs,
  conflictOf,
  faultsOf,
  sendParting,
  type BoardDocument,
  type BuildFile,
  type BuildOut,
} from '$lib/api/client';
import { HISTORY_FIELDS, NEW_BUILD, type FigurePath } from '$lib/api/tables.gen';
import { differences, valueAt, withValue } from '$lib/paths';
import { Drafts } from '$lib/sync/drafts';
import { History } from '$lib/sync/history.svelte';
import { applied, changesBetween, merged, undone, type Change } from '$lib/sync/merging';
import { noteOpened, readCache, writeCache } from '$lib/sync/device-cache';
import { SaveQueue, type SaveResult } from '$lib/sync/save-queue.svelte';
import { notices } from '$lib/ui/notices.svelte';

type Within<K extends 'parts' | 'pack_assembly'> = `${K}.${keyof NonNullable<BuildFile[K]> & string}`;

/** A path into the build file: one that is written out has to be there; one that is put together is the core's word. */
type Path<P extends string> =
  Record<never, never> extends Record<P, 1>
    ? P
    : P extends FigurePath | keyof BuildFile | Within<'parts'> | Within<'pack_assembly'>
      ? P
      : never;

/** Values by path: a path that is written out has to be there. */
type Values<V> = { [P in keyof V]: P extends Path<P & string> ? V[P] : never };

/** Where the build stands towards the server. */
export type Saving = 'saved' | 'saving' | 'offline' | 'conflict' | 'refused' | 'signed out';

/** What was entered and is not known to have arrived: the changes alone, each with what was there before. */
interface Draft {
  /** Of the build file's form. */
  version: number;
  revision: number;
  changes: Change[];
  /** What was on its way when the page was left, should it have arrived unanswered. */
  sent: Change[] | null;
}

/** A draft as it was kept before: the whole document, and what it began with. */
interface WholeDraft {
  revision: number;
  document: BuildFile;
  base?: BuildFile;
  sent?: BuildFile | null;
}

/** Histories of the builds that were open since this page was loaded, with the file in which each was left. */
const histories = new Map<string, { history: History<BuildFile>; file: BuildFile }>();

/** One build being worked on: its file, its history, and its way to the server. Every page of the board works on the same one. */
export class OpenBuild {
  file = $state.raw<BuildFile>()!;
  /** Why the server did not take the file. */
  message = $state('');
  /** What stands at the server, when both sides changed one thing. */
  theirs = $state.raw<BuildOut | null>(null);
  /** The revision that the server has. */
  revision = $state(0);
  updatedAt = $state('');
  readonly history: History<BuildFile>;
  private saved = $state.raw<BuildFile>()!;
  private held: BuildFile | null = null;
  private inFlight: BuildFile | null = null;
  private halted = $state<'refused' | 'signed out' | null>(null);
  private readonly drafts: Drafts<Draft>;
  private readonly queue = new SaveQueue(
    () => this.save(),
    () => this.unsent && !this.theirs,
  );

  constructor(
    readonly id: string,
    build: BuildOut,
  ) {
    this.drafts = new Drafts(`sand-pocket:draft:${id}`);
    this.revision = build.revision;
    this.updatedAt = build.updated_at;
    this.saved = this.file = build.document;
    this.writeCache();
    void noteOpened(id);
    const left = histories.get(id);
    this.history = left && !differences(left.file, build.document).length ? left.history : new History();
    const draft = this.drafts.read();
    const file = draft && applied(build.document, draft.changes);
    if (draft && file && differences(file, build.document).length) {
      // Changes that never reached the server are kept, and sent from the revision they began with.
      this.file = file;
      const arrived = draft.sent && !differences(applied(build.document, draft.sent), build.document).length;
      if (!arrived) {
        this.revision = draft.revision;
        // Where the server has the same revision this is the server's document.
        this.saved = undone(build.document, draft.changes);
      }
      this.queue.soon(0);
    } else this.drafts.forget();
  }

  /** The board without what happened to it: what a prediction is asked with. The same object while only the rest changes. */
  readonly board: BoardDocument = $derived.by(() => {
    const board = boardOf(this.file);
    if (!this.lastBoard || !sameFields(board, this.lastBoard)) this.lastBoard = board;
    return this.lastBoard;
  });
  private lastBoard: BoardDocument | null = null;

  get name(): string {
    return this.file.name || 'Board';
  }

  get saving(): Saving {
    if (this.theirs) return 'conflict';
    if (this.halted) return this.halted;
    if (this.queue.state === 'offline') return 'offline';
    return this.unsent ? 'saving' : 'saved';
  }

  /** How many figures wait to be sent. */
  get waiting(): number {
    return this.unsent ? differences(this.saved, this.file).length : 0;
  }

  get unsent(): boolean {
    return this.file !== this.saved;
  }

  value<P extends string>(path: Path<P>): unknown {
    return valueAt(this.file, path);
  }

  /** Sets one figure. */
  set<P extends string>(path: Path<P>, value: unknown): void {
    if (Object.is(valueAt(this.file, path) ?? null, value ?? null)) return;
    this.put(withValue(this.file, path, value));
  }

  /** Sets several figures as one step, as a fix does. */
  change<V extends Record<string, unknown>>(values: Values<V>): void {
    let file = this.file;
    for (const [path, value] of Object.entries(values)) file = withValue(file, path, value);
    this.put(file);
  }

  /** Sets several figures as one step, and offers the way back beside the word for it. */
  changeAndSay<V extends Record<string, unknown>>(values: Values<V>, said: string): void {
    this.change(values);
    notices.say(said, { label: 'Undo', run: () => this.undo() }, this);
  }

  /** Takes a part off the board; one that was bought is left over. */
  async takeOff(path: string): Promise<boolean> {
    return this.takeParts(withValue(this.file, path, null).parts ?? {});
  }

  /** Other parts on the board, and what the core makes of the file then; what was bought is left over. */
  async takeParts(
    parts: NonNullable<BuildFile['parts']>,
    settings?: BuildFile['settings'],
  ): Promise<boolean> {
    const before = this.file;
    const { data } = await api
      .POST('/api/builds/replace-parts', { body: { document: boardOf(before), parts } })
      .catch(() => ({ data: undefined }));
    if (!data || this.file !== before) return false;
    // What was set for the old parts follows the new ones, unless settings come with them.
    this.putBoard({ ...data, settings: settings ?? data.settings });
    return true;
  }

  /** Another board as one step; what happened to this one stays. */
  putBoard(board: BoardDocument): void {
    const history = HISTORY_FIELDS.filter((key) => this.file[key] != null).map((key) => [
      key,
      this.file[key],
    ]);
    this.put({ ...board, ...Object.fromEntries(history) });
  }

  /** Another file as one step. */
  put(file: BuildFile): void {
    this.history.step(this.file);
    this.show(file);
  }

  /** Follows a handle that is being dragged; all of it until `release` is one step. */
  slide(path: string, value: number): void {
    if (Object.is(valueAt(this.file, path) ?? null, value)) return;
    this.held ??= this.file;
    this.show(withValue(this.file, path, value));
  }

  release(): void {
    const before = this.held;
    this.held = null;
    // Dragged back to where it was: nothing to undo.
    if (before && differences(before, this.file).length) this.history.step(before);
  }

  undo(): void {
    const before = this.history.undo(this.file);
    if (before) this.show(before);
  }

  redo(): void {
    const after = this.history.redo(this.file);
    if (after) this.show(after);
  }

  /** What the server made of the build by itself, as going back to an earlier point does: one step here. */
  follow(build: BuildOut): void {
    this.history.step(this.file);
    this.stand(build);
  }

  /** Ends the conflict: mine over theirs, theirs instead of mine, or both with mine as a copy. */
  async settle(choice: 'mine' | 'theirs' | 'both'): Promise<string | null> {
    const theirs = this.theirs;
    if (!theirs) return null;
    let copy: string | null = null;
    if (choice === 'both') {
      const name = `${this.name}, my copy`.slice(0, 120);
      const answer = await api
        .POST(
          '/api/builds/import',
          asItIs(new Blob([JSON.stringify({ ...this.file, name })]), 'application/json'),
        )
        .catch(() => null);
      if (!answer?.data) return null;
      copy = answer.data.id;
    }
    this.theirs = null;
    if (choice === 'mine') {
      this.revision = theirs.revision;
      this.saved = theirs.document;
      await this.queue.now();
    } else this.follow(theirs);
    return copy;
  }

  /** Called when the page is left: what is unsent goes out with it and stays here until it is known to have arrived. */
  leave(): void {
    if (this.unsent && !this.theirs) sendParting(this.id, { revision: this.revision, document: this.file });
  }

  /** Called when the board is left for another page. */
  close(): void {
    notices.forget(this);
    histories.set(this.id, { history: this.history, file: this.file });
    this.queue.close();
  }

  /** Tries again at once, as when the connection is back. */
  retry(): void {
    this.halted = null;
    this.queue.retry();
  }

  /** True once nothing is on its way any more; false where it cannot get there. */
  settled(): Promise<boolean> {
    return this.queue.settled();
  }

  private show(file: BuildFile): void {
    this.file = file;
    this.halted = null;
    this.keepDraft();
    this.queue.soon();
  }

  /** The server's build stands here now, and nothing is unsent. */
  private stand(build: BuildOut): void {
    this.revision = build.revision;
    this.updatedAt = build.updated_at;
    this.saved = this.file = build.document;
    this.writeCache();
    this.drafts.forget();
  }

  private async save(): Promise<SaveResult> {
    const sent = this.file;
    this.inFlight = sent;
    this.keepDraft();
    try {
      const { data, error, response } = await api.PUT('/api/builds/{id}', {
        params: { path: { id: this.id } },
        body: { revision: this.revision, document: sent },
      });
      if (data) {
        this.revision = data.revision;
        this.updatedAt = data.updated_at;
        this.saved = sent;
        this.writeCache();
        if (this.file === sent) this.drafts.forget();
        else this.keepDraft();
        return 'arrived';
      }
      if (response.status === 409) return this.meet(conflictOf<BuildOut>(error));
      if (response.status >= 500) return 'unreachable';
      this.halted = response.status === 401 ? 'signed out' : 'refused';
      this.message = faultsOf(error).message;
      return 'stopped';
    } finally {
      this.inFlight = null;
    }
  }

  /** Somebody saved meanwhile: what touches other things goes together, the rest is for the person to settle. */
  private meet(theirs: BuildOut): SaveResult {
    const base = this.saved;
    const both = merged(base, this.file, theirs.document);
    if (!both) {
      this.theirs = theirs;
      return 'stopped';
    }
    this.history.rebase((step) => merged(base, step, theirs.document)?.file ?? null);
    this.revision = theirs.revision;
    this.saved = theirs.document;
    this.file = both.file;
    this.keepDraft();
    if (both.taken.length)
      notices.say('This board was changed elsewhere too; both changes stand now.', undefined, this);
    return 'arrived';
  }

  /** For when the server cannot be reached the next time. */
  private writeCache(): void {
    void writeCache(`build:${this.id}`, {
      id: this.id,
      revision: this.revision,
      updated_at: this.updatedAt,
      document: this.saved,
    } satisfies BuildOut);
  }

  private keepDraft(): void {
    this.drafts.keep({
      version: this.file.version,
      revision: this.revision,
      changes: changesBetween(this.saved, this.file),
      sent: this.inFlight && changesBetween(this.saved, this.inFlight),
    });
  }
}

/** Why a build cannot be shown; empty while it may still come. */
export type Trouble = '' | 'missing' | 'unreachable' | 'unreadable';

/** One build of the person's, as it is or as this device last saw it, or why it cannot be had. */
export async function getBuild(id: string): Promise<{ build?: BuildOut; trouble: Trouble }> {
  const answer = await api.GET('/api/builds/{id}', { params: { path: { id } } }).catch(() => null);
  if (answer?.data) {
    const ready = await upgradeDraft(id, answer.data).catch(() => false);
    return ready ? { build: answer.data, trouble: '' } : { trouble: 'unreachable' };
  }
  // A fault at "id" means that the address has no board's id; at other fields, that the stored board does not validate.
  if (answer?.response.status === 422 && faultsOf(answer.error).faults.every((f) => f.field !== 'id'))
    return { trouble: 'unreadable' };
  if (answer && answer.response.status < 500) return { trouble: 'missing' };
  const build = await readCache<BuildOut>(`build:${id}`);
  return build ? { build, trouble: '' } : { trouble: 'unreachable' };
}

/** Brings a draft of an earlier form to the form and the names of today; false where it could not. */
async function upgradeDraft(id: string, build: BuildOut): Promise<boolean> {
  const drafts = new Drafts<Draft | WholeDraft>(`sand-pocket:draft:${id}`);
  const draft = drafts.read();
  if (!draft || !('document' in draft)) return true;
  const today = async (document: BuildFile) => {
    if (document.version === build.document.version) return document;
    const { data, response } = await api.POST('/api/builds/upgrade', { body: { document } });
    if (!data && response.status >= 500) throw new Error('the server is away');
    // What the server refuses stays as it is: the first save says which field and why.
    return data ?? document;
  };
  const document = await today(draft.document);
  const sent = draft.sent && (await today(draft.sent));
  // Where nobody knows what the changes began with, everything in it counts as changed: the person settles it.
  const base = draft.base
    ? await today(draft.base)
    : draft.revision === build.revision
      ? build.document
      : ({} as Partial<BuildFile>);
  drafts.keep({
    version: NEW_BUILD.version,
    revision: draft.revision,
    changes: changesBetween(base, document),
    sent: sent ? changesBetween(base, sent) : null,
  });
  return true;
}

/** A build file without what happened to the board. */
function boardOf(file: BuildFile): BoardDocument {
  const board: Partial<BuildFile> = { ...file };
  for (const key of HISTORY_FIELDS) delete board[key];
  return board as BoardDocument;
}

function sameFields(one: object, other: object): boolean {
  const keys = new Set([...Object.keys(one), ...Object.keys(other)]) as Set<never>;
  return [...keys].every((key) => one[key] === other[key]);
}

const KEY = Symbol('the board that is open');

/** Makes a build the one that the rooms below work on. */
export function setBuildContext(build: OpenBuild): void {
  setContext(KEY, build);
}

/** The board that is open here. */
export function getBuildContext(): OpenBuild {
  return getContext<OpenBuild>(KEY);
}
