import { api, type BoardDocument, type Schemas } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { Query } from '$lib/sync/query.svelte';

export type Cell = Schemas['MeasuredCell'];
export type CellsReport = Schemas['CellsReport'];

/** The bag of the board that is open: who lies where, what is picked up, and what an exchange would cost. */
export class CellsPage {
  /** The cell that is picked up, and the one that it would change places with. */
  picked = $state<string | null>(null);
  other = $state<string | null>(null);
  readonly asked: Query<BoardDocument, CellsReport>;
  readonly tried: Query<BoardDocument | null, CellsReport | null>;

  constructor(readonly build: OpenBuild) {
    this.asked = new Query(
      () => build.board,
      (document, signal) => api.POST('/api/cells', { body: { document }, signal }),
      { cacheKey: () => `cells:${build.id}`, pause: 60 },
    );
    this.tried = new Query(
      () => this.exchanged,
      async (document, signal) =>
        document ? await api.POST('/api/cells', { body: { document }, signal }) : { data: null },
    );
  }

  get cells(): Cell[] {
    return this.build.file.pack_assembly?.cells ?? [];
  }

  get report(): CellsReport | null {
    return this.asked.answer;
  }

  cell(id: string | null): Cell | undefined {
    return this.cells.find((c) => c.id === id);
  }

  /** Picks a cell up; a second one is what it would change places with. */
  pick(id: string): void {
    if (this.picked === id) this.leave();
    else if (this.picked === null || this.cell(this.picked)?.group === this.cell(id)?.group) {
      this.picked = id;
      this.other = null;
    } else this.other = this.other === id ? null : id;
  }

  leave(): void {
    this.picked = this.other = null;
  }

  /** All cells anew, as one step. */
  put(cells: Cell[], said?: string): void {
    const values = { 'pack_assembly.cells': cells.length ? cells : null };
    if (said) this.build.changeAndSay(values, said);
    else this.build.change(values);
  }

  /** One cell with other figures; what is null is taken away. */
  alter(id: string, values: Partial<Record<keyof Cell, unknown>>): void {
    this.put(
      this.cells.map((c) => {
        if (c.id !== id) return c;
        const kept = Object.entries({ ...c, ...values }).filter(([, v]) => v !== null && v !== undefined);
        // Entries lose their types on the way; those of a cell stay those of a cell.
        return Object.fromEntries(kept) as unknown as Cell;
      }),
    );
  }

  remove(id: string): void {
    this.leave();
    this.put(
      this.cells.filter((c) => c.id !== id),
      `${id} is out of the bag.`,
    );
  }

  /** Every cell where the core would lay it. */
  sort(): void {
    const sorted = this.report?.sorted;
    if (!sorted) return;
    this.leave();
    this.put(
      this.cells.map(({ group: _, ...cell }) =>
        cell.id in sorted ? { ...cell, group: sorted[cell.id] } : cell,
      ),
      'Sorted into groups.',
    );
  }

  swap(): void {
    const { picked, other } = this;
    if (!picked || !other) return;
    this.put(this.withExchange(picked, other), `${picked} and ${other} changed places.`);
    this.leave();
  }

  private get exchanged(): BoardDocument | null {
    if (!this.picked || !this.other) return null;
    const pack_assembly = {
      ...this.build.file.pack_assembly,
      cells: this.withExchange(this.picked, this.other),
    };
    return { ...this.build.board, pack_assembly };
  }

  private withExchange(one: string, two: string): Cell[] {
    const groups = new Map([
      [one, this.cell(two)?.group],
      [two, this.cell(one)?.group],
    ]);
    return this.cells.map((cell) => {
      if (!groups.has(cell.id)) return cell;
      const { group: _, locked: __, ...rest } = cell;
      const group = groups.get(cell.id);
      return group ? { ...rest, group } : rest;
    });
  }
}
