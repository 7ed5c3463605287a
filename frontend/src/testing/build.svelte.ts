import { flushSync } from 'svelte';
import type { BuildFile, BuildOut } from '$lib/api/client';
import { OpenBuild } from '$lib/build/build.svelte';
import { running } from './running';

const DOCUMENT = {
  format: 'sand-pocket/build',
  version: 2,
  name: 'Sea wall',
  rider: { mass_kg: 75 },
  brief: { range_km: 14, top_speed_kmh: 25 },
  parts: { drive: { motor_teeth: 15, wheel_teeth: 42 }, controller: { units: 1 } },
  settings: {},
};
let made = 0;

/** A board that is open on a page, with some sections of its file replaced. Nothing of it is saved unless a test lets it. */
export function openBuild(sections: Record<string, unknown> = {}): OpenBuild {
  const document = { ...DOCUMENT, ...sections } as unknown as BuildFile;
  const row = { id: `board-${++made}`, revision: 1, updated_at: '2026-05-01T10:00:00Z', document };
  return new OpenBuild(row.id, row as BuildOut);
}

/** Runs `make` as a component would, so that the effects of what it makes live until `stop` or the end of the test. */
export function inComponent<T>(make: () => T): { made: T; stop: () => void } {
  let result!: T;
  const end = $effect.root(() => {
    result = make();
  });
  const stop = () => {
    if (running.delete(stop)) end();
  };
  running.add(stop);
  flushSync();
  return { made: result, stop };
}
