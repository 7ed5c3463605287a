import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { server } from '../../testing/server';
import { ControllerSettingsPage } from './controller-settings.svelte';

const LINES = [
  { field: 'motor_current_a', value: 40, further: [35] },
  { field: 'max_erpm', value: 60_000, further: [null] },
];

let stop = () => {};
async function opened(controllers = 1): Promise<{ page: ControllerSettingsPage; build: OpenBuild }> {
  const build = openBuild({
    parts: { controller: { units: controllers } },
    settings: { motor_current_a: 20, throttle_ramp_s: 2 },
  });
  server.on('POST /api/controller-settings', ({ body }) => ({
    profile: body.profile ?? 'everyday',
    lines: LINES,
    clears: ['throttle_ramp_s'],
    outcomes: [],
  }));
  server.on('GET /api/builds/{id}/controller-settings', () => ({ settings_records: [] }));
  const component = inComponent(() => new ControllerSettingsPage(build));
  stop = component.stop;
  await vi.advanceTimersByTimeAsync(500);
  return { page: component.made, build };
}

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  stop();
  vi.useRealTimers();
});

test('another profile stands at once, and its values come with the answer', async () => {
  const { page } = await opened();
  expect([page.profile, page.fresh]).toEqual(['everyday', true]);
  page.aim('hills');
  expect([page.profile, page.fresh]).toEqual(['hills', false]);
  await vi.advanceTimersByTimeAsync(500);
  expect([page.recommended?.profile, page.fresh]).toEqual(['hills', true]);
});

test('one recommended value is taken without the others', async () => {
  const { page, build } = await opened();
  page.take(['max_erpm']);
  expect(build.file.settings).toEqual({ motor_current_a: 20, throttle_ramp_s: 2, max_erpm: 60_000 });
});

test('all of them together are the profile, and end what it does not know', async () => {
  const { page, build } = await opened();
  page.take(['motor_current_a', 'max_erpm']);
  expect(build.file.settings).toEqual({ motor_current_a: 40, max_erpm: 60_000, profile: 'everyday' });
  build.undo();
  expect(build.file.settings?.motor_current_a).toBe(20);
});

test('a second controller gets its own recommended value, and the first one’s where it needs none', async () => {
  const { page, build } = await opened(2);
  page.setApart(0, 'max_erpm', 50_000);
  page.take(['motor_current_a', 'max_erpm']);
  expect(build.file.settings_apart).toEqual([{ motor_current_a: 35 }]);
});

test('what is wanted otherwise of one controller touches no other one', async () => {
  const { page } = await opened(3);
  expect(page.apart).toEqual([{}, {}]);
  page.setApart(1, 'motor_current_a', 30);
  expect(page.apart).toEqual([{}, { motor_current_a: 30 }]);
  page.setApart(1, 'motor_current_a', undefined);
  expect(page.apart).toEqual([{}, {}]);
});

test('values from a file go to the controller that they name', async () => {
  const { page, build } = await opened(2);
  page.want([
    { controller: 1, key: 'motor_current_a', value: 45 },
    { controller: 1, key: 'throttle_ramp_s', value: null },
    { controller: 2, key: 'motor_current_a', value: 42 },
  ] as never);
  expect(build.file.settings).toEqual({ motor_current_a: 45 });
  expect(build.file.settings_apart).toEqual([{ motor_current_a: 42 }]);
});
