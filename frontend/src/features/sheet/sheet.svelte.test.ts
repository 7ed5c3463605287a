import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { server } from '../../testing/server';
import { SheetRoom } from './sheet.svelte';

const LINES = [
  { field: 'motor_current_a', value: 40, further: [35] },
  { field: 'max_erpm', value: 60_000, further: [null] },
];

let stop = () => {};
async function opened(controllers = 1): Promise<{ room: SheetRoom; build: OpenBuild }> {
  const build = openBuild({
    parts: { controller: { units: controllers } },
    settings: { motor_current_a: 20, throttle_ramp_s: 2 },
  });
  server.on('POST /api/sheet', ({ body }) => ({
    profile: body.profile ?? 'everyday',
    lines: LINES,
    clears: ['throttle_ramp_s'],
    promises: [],
  }));
  server.on('GET /api/builds/{id}/sheet', () => ({ sheets: [] }));
  const component = inComponent(() => new SheetRoom(build));
  stop = component.stop;
  await vi.advanceTimersByTimeAsync(500);
  return { room: component.made, build };
}

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  stop();
  vi.useRealTimers();
});

test('another profile stands at once, and its values come with the answer', async () => {
  const { room } = await opened();
  expect([room.profile, room.fresh]).toEqual(['everyday', true]);
  room.aim('hills');
  expect([room.profile, room.fresh]).toEqual(['hills', false]);
  await vi.advanceTimersByTimeAsync(500);
  expect([room.sheet?.profile, room.fresh]).toEqual(['hills', true]);
});

test('one recommended value is taken without the others', async () => {
  const { room, build } = await opened();
  room.take(['max_erpm']);
  expect(build.file.settings).toEqual({ motor_current_a: 20, throttle_ramp_s: 2, max_erpm: 60_000 });
});

test('all of them together are the profile, and end what it does not know', async () => {
  const { room, build } = await opened();
  room.take(['motor_current_a', 'max_erpm']);
  expect(build.file.settings).toEqual({ motor_current_a: 40, max_erpm: 60_000, profile: 'everyday' });
  build.undo();
  expect(build.file.settings?.motor_current_a).toBe(20);
});

test('a second controller gets its own recommended value, and the first one’s where it needs none', async () => {
  const { room, build } = await opened(2);
  room.setApart(0, 'max_erpm', 50_000);
  room.take(['motor_current_a', 'max_erpm']);
  expect(build.file.settings_apart).toEqual([{ motor_current_a: 35 }]);
});

test('what is wanted otherwise of one controller touches no other one', async () => {
  const { room } = await opened(3);
  expect(room.apart).toEqual([{}, {}]);
  room.setApart(1, 'motor_current_a', 30);
  expect(room.apart).toEqual([{}, { motor_current_a: 30 }]);
  room.setApart(1, 'motor_current_a', undefined);
  expect(room.apart).toEqual([{}, {}]);
});

test('values from a file go to the controller that they name', async () => {
  const { room, build } = await opened(2);
  room.want([
    { controller: 1, key: 'motor_current_a', value: 45 },
    { controller: 1, key: 'throttle_ramp_s', value: null },
    { controller: 2, key: 'motor_current_a', value: 42 },
  ] as never);
  expect(build.file.settings).toEqual({ motor_current_a: 45 });
  expect(build.file.settings_apart).toEqual([{ motor_current_a: 42 }]);
});
