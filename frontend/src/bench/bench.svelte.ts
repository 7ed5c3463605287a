import { api, faultsOf, type BuildFile, type BuildOut, type Prediction, type View } from '$lib/api/client';
import type { Schemas } from '$lib/api/client';
import { today } from '$lib/units';
import { REMEMBERED_STEPS, Workpiece } from '$lib/workpiece.svelte';
import { differences, withValue } from '$lib/paths';

export type Measured = Schemas['Measured'];

/** One build on the bench: what it promises, how it is drawn, what is wrong with it. */
export class Bench extends Workpiece {
  /** Everything that is known of the file as it is now: promises with bands, findings, the drawing. */
  prediction = $state.raw<Prediction | null>(null);
  /** The view in which the board is drawn. */
  view = $state<View>('side');
  private held: BuildFile | null = null;
  private looking: AbortController | undefined;

  constructor(id: string, build: BuildOut) {
    super(id, build);
    void this.look();
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

  /** Takes parts and settings of a proposed build; name, rider and brief stay, and what was bought is not forgotten. */
  async lay(proposed: BuildFile): Promise<boolean> {
    return this.takeParts(proposed.parts ?? {}, proposed.settings);
  }

  /** Lets a finding stand, with the word of why; without a word it is taken up again. */
  setAside(finding: string, said: string, word: string | null): void {
    const others = (this.file.set_aside ?? []).filter((a) => a.finding !== finding);
    const day = today();
    const all = word ? [...others, { finding, word, said: said.slice(0, 1000), day }] : others;
    this.put(withValue(this.file, 'set_aside', all.length ? all : null));
  }

  /** What the build says of how a figure was measured. */
  measured(path: string): Measured | undefined {
    return (this.file.measured ?? []).find((m) => m.path === path);
  }

  /** Marks a figure as measured, with what and when; null takes the mark away, also one at the part itself. */
  mark(path: string, measured: Measured | null): void {
    const others = (this.file.measured ?? []).filter((m) => m.path !== path);
    const all = measured ? [...others, measured] : others;
    let file = withValue(this.file, 'measured', all.length ? all : null);
    const dot = path.lastIndexOf('.');
    const own = `${path.slice(0, dot)}.measured`;
    const marks = this.value(own) as string[] | undefined;
    if (!measured && marks?.includes(path.slice(dot + 1))) {
      const left = marks.filter((k) => k !== path.slice(dot + 1));
      file = withValue(file, own, left.length ? left : null);
    }
    this.put(file);
  }

  turn(view: View): void {
    this.view = view;
    void this.look();
  }

  /** Replaces whole parts, as choosing one does; null takes a part away. What was bought is left over. */
  choose(parts: Record<string, unknown>, leftOver?: unknown): void {
    let file = this.file;
    for (const [kind, record] of Object.entries(parts)) file = withValue(file, `parts.${kind}`, record);
    if (leftOver) file = withValue(file, 'left_over', leftOver);
    this.put(file);
  }

  /** Asks for the prediction of the file as it is now; an answer that a newer question overtook is dropped. */
  protected async look(): Promise<void> {
    this.looking?.abort();
    const own = (this.looking = new AbortController());
    try {
      const { data, error } = await api.POST('/api/predict', {
        body: { document: this.file, view: this.view },
        signal: own.signal,
      });
      if (own !== this.looking) return;
      this.lookFailed = false;
      if (data) {
        this.prediction = data;
        this.faults = {};
      } else {
        this.faults = Object.fromEntries(faultsOf(error).faults?.map((f) => [f.field, f.reason]) ?? []);
      }
    } catch {
      if (own === this.looking) this.lookFailed = true;
    }
  }
}
