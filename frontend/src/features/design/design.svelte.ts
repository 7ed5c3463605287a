import { api, type BoardDocument, type Prediction, type Schemas, type View } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { withValue } from '$lib/paths';
import { today } from '$lib/reader.svelte';
import { Query } from '$lib/sync/query.svelte';

export type Measured = Schemas['Measured'];

/** A build on the design: what it will do, how it is drawn, what is wrong with it, and what is said of its figures. */
export class Design {
  /** The view in which the board is drawn. */
  view = $state<View>('side');
  /** Everything that is known of the file as it is now: outcomes with bands, findings, the drawing. */
  readonly asked: Query<{ document: BoardDocument; view: View; board: string }, Prediction>;

  constructor(readonly build: OpenBuild) {
    this.asked = new Query(
      () => ({ document: build.board, view: this.view, board: build.id }),
      (body, signal) => api.POST('/api/predict', { body, signal }),
      { cacheKey: () => `design:${build.id}` },
    );
  }

  get prediction(): Prediction | null {
    return this.asked.answer;
  }

  get faults(): Record<string, string> {
    return this.asked.faults;
  }

  /** Takes parts and settings of a proposed build; name, rider and brief stay, and what was bought is not forgotten. */
  lay(proposed: BoardDocument): Promise<boolean> {
    return this.build.takeParts(proposed.parts ?? {}, proposed.settings);
  }

  /** Accepts a finding for a reason; without one it is open again. */
  accept(finding: string, text: string, reason: string | null): void {
    const others = (this.build.file.accepted ?? []).filter((a) => a.finding !== finding);
    const day = today();
    const all = reason ? [...others, { finding, reason, text: text.slice(0, 1000), day }] : others;
    this.build.put(withValue(this.build.file, 'accepted', all.length ? all : null));
  }

  /** What the build says of how a figure was measured. */
  measured(path: string): Measured | undefined {
    return (this.build.file.measured ?? []).find((m) => m.path === path);
  }

  /** Marks a figure as measured, with what and when; null takes the mark away, also one at the part itself. */
  mark(path: string, measured: Measured | null): void {
    const others = (this.build.file.measured ?? []).filter((m) => m.path !== path);
    const all = measured ? [...others, measured] : others;
    let file = withValue(this.build.file, 'measured', all.length ? all : null);
    const dot = path.lastIndexOf('.');
    const own = `${path.slice(0, dot)}.measured`;
    const marks = this.build.value(own) as string[] | undefined;
    if (!measured && marks?.includes(path.slice(dot + 1))) {
      const left = marks.filter((k) => k !== path.slice(dot + 1));
      file = withValue(file, own, left.length ? left : null);
    }
    this.build.put(file);
  }

  /** Replaces whole parts, as choosing one does; null takes a part away. What was bought is left over, what was set follows. */
  choose(parts: Record<string, unknown>, leftOver?: unknown, settings?: unknown): void {
    let file = this.build.file;
    for (const [kind, record] of Object.entries(parts)) file = withValue(file, `parts.${kind}`, record);
    if (leftOver) file = withValue(file, 'left_over', leftOver);
    if (settings) file = withValue(file, 'settings', settings);
    this.build.put(file);
  }
}
