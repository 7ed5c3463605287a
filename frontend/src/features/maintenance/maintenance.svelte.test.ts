import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { json, server } from '../../testing/server';
import { MaintenancePage } from './maintenance.svelte';

let stop = () => {};
function opened(maintenance?: object): { page: MaintenancePage; build: OpenBuild } {
  const build = openBuild({ maintenance });
  server.on('POST /api/builds/{id}/maintenance', () => ({ tasks: [], seasons: [] }));
  const component = inComponent(() => new MaintenancePage(build));
  stop = component.stop;
  return { page: component.made, build };
}

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  stop();
  vi.useRealTimers();
});

test('a task that was done is handed to the core, and the build is what the core makes of it', async () => {
  const { page, build } = opened({ done: [], spares: [{ id: 's', name: 'Belt', count: 2 }] });
  server.on('POST /api/builds/{id}/maintenance/done', ({ body }) => ({
    ...body.document,
    maintenance: {
      ...body.document.maintenance,
      done: [body.done],
      spares: [{ id: 's', name: 'Belt', count: 1 }],
    },
  }));
  expect(await page.seenTo({ task: 'belts', on: '2026-05-02', km: 120 } as never)).toBe(true);
  expect(page.kept.done).toMatchObject([{ task: 'belts', km: 120 }]);
  expect(page.kept.done![0]!.id).toMatch(/^[0-9a-f-]{36}$/);
  expect(page.kept.spares![0]!.count).toBe(1);
  build.undo();
  expect(page.kept.spares![0]!.count).toBe(2);
});

test('a refusal names the field, and nothing of the build is changed', async () => {
  const { page, build } = opened();
  const before = build.file;
  const faults = [{ field: 'on', reason: 'is after today' }];
  server.on('POST /api/builds/{id}/maintenance/done', () => json(422, { message: 'Not kept.', faults }));
  expect(await page.seenTo({ task: 'belts', on: '2099-01-01' } as never)).toBe(false);
  expect([page.refused, page.faults]).toEqual(['Not kept. is after today', { on: 'is after today' }]);
  expect(build.file).toBe(before);
  server.offline = true;
  expect(await page.seenTo({ task: 'belts', on: '2026-05-02' } as never)).toBe(false);
  expect(page.refused).toContain('cannot be reached');
});

test('an answer to a board that was changed meanwhile is not put over the change', async () => {
  const { page, build } = opened();
  server.on('POST /api/builds/{id}/maintenance/done', ({ body }) => ({
    ...body.document,
    name: 'from before',
  }));
  const answer = page.seenTo({ task: 'belts', on: '2026-05-02' } as never);
  build.set('name', 'Jetty');
  expect(await answer).toBe(false);
  expect(build.name).toBe('Jetty');
});

test('an interval of one’s own is set, altered, and gone when it says nothing', () => {
  const { page } = opened();
  page.every('belts', { km: 300 });
  page.every('belts', { days: 90 });
  page.every('bearings', { never: true });
  expect(page.kept.intervals).toEqual([
    { task: 'belts', km: 300, days: 90 },
    { task: 'bearings', never: true },
  ]);
  page.every('belts', { km: null, days: null });
  expect(page.kept.intervals).toEqual([{ task: 'bearings', never: true }]);
});

test('spares are added, counted and removed by their id, also where two have one name', () => {
  const { page } = opened();
  page.addSpare('Belt', 'belts');
  page.addSpare('Belt', 'belts');
  const [first, second] = page.kept.spares!;
  page.setSpare(second!.id, { count: 3 });
  expect(page.kept.spares!.map((s) => s.count)).toEqual([1, 3]);
  page.dropSpare(first!.id);
  expect(page.kept.spares!.map((s) => s.id)).toEqual([second!.id]);
});

test('a done task is taken out of the book by its id', () => {
  const { page } = opened({
    done: [
      { id: 'a', task: 'belts' },
      { id: 'b', task: 'belts' },
    ],
  });
  page.takeBack('a');
  expect(page.kept.done!.map((d) => d.id)).toEqual(['b']);
});

test('ticking an item changes what the core said it would, and can be undone', () => {
  const { page } = opened({ seasons: [] });
  const seasons = [{ season: 'lay_up' as const, on: '2026-11-02', ticked: ['half'] }];
  page.tick({
    id: 'half',
    title: 'Half charged',
    ticked: false,
    changes: { 'maintenance.seasons': seasons },
  });
  expect(page.kept.seasons).toEqual(seasons);
  page.build.undo();
  expect(page.kept.seasons).toEqual([]);
});
