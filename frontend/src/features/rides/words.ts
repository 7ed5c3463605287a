import type { Schemas } from '$lib/api/client';
import { reader } from '$lib/reader.svelte';
import { written } from '$lib/units';

type Run = NonNullable<Schemas['Ride']['runs']>[number];

/** A run in a line. */
export function runText(run: Run): string {
  const say = (v: number | null | undefined, q: string) => (v == null ? '–' : written(v, q, reader.units));
  switch (run.kind) {
    case 'speed': {
      const mean = run.kmh.reduce((a, b) => a + b, 0) / run.kmh.length;
      return run.kmh.length > 1
        ? `flat out both ways, ${run.kmh.map((v) => say(v, 'speed')).join(' and ')}, mean ${say(mean, 'speed')}`
        : `flat out one way, ${say(mean, 'speed')}`;
    }
    case 'hill':
      return `a hill of ${say(run.grade_pct, 'grade')} over ${say(run.length_m, 'way')}, ${say(run.foot_kmh, 'speed')} at the foot, ${say(run.top_kmh, 'speed')} at the top`;
    case 'coast':
      return `rolled out from ${say(run.from_kmh, 'speed')} to ${say(run.to_kmh, 'speed')} in ${say(run.metres, 'way')}`;
    case 'unloaded':
      return `wheels in the air, ${say(run.kmh, 'speed')}`;
    case 'charge':
      return `charged ${say(run.wh, 'energy')} ${run.at === 'pack' ? 'into the pack' : 'at the wall'}`;
  }
}
