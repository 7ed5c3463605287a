import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { ListLine } from '$lib/api/client';
import type { OpenBuild } from '$lib/build/build.svelte';
import { today } from '$lib/reader.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { server } from '../../testing/server';
import { PartsListRoom } from './partslist.svelte';

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
): Promise<{ room: PartsListRoom; build: OpenBuild }> {
  const build = openBuild({
    parts: PARTS,
    orders: [{ name: 'Tern Street' }],
    left_over: [{ name: 'Old motor', purchase: { status: 'arrived' } }],
    ...sections,
  });
  server.on('POST /api/partslist', () => ({ lines }));
  const component = inComponent(() => new PartsListRoom(build));
  stop = component.stop;
  await vi.advanceTimersByTimeAsync(1000);
  return { room: component.made, build };
}
const grouped = (room: PartsListRoom) =>
  Object.fromEntries(room.groups.map((g) => [g.title, g.lines.map((l) => l.name)]));
const part = (build: OpenBuild, name: keyof typeof PARTS) =>
  build.file.parts?.[name] as Record<string, unknown>;

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  stop();
  vi.useRealTimers();
});

test('lines stand under their order, without a shop, in the drawer, or left over', async () => {
  const { room } = await opened();
  expect(grouped(room)).toEqual({
    'Tern Street': ['Plank'],
    'No shop yet': ['Outrunner'],
    'From the drawer': ['Soft wheels'],
    'Bought, and no longer on the board': ['Old motor'],
  });
});

test('a part that arrives has a day, keeps it when it turns out faulty, and loses it when it is ordered again', async () => {
  const { room, build } = await opened();
  const deck = () => LINES[0]!;
  room.stand([deck()], 'arrived');
  expect(part(build, 'deck').purchase).toMatchObject({
    status: 'arrived',
    arrived_on: today(),
    order: 'Tern Street',
  });
  room.stand([{ ...deck(), arrived_on: '2026-05-01' } as never], 'faulty');
  expect(part(build, 'deck').purchase).toMatchObject({ status: 'faulty', arrived_on: '2026-05-01' });
  room.stand([deck()], 'ordered');
  expect(part(build, 'deck').purchase).not.toHaveProperty('arrived_on');
});

test('the first part that is ordered dates its order, and a later one leaves the date', async () => {
  const { room, build } = await opened();
  room.stand([LINES[0]!], 'ordered');
  expect(build.file.orders?.[0]?.ordered_on).toBe(today());
  build.set('orders.0.ordered_on', '2026-04-02');
  room.stand([LINES[0]!], 'ordered');
  expect(build.file.orders?.[0]?.ordered_on).toBe('2026-04-02');
});

test('what lies in the drawer moves there at once, before the server has answered, and back', async () => {
  const { room, build } = await opened();
  server.offline = true;
  room.stand([LINES[1]!], 'owned');
  expect(grouped(room)['From the drawer']).toEqual(['Outrunner', 'Soft wheels']);
  room.stand([LINES[2]!], 'to_order');
  expect(grouped(room)['No shop yet']).toEqual(['Soft wheels']);
  expect(part(build, 'wheels')).not.toHaveProperty('owned');
});

test('several lines change as one step', async () => {
  const { room, build } = await opened();
  const before = build.file;
  room.stand(LINES.slice(0, 2), 'arrived');
  build.undo();
  expect(build.file).toEqual(before);
});

test('a line under a new name makes the order, under a known one it joins it, and none leaves it', async () => {
  const { room, build } = await opened();
  room.putUnder(LINES[1]!, 'Over the water');
  room.putUnder(LINES[1]!, 'Tern Street');
  expect(build.file.orders?.map((o) => o.name)).toEqual(['Tern Street', 'Over the water']);
  expect(grouped(room)['Tern Street']).toEqual(['Plank', 'Outrunner']);
  room.putUnder(LINES[1]!, null);
  expect(grouped(room)['No shop yet']).toEqual(['Outrunner']);
});

test('an order that is renamed takes its lines along', async () => {
  const { room, build } = await opened();
  room.rename('Tern Street', 'Ulvershaw');
  expect([build.file.orders?.[0]?.name, (part(build, 'deck').purchase as { order: string }).order]).toEqual([
    'Ulvershaw',
    'Ulvershaw',
  ]);
});

test('an order that only lines name gets its terms when they are needed', async () => {
  const { room, build } = await opened({ orders: null });
  expect(room.groups[0]).toMatchObject({ title: 'Tern Street', order: -1 });
  expect(room.ensureIndex('Tern Street')).toBe(0);
  expect(room.ensureIndex('Tern Street')).toBe(0);
  expect(build.file.orders).toEqual([{ name: 'Tern Street' }]);
});

test('a line that the server calls late stays late while it is only ordered', async () => {
  const late = [{ ...LINES[0], state: 'late' }] as ListLine[];
  const { room } = await opened({}, late);
  expect(room.groups[0]!.lines[0]!.state).toBe('late');
  room.stand(late, 'arrived');
  expect(room.groups[0]!.lines[0]!.state).toBe('arrived');
});
