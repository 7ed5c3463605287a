import type { TripReport } from './trips.svelte';

const charge = (mid: number, off: number) => ({ low: mid - off, mid, high: mid + off });
const at = (hour: number, minute: number) => {
  const time = hour * 60 + minute;
  return { low: time - 4, mid: time, high: time + 4 };
};

/** A morning's trip with a charge at noon, to show what a trip looks like before there is one. */
export const EXAMPLE = {
  km: 21,
  reserve_pct: 15,
  course: {
    km: [0, 5, 10, 10.5, 16, 21],
    low: [95, 68, 40, 74, 45, 20],
    mid: [95, 72, 49, 80, 56, 33],
    high: [95, 76, 57, 86, 66, 45],
  },
  points: [
    { km: 0, charge: charge(95, 0), clock: at(9, 0), likelihood: 'likely' },
    {
      km: 10,
      charge: charge(49, 9),
      clock: at(9, 34),
      likelihood: 'likely',
      leaves_pct: charge(82, 6),
    },
    { km: 21, charge: charge(33, 12), clock: at(11, 50), likelihood: 'likely' },
  ],
  turn_back: [],
} as unknown as TripReport;
