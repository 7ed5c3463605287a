import { FIGURES, KINDS } from '$lib/api/tables.gen';
import { STATIONS } from '../stations/stations';

const SLOTS = STATIONS.flatMap((s) => s.slots);

/** The kinds of part in the order in which builders choose them. */
export const ORDERED: string[] = [
  ...SLOTS.map((s) => s.kind),
  ...KINDS.filter((k) => !SLOTS.some((s) => s.kind === k)),
];

/** What a kind of part is called. */
export function kindName(kind: string): string {
  return SLOTS.find((s) => s.kind === kind)?.name ?? kind;
}

const before = (kind: string) =>
  kind === 'cell' ? 'parts.pack.cell' : kind === 'extra' ? 'parts.extras.*' : `parts.${kind}`;

/** Where the build file has a figure of a part, by which its name, unit and span are known. */
export function figurePath(kind: string, key: string): string {
  return `${before(kind)}.${key}`;
}

const BOUGHT = ['name', 'maker', 'price', 'currency', 'mass_g', 'source', 'notes'];
/** What is said of a part on a board, not of one in a library. */
const OF_A_BOARD = ['owned', 'measured', 'purchase', 'fills', 'count', 'units'];

/** The keys of a kind's figures: those that make it what it is, and those of buying it. */
export function figureKeys(kind: string): { figures: string[]; bought: string[] } {
  const start = `${before(kind)}.`;
  const all = Object.keys(FIGURES)
    .filter((path) => path.startsWith(start))
    .map((path) => path.slice(start.length))
    .filter((key) => !OF_A_BOARD.includes(key.split('.').at(-1)!) && !key.includes('purchase'));
  return {
    bought: BOUGHT.filter((key) => all.includes(key)),
    figures: all.filter(
      (key) => !BOUGHT.includes(key) && !/\.(name|maker|price|currency|source|notes)$/.test(key),
    ),
  };
}
