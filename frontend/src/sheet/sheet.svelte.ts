import { api, faultsOf, type BuildOut, type Promised, type Schemas, type Sheet } from '$lib/api/client';
import { Workpiece } from '$lib/workpiece.svelte';

export type Profile = Sheet['profile'];

const PAUSE = 120;

/** The rows with one value of one controller otherwise, or as in the first. */
function otherwise(
  rows: Record<string, unknown>[],
  unit: number,
  key: string,
  value: unknown,
): Record<string, unknown>[] {
  return rows.map((row, i) => {
    if (i !== unit) return row;
    const { [key]: _, ...rest } = row;
    return value === undefined ? rest : { ...rest, [key]: value };
  });
}

/** The controller sheet of one build: what is recommended, what is wanted, and what was really set. */
export class SheetPiece extends Workpiece {
  sheet = $state.raw<Sheet | null>(null);
  /** What the values do; follows every key, before the sheet is weighed anew. */
  promises = $state.raw<Promised[]>([]);
  /** What was written down, and what is wrong with the latest of it on the board as it is now. */
  record = $state.raw<Schemas['RecordOut'] | null>(null);
  private looking: AbortController | undefined;
  private meant: Profile | null = null;

  constructor(id: string, build: BuildOut) {
    super(id, build);
    void this.look();
    void this.recall();
  }

  /** Recommends for a profile, before anything of it is taken. */
  aim(profile: Profile): void {
    this.meant = profile;
    void this.look();
  }

  /** How many controllers the board has. */
  get controllers(): number {
    return this.file.parts?.controller?.units ?? 1;
  }

  /** What is wanted otherwise of the second and every further controller. */
  get apart(): Record<string, unknown>[] {
    const kept = (this.file.settings_apart ?? []) as Record<string, unknown>[];
    return Array.from({ length: this.controllers - 1 }, (_, i) => kept[i] ?? {});
  }

  /** What is wanted otherwise of a further controller; undefined wants the first one's value. */
  setApart(unit: number, key: string, value: unknown): void {
    this.change({ settings_apart: otherwise(this.apart, unit, key, value) });
  }

  /** Wants what a file says, of each controller. */
  want(values: Schemas['ReadValue'][]): void {
    let apart = this.apart;
    for (const v of values.filter((v) => v.controller > 1))
      apart = otherwise(apart, v.controller - 2, v.key, v.value ?? undefined);
    const first = values.filter((v) => v.controller === 1);
    this.change({
      ...Object.fromEntries(first.map((v) => [`settings.${v.key}`, v.value ?? null])),
      settings_apart: apart,
    });
  }

  /** Takes recommended values, all of them or one. */
  take(fields: string[]): void {
    const lines = (this.sheet?.lines ?? []).filter((l) => fields.includes(l.field));
    const changes: Record<string, unknown> = Object.fromEntries(
      lines.map((l) => [`settings.${l.field}`, l.value]),
    );
    if (this.controllers > 1) {
      let apart = this.apart;
      for (const l of lines)
        apart.forEach((_, i) => (apart = otherwise(apart, i, l.field, l.further?.[i] ?? undefined)));
      changes['settings_apart'] = apart;
    }
    if (this.sheet && lines.length === this.sheet.lines.length) {
      changes['settings.profile'] = this.sheet.profile;
      for (const field of this.sheet.clears) changes[`settings.${field}`] = null;
    }
    this.change(changes);
  }

  /** Fetches what was written down. */
  async recall(): Promise<void> {
    const { data } = await api
      .GET('/api/builds/{id}/sheets', { params: { path: { id: this.id } } })
      .catch(() => ({ data: undefined }));
    if (data) this.record = data;
  }

  protected async look(): Promise<void> {
    this.looking?.abort();
    const own = (this.looking = new AbortController());
    try {
      const { data, error } = await api.POST('/api/sheet', {
        body: { document: this.file, profile: this.meant },
        signal: own.signal,
      });
      if (own !== this.looking) return;
      this.lookFailed = false;
      if (data) {
        this.sheet = data;
        this.promises = data.promises;
        this.faults = {};
      } else this.faults = Object.fromEntries(faultsOf(error).faults?.map((f) => [f.field, f.reason]) ?? []);
    } catch {
      if (own === this.looking) this.lookFailed = true;
    }
  }
}
