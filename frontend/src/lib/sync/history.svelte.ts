export const REMEMBERED_STEPS = 200;

/** The way back and forth of one thing that is being changed. What it is now is its owner's. */
export class History<T> {
  private done = $state.raw<T[]>([]);
  private undone = $state.raw<T[]>([]);

  get canUndo(): boolean {
    return this.done.length > 0;
  }

  get canRedo(): boolean {
    return this.undone.length > 0;
  }

  /** A step away from what stood there before it. */
  step(before: T): void {
    this.done = [...this.done.slice(1 - REMEMBERED_STEPS), before];
    this.undone = [];
  }

  /** What stood there before the last step. */
  undo(now: T): T | undefined {
    const before = this.done.at(-1);
    if (before === undefined) return undefined;
    this.done = this.done.slice(0, -1);
    this.undone = [...this.undone, now];
    return before;
  }

  /** What the last step that was taken back had made. */
  redo(now: T): T | undefined {
    const after = this.undone.at(-1);
    if (after === undefined) return undefined;
    this.undone = this.undone.slice(0, -1);
    this.done = [...this.done, now];
    return after;
  }

  /** Every remembered step on another ground; those that cannot stand there are forgotten. */
  rebase(onto: (step: T) => T | null): void {
    const moved = (steps: T[]) => steps.map(onto).filter((s): s is Awaited<T> => s !== null) as T[];
    this.done = moved(this.done);
    this.undone = moved(this.undone);
  }
}
