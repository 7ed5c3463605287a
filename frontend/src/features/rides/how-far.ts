import type { Schemas } from '$lib/api/client';

export type ReadingTable = Schemas['ReadingTable'];
export type PaceLeft = Schemas['PaceLeft'];

/** What is left at a reading, between the two rows that are next to it; or what is said of a reading outside of them. */
export type Left = { charge: Schemas['Interval']; paces: PaceLeft[] } | { says: Schemas['Message'] };

const between = (low: number, high: number, part: number) => low + (high - low) * part;

export function leftAt(table: ReadingTable, volts: number): Left {
  const below = table.below.find((one) => volts < one.volts);
  if (below) return { says: below.says };
  if (volts > table.above.volts) return { says: table.above.says };
  const at = table.rows.findIndex((row) => row.volts >= volts);
  // A full pack may read a little high.
  if (at < 0) return table.rows.at(-1)!;
  const next = table.rows[at]!;
  const last = table.rows[Math.max(at - 1, 0)]!;
  const part = next.volts > last.volts ? (volts - last.volts) / (next.volts - last.volts) : 0;
  const charge = {
    low: between(last.charge.low, next.charge.low, part),
    mid: between(last.charge.mid, next.charge.mid, part),
    high: between(last.charge.high, next.charge.high, part),
  };
  const paces = next.paces.map((pace, i) => ({
    speed_kmh: pace.speed_kmh,
    km: pace.km.map((km, j) => between(last.paces[i]!.km[j]!, km, part)),
  }));
  return { charge, paces };
}

/** With which chance so many km are reached: the core's word on the first distance that is as far. */
export function chanceOf(answer: Schemas['HowFar'], pace: PaceLeft, km: number): Schemas['Chance'] {
  const column = pace.km.findIndex((reached) => reached >= km);
  return answer.chances[column] ?? answer.beyond;
}
