import { flushSync } from 'svelte';
import { afterEach, expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import { withValue } from '$lib/paths';
import { CellsPage, type Cell, type CellsReport } from './cells.svelte';

let stop: () => void = () => undefined;
afterEach(() => stop());

/** A bag on a board of its own; no server answers. */
function bagOf(cells: Cell[]) {
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('offline')));
  let file = $state.raw({ pack_assembly: { cells } });
  const put = (values: Record<string, unknown>) => {
    for (const [path, value] of Object.entries(values)) file = withValue(file, path, value);
  };
  const build = {
    id: 'one',
    get file() {
      return file;
    },
    change: put,
    changeAndSay: put,
  } as unknown as OpenBuild;
  let page!: CellsPage;
  stop = $effect.root(() => {
    page = new CellsPage(build);
  });
  flushSync();
  return page;
}

const FOUR: Cell[] = [
  { id: 'a', capacity_ah: 2.4, group: 1 },
  { id: 'b', capacity_ah: 2.3, group: 1, locked: true },
  { id: 'c', capacity_ah: 2.5, group: 2 },
  { id: 'd', capacity_ah: 2.1 },
];
const groups = (page: CellsPage) => page.cells.map((c) => c.group ?? null);

test('a second cell of another group is what the first would change places with', () => {
  const page = bagOf(FOUR);
  page.pick('a');
  page.pick('b');
  expect([page.picked, page.other]).toEqual(['b', null]);
  page.pick('c');
  expect([page.picked, page.other]).toEqual(['b', 'c']);
  page.swap();
  expect(groups(page)).toEqual([1, 2, 1, null]);
  expect(page.cell('b')?.locked).toBeUndefined();
  expect([page.picked, page.other]).toEqual([null, null]);
});

test('a spare one goes into the pack and the other lies spare', () => {
  const page = bagOf(FOUR);
  page.pick('d');
  page.pick('c');
  page.swap();
  expect(groups(page)).toEqual([1, 1, null, 2]);
});

test('sorting lays every cell where the core says and the rest aside', () => {
  const page = bagOf(FOUR);
  page.asked.take({ groups: [], rejected: [], spare: [], sorted: { a: 2, d: 1 } } as unknown as CellsReport);
  page.sort();
  expect(groups(page)).toEqual([2, null, null, 1]);
  expect(page.cell('a')?.capacity_ah).toBe(2.4);
});

test('a figure that is taken back is gone, and nothing else of the cell', () => {
  const page = bagOf(FOUR);
  page.alter('a', { capacity_ah: null, rested_v: 4.17 });
  expect(page.cells[0]).toEqual({ id: 'a', group: 1, rested_v: 4.17 });
  page.remove('a');
  expect(page.cells.map((c) => c.id)).toEqual(['b', 'c', 'd']);
});
