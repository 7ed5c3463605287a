import {
  api,
  type BoardDocument,
  type Outcome,
  type Schemas,
  type ControllerSettings,
} from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { Query } from '$lib/sync/query.svelte';

export type Profile = ControllerSettings['profile'];

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

/** The controller settings of one build: what is recommended, what is wanted, and what was really set. */
export class ControllerSettingsPage {
  /** What was written down, and what is wrong with the latest of it on the board as it is now. */
  readonly recorded: Query<string, Schemas['RecordOut']>;
  readonly asked: Query<
    { document: BoardDocument; board: string; profile: Profile | null },
    ControllerSettings
  >;
  /** The profile that is recommended for, before anything of it is taken. */
  private meant = $state<Profile | null>(null);

  constructor(readonly build: OpenBuild) {
    this.asked = new Query(
      () => ({ document: build.board, board: build.id, profile: this.meant }),
      (body, signal) => api.POST('/api/controller-settings', { body, signal }),
      { cacheKey: () => `controller-settings:${build.id}` },
    );
    this.recorded = new Query(
      () => build.id,
      (id, signal) => api.GET('/api/builds/{id}/controller-settings', { params: { path: { id } }, signal }),
      { cacheKey: () => `settings-records:${build.id}` },
    );
  }

  get recommended(): ControllerSettings | null {
    return this.asked.answer;
  }

  get outcomes(): Outcome[] {
    return this.recommended?.outcomes ?? [];
  }

  get faults(): Record<string, string> {
    return this.asked.faults;
  }

  get record(): Schemas['RecordOut'] | null {
    return this.recorded.answer;
  }

  /** The values are those of the profile that is checked; until then none of them is taken. */
  get fresh(): boolean {
    return this.profile === this.recommended?.profile;
  }

  /** The profile that is checked; stands at once when it is chosen. */
  get profile(): Profile | undefined {
    return this.meant ?? this.recommended?.profile;
  }

  /** Recommends for a profile, before anything of it is taken. */
  aim(profile: Profile): void {
    this.meant = profile;
  }

  /** How many controllers the board has. */
  get controllers(): number {
    return this.build.file.parts?.controller?.units ?? 1;
  }

  /** What is wanted otherwise of the second and every further controller. */
  get apart(): Record<string, unknown>[] {
    const kept = (this.build.file.settings_apart ?? []) as Record<string, unknown>[];
    return Array.from({ length: this.controllers - 1 }, (_, i) => kept[i] ?? {});
  }

  /** What is wanted otherwise of a further controller; undefined wants the first one's value. */
  setApart(unit: number, key: string, value: unknown): void {
    this.build.change({ settings_apart: otherwise(this.apart, unit, key, value) });
  }

  /** Wants what a file says, of each controller. */
  want(values: Schemas['ReadValue'][]): void {
    let apart = this.apart;
    for (const v of values.filter((v) => v.controller > 1))
      apart = otherwise(apart, v.controller - 2, v.key, v.value ?? undefined);
    const first = values.filter((v) => v.controller === 1);
    this.build.change({
      ...Object.fromEntries(first.map((v) => [`settings.${v.key}`, v.value ?? null])),
      settings_apart: apart,
    });
  }

  /** Takes recommended values, all of them or one. */
  take(fields: string[]): void {
    const lines = (this.recommended?.lines ?? []).filter((l) => fields.includes(l.field));
    const changes: Record<string, unknown> = Object.fromEntries(
      lines.map((l) => [`settings.${l.field}`, l.value]),
    );
    if (this.controllers > 1) {
      let apart = this.apart;
      for (const l of lines)
        apart.forEach((_, i) => (apart = otherwise(apart, i, l.field, l.further?.[i] ?? undefined)));
      changes['settings_apart'] = apart;
    }
    if (this.recommended && lines.length === this.recommended.lines.length) {
      changes['settings.profile'] = this.recommended.profile;
      for (const field of this.recommended.clears) changes[`settings.${field}`] = null;
    }
    this.build.change(changes);
  }

  /** Fetches what was written down. */
  reload(): Promise<void> {
    return this.recorded.again();
  }
}
