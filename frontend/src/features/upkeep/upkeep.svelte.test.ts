import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import { today } from '$lib/reader.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { json, server } from '../../testing/server';
import { UpkeepRoom } from './upkeep.svelte';

let stop = () => {};
function opened(upkeep?: object): { room: UpkeepRoom; build: OpenBuild } {
  const build = openBuild({ upkeep });
  server.on('POST /api/builds/{id}/upkeep', () => ({ tasks: [], seasons: [] }));
  const component = inComponent(() => new UpkeepRoom(build));
  stop = component.stop;
  return { room: component.made, build };
}

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  stop();
  vi.useRealTimers();
});

test('a task that was done is handed to the core, and the build is what the core makes of it', async () => {
  const { room, build } = opened({ done: [], spares: [{ id: 's', name: 'Belt', count: 2 }] });
  server.on('POST /api/builds/{id}/upkeep/done', ({ body }) => ({
    ...body.document,
    upkeep: { ...body.document.upkeep, done: [body.done], spares: [{ id: 's', name: 'Belt', count: 1 }] },
  }));
  expect(await room.seenTo({ task: 'belts', on: '2026-05-02', km: 120 } as never)).toBe(true);
  expect(room.kept.done).toMatchObject([{ task: 'belts', km: 120 }]);
  expect(room.kept.done![0]!.id).toMatch(/^[0-9a-f-]{36}$/);
  expect(room.kept.spares![0]!.count).toBe(1);
  build.undo();
  expect(room.kept.spares![0]!.count).toBe(2);
});

test('a refusal names the field, and nothing of the build is changed', async () => {
  const { room, build } = opened();
  const before = build.file;
  const faults = [{ field: 'on', reason: 'is after today' }];
  server.on('POST /api/builds/{id}/upkeep/done', () => json(422, { message: 'Not kept.', faults }));
  expect(await room.seenTo({ task: 'belts', on: '2099-01-01' } as never)).toBe(false);
  expect([room.refused, room.faults]).toEqual(['Not kept. is after today', { on: 'is after today' }]);
  expect(build.file).toBe(before);
  server.offline = true;
  expect(await room.seenTo({ task: 'belts', on: '2026-05-02' } as never)).toBe(false);
  expect(room.refused).toContain('cannot be reached');
});

test('an answer to a board that was changed meanwhile is not put over the change', async () => {
  const { room, build } = opened();
  server.on('POST /api/builds/{id}/upkeep/done', ({ body }) => ({ ...body.document, name: 'from before' }));
  const answer = room.seenTo({ task: 'belts', on: '2026-05-02' } as never);
  build.set('name', 'Jetty');
  expect(await answer).toBe(false);
  expect(build.name).toBe('Jetty');
});

test('an interval of one’s own is set, altered, and gone when it says nothing', () => {
  const { room } = opened();
  room.every('belts', { km: 300 });
  room.every('belts', { days: 90 });
  room.every('bearings', { never: true });
  expect(room.kept.intervals).toEqual([
    { task: 'belts', km: 300, days: 90 },
    { task: 'bearings', never: true },
  ]);
  room.every('belts', { km: null, days: null });
  expect(room.kept.intervals).toEqual([{ task: 'bearings', never: true }]);
});

test('spares are added, counted and removed by their id, also where two have one name', () => {
  const { room } = opened();
  room.addSpare('Belt', 'belts');
  room.addSpare('Belt', 'belts');
  const [first, second] = room.kept.spares!;
  room.setSpare(second!.id, { count: 3 });
  expect(room.kept.spares!.map((s) => s.count)).toEqual([1, 3]);
  room.dropSpare(first!.id);
  expect(room.kept.spares!.map((s) => s.id)).toEqual([second!.id]);
});

test('a done task is taken out of the book by its id', () => {
  const { room } = opened({
    done: [
      { id: 'a', task: 'belts' },
      { id: 'b', task: 'belts' },
    ],
  });
  room.takeBack('a');
  expect(room.kept.done!.map((d) => d.id)).toEqual(['b']);
});

test('the last tick of a season closes its list, and the next tick begins another', () => {
  const { room } = opened();
  const season = { season: 'laying_up', items: [{ id: 'charge' }, { id: 'clean' }] } as never;
  room.tick(season, 'charge');
  expect(room.kept.seasons).toEqual([{ season: 'laying_up', on: today(), ticked: ['charge'] }]);
  room.tick(season, 'charge');
  expect(room.kept.seasons![0]!.ticked).toEqual([]);
  room.tick(season, 'charge');
  room.tick(season, 'clean');
  expect(room.kept.seasons).toEqual([
    { season: 'laying_up', on: today(), ticked: ['charge', 'clean'], closed: today() },
  ]);
  room.tick(season, 'clean');
  expect(room.kept.seasons).toHaveLength(2);
});
