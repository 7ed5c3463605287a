import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { openBuild } from '../../testing/build.svelte';
import { render, screen, textOf, userEvent } from '../../testing/component';
import { server } from '../../testing/server';
import Watch from './Watch.svelte';

const BEGAN = '2026-05-02T10:00:00Z';
const REPORT = {
  groups: [3],
  charges: [],
  every_min: 10,
  most_charges: 20,
  most_looks: 60,
  ceiling_v: 12.6,
} as unknown as Schemas['ChargingReport'];
const said = (text: string) => ({ text, template: text, values: {} });

let user: ReturnType<typeof userEvent.setup>;
beforeEach(() => {
  vi.useFakeTimers({ now: new Date(BEGAN), shouldAdvanceTime: true });
  user = userEvent.setup({ advanceTimers: vi.advanceTimersByTime });
  server.on('PUT /api/builds/{id}', ({ body, params }) => ({ ...body, id: params.id, updated_at: BEGAN }));
});
afterEach(() => vi.useRealTimers());

function watched(charges: object[] = [], more: object = {}) {
  const build = openBuild({ pack_assembly: { charges } });
  const view = render(Watch, { build, report: { ...REPORT, ...more } });
  return { build, view, kept: () => build.file.pack_assembly?.charges ?? [] };
}
const group = (i: number) => screen.getByLabelText<HTMLInputElement>(`Group ${i}`);
const press = async (name: string) => user.click(await screen.findByRole('button', { name }));

test('a charge begins with the caution, and with the moment', async () => {
  const { kept } = watched();
  expect(textOf(screen.getByRole('region', { name: 'Watched charge' }))).toContain('nothing near that burns');
  await press('Begin the first charge');
  expect(kept()).toHaveLength(1);
  expect(kept()[0]!.began).toMatch(/^2026-05-02T10:00:\d\dZ$/);
});

test('a look is kept with its minute, in any unit, and the fields are free for the next', async () => {
  const { kept } = watched([{ began: BEGAN }]);
  await vi.advanceTimersByTimeAsync(10 * 60_000);
  await user.type(group(1), '3.92');
  await user.type(group(2), '3910 mV');
  await user.type(screen.getByLabelText('Current, A'), '2,1');
  await press('warm');
  await press('Save reading');
  const [look] = kept()[0]!.looks!;
  expect(look).toMatchObject({ groups_v: [3.92, 3.91, null], current_a: 2.1, warmth: 'warm' });
  expect(look!.minute).toBeCloseTo(10, 0);
  expect([group(1).value, screen.getByRole('button', { name: 'warm' }).getAttribute('aria-pressed')]).toEqual(
    ['', 'false'],
  );
});

test('a hand on the block alone is a look; nothing at all is none', async () => {
  const { kept } = watched([{ began: BEGAN }]);
  await press('Save reading');
  expect(textOf(screen.getByRole('alert'))).toContain('at least one group, the current or the warmth');
  await press('cool');
  await press('Save reading');
  expect(kept()[0]!.looks).toMatchObject([{ warmth: 'cool' }]);
});

test('a wrong figure is said beside its group and keeps the look back', async () => {
  const { kept } = watched([{ began: BEGAN }]);
  await user.type(group(1), '3.9');
  await user.type(group(2), '39');
  await press('Save reading');
  expect(textOf(screen.getByRole('alert'))).toContain('outside');
  expect([kept()[0]!.looks, group(1).value]).toEqual([undefined, '3.9']);
});

test('the next look is counted down, and when it is due the phone is felt', async () => {
  const vibrate = vi.fn();
  Object.defineProperty(navigator, 'vibrate', { value: vibrate, configurable: true });
  watched([{ began: BEGAN, looks: [{ minute: 0, groups_v: [3.6, 3.6, 3.6] }] }]);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(textOf(screen.getByTestId('due'))).toMatch(/^Next reading in (8:5\d|9:00)$/);
  expect(vibrate).not.toHaveBeenCalled();
  await vi.advanceTimersByTimeAsync(9.2 * 60_000);
  expect(textOf(screen.getByTestId('due'))).toBe('Take the reading now');
  expect(vibrate).toHaveBeenCalled();
});

test('what the core says to stop leaves two ways: it is off, or the look was wrong', async () => {
  const looks = [{ minute: 10, groups_v: [4.3, 3.6, 3.6] }];
  const charge = {
    number: 1,
    began: BEGAN,
    looks: looks.map((l) => ({ ...l, verdict: 'stop', said: [] })),
    due_minute: null,
    verdict: 'stop',
    stop: said('Group 1 is above 4.25 V.'),
    last_word: said(''),
    groups: 3,
  };
  const { kept } = watched([{ began: BEGAN, looks }], { charges: [charge] });
  expect(textOf(screen.getByRole('alert'))).toBe('✕ Stop now. Group 1 is above 4.25 V.');
  expect(screen.queryByRole('form', { name: 'A look' })).toBeNull();
  await press('Wrong entry: delete this reading');
  expect(kept()[0]!.looks).toEqual([]);
});

test('a charge ends by itself or by hand, and one that was not begun goes', async () => {
  const { kept, build } = watched([{ began: BEGAN }]);
  await press('It stopped by itself');
  expect(kept()[0]!.ended).toBe('by_itself');
  build.undo();
  await press('I stopped it');
  expect(kept()[0]!.ended).toBe('stopped');
  build.undo();
  await press('It did not start');
  expect(kept()).toEqual([]);
});

test('a pack that is not there cannot be watched, and a full record says what to do', () => {
  watched([], { groups: [] });
  expect(screen.getByText('There is no pack yet.')).toBeTruthy();
  watched([], { most_charges: 0 });
  expect(textOf(screen.getByRole('status'))).toContain('delete one first');
});
