import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { ListLine } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { today } from '$lib/reader.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { server } from '../../testing/server';
import { PartsListPage } from './parts-list.svelte';

const PARTS = {
  deck: { name: 'Plank', purchase: { order: 'Tern Street', status: 'ordered' } },
  motors: { name: 'Outrunner' },
  wheels: { name: 'Soft wheels', owned: true },
};
const LINES = [
  { path: 'parts.deck', name: 'Plank', order: 'Tern Street', state: 'ordered' },
  { path: 'parts.motors', name: 'Outrunner', order: null, state: 'to_order' },
  { path: 'parts.wheels', name: 'Soft wheels', order: null, state: 'owned' },
  { path: 'left_over.0', name: 'Old motor', order: null, state: 'arrived' },
] as unknown as ListLine[];

let stop = () => {};
async function opened(
  sections: object = {},
  lines = LINES,
): Promise<{ page: PartsListPage; build: OpenBuild }> {
  const build = openBuild({
    parts: PARTS,
    orders: [{ name: 'Tern Street' }],
    left_over: [{ name: 'Old motor', purchase: { status: 'arrived' } }],
    ...sections,
  });
  server.on('POST /api/parts-list', () => ({ lines }));
  const component = inComponent(() => new PartsListPage(build));
  stop = component.stop;
  await vi.advanceTimersByTimeAsync(1000);
  return { page: component.made, build };
}
const grouped = (page: PartsListPage) =>
  Object.fromEntries(page.groups.map((g) => [g.title, g.lines.map((l) => l.name)]));
const part = (build: OpenBuild, name: keyof typeof PARTS) =>
  build.file.parts?.[name] as Record<string, unknown>;

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  stop();
  vi.useRealTimers();
});

test('lines stand under their order, without a shop, already owned, or left over', async () => {
  const { page } = await opened();
  expect(grouped(page)).toEqual({
    'Tern Street': ['Plank'],
    'No shop yet': ['Outrunner'],
    'Already owned': ['Soft wheels'],
    'Bought, and no longer on the board': ['Old motor'],
  });
});

test('a part that arrives has a day, keeps it when it turns out faulty, and loses it when it is ordered again', async () => {
  const { page, build } = await opened();
  const deck = () => LINES[0]!;
  page.stand([deck()], 'arrived');
  expect(part(build, 'deck').purchase).toMatchObject({
    status: 'arrived',
    arrived_on: today(),
    order: 'Tern Street',
  });
  page.stand([{ ...deck(), arrived_on: '2026-05-01' } as never], 'faulty');
  expect(part(build, 'deck').purchase).toMatchObject({ status: 'faulty', arrived_on: '2026-05-01' });
  page.stand([deck()], 'ordered');
  expect(part(build, 'deck').purchase).not.toHaveProperty('arrived_on');
});

test('the first part that is ordered dates its order, and a later one leaves the date', async () => {
  const { page, build } = await opened();
  page.stand([LINES[0]!], 'ordered');
  expect(build.file.orders?.[0]?.ordered_on).toBe(today());
  build.set('orders.0.ordered_on', '2026-04-02');
  page.stand([LINES[0]!], 'ordered');
  expect(build.file.orders?.[0]?.ordered_on).toBe('2026-04-02');
});

test('what lies already owned moves there at once, before the server has answered, and back', async () => {
  const { page, build } = await opened();
  server.offline = true;
  page.stand([LINES[1]!], 'owned');
  expect(grouped(page)['Already owned']).toEqual(['Outrunner', 'Soft wheels']);
  page.stand([LINES[2]!], 'to_order');
  expect(grouped(page)['No shop yet']).toEqual(['Soft wheels']);
  expect(part(build, 'wheels')).not.toHaveProperty('owned');
});

test('several lines change as one step', async () => {
  const { page, build } = await opened();
  const before = build.file;
  page.stand(LINES.slice(0, 2), 'arrived');
  build.undo();
  expect(build.file).toEqual(before);
});

test('a line under a new name makes the order, under a known one it joins it, and none leaves it', async () => {
  const { page, build } = await opened();
  page.putUnder(LINES[1]!, 'Over the water');
  page.putUnder(LINES[1]!, 'Tern Street');
  expect(build.file.orders?.map((o) => o.name)).toEqual(['Tern Street', 'Over the water']);
  expect(grouped(page)['Tern Street']).toEqual(['Plank', 'Outrunner']);
  page.putUnder(LINES[1]!, null);
  expect(grouped(page)['No shop yet']).toEqual(['Outrunner']);
});

test('an order that is renamed takes its lines along', async () => {
  const { page, build } = await opened();
  page.rename('Tern Street', 'Ulvershaw');
  expect([build.file.orders?.[0]?.name, (part(build, 'deck').purchase as { order: string }).order]).toEqual([
    'Ulvershaw',
    'Ulvershaw',
  ]);
});

test('an order that only lines name gets its terms when they are needed', async () => {
  const { page, build } = await opened({ orders: null });
  expect(page.groups[0]).toMatchObject({ title: 'Tern Street', order: -1 });
  expect(page.ensureIndex('Tern Street')).toBe(0);
  expect(page.ensureIndex('Tern Street')).toBe(0);
  expect(build.file.orders).toEqual([{ name: 'Tern Street' }]);
});

test('a line that the server calls late stays late while it is only ordered', async () => {
  const late = [{ ...LINES[0], state: 'late' }] as ListLine[];
  const { page } = await opened({}, late);
  expect(page.groups[0]!.lines[0]!.state).toBe('late');
  page.stand(late, 'arrived');
  expect(page.groups[0]!.lines[0]!.state).toBe('arrived');
});
