import { flushSync } from 'svelte';
import { afterEach, expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import { withValue } from '$lib/paths';
import { CellsRoom, type Cell, type CellsReport } from './cells.svelte';

let stop: () => void = () => undefined;
afterEach(() => stop());

/** A bag on a board of its own; no server answers. */
function bagOf(cells: Cell[]) {
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('offline')));
  let file = $state.raw({ packwork: { cells } });
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
  let room!: CellsRoom;
  stop = $effect.root(() => {
    room = new CellsRoom(build);
  });
  flushSync();
  return room;
}

const FOUR: Cell[] = [
  { id: 'a', capacity_ah: 2.4, group: 1 },
  { id: 'b', capacity_ah: 2.3, group: 1, locked: true },
  { id: 'c', capacity_ah: 2.5, group: 2 },
  { id: 'd', capacity_ah: 2.1 },
];
const groups = (room: CellsRoom) => room.cells.map((c) => c.group ?? null);

test('a second cell of another group is what the first would change places with', () => {
  const room = bagOf(FOUR);
  room.pick('a');
  room.pick('b');
  expect([room.picked, room.other]).toEqual(['b', null]);
  room.pick('c');
  expect([room.picked, room.other]).toEqual(['b', 'c']);
  room.swap();
  expect(groups(room)).toEqual([1, 2, 1, null]);
  expect(room.cell('b')?.locked).toBeUndefined();
  expect([room.picked, room.other]).toEqual([null, null]);
});

test('a spare one goes into the pack and the other lies spare', () => {
  const room = bagOf(FOUR);
  room.pick('d');
  room.pick('c');
  room.swap();
  expect(groups(room)).toEqual([1, 1, null, 2]);
});

test('sorting lays every cell where the core says and the rest aside', () => {
  const room = bagOf(FOUR);
  room.asked.take({ groups: [], rejected: [], spare: [], sorted: { a: 2, d: 1 } } as unknown as CellsReport);
  room.sort();
  expect(groups(room)).toEqual([2, null, null, 1]);
  expect(room.cell('a')?.capacity_ah).toBe(2.4);
});

test('a figure that is taken back is gone, and nothing else of the cell', () => {
  const room = bagOf(FOUR);
  room.alter('a', { capacity_ah: null, rested_v: 4.17 });
  expect(room.cells[0]).toEqual({ id: 'a', group: 1, rested_v: 4.17 });
  room.remove('a');
  expect(room.cells.map((c) => c.id)).toEqual(['b', 'c', 'd']);
});
