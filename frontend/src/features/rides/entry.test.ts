import { beforeEach, expect, test, vi } from 'vitest';
import { reader, today } from '$lib/reader.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { render, screen, textOf, userEvent } from '../../testing/component';
import { json, server } from '../../testing/server';
import Entry from './Entry.svelte';
import { Rides, type RideFile } from './rides.svelte';

const user = userEvent.setup();
beforeEach(() => {
  reader.units = {};
  server.on('GET /api/builds/{id}/rides', () => ({ rides: [], points: ['Before the new pack'] }));
  server.on('GET /api/builds/{id}/calibration', () => ({ outcomes: [], of: [], judged: [] }));
  server.on('POST /api/builds/{id}/rides', ({ body }) => ({
    rides: body.rides.map((r: { ride: { id: string } }) => ({ id: r.ride.id, ride: r.ride })),
    points: [],
    refused: [],
  }));
});

function entry(of: RideFile | null = null) {
  const { made: rides } = inComponent(() => new Rides(openBuild()));
  const onkept = vi.fn();
  render(Entry, { rides, of, onkept });
  return { rides, onkept };
}
/** A field by the beginning of its label, which says what is wrong too. */
const field = (label: string) => screen.getByLabelText<HTMLInputElement>(new RegExp(`^${label}`));
const keep = () => user.click(screen.getByRole('button', { name: 'Save ride' }));
const sent = () =>
  server.to('POST /api/builds/{id}/rides').flatMap((r) => r.body.rides.map((x: { ride: unknown }) => x.ride));

test('three figures and one button are a ride of today, in any unit that is typed', async () => {
  const { onkept } = entry();
  await user.type(field('Distance, km'), '6.4 mi');
  await user.type(field('Volts before, V'), '41,6');
  await user.type(field('Volts after, V'), '37900 mV');
  await keep();
  expect(onkept).toHaveBeenCalledOnce();
  await vi.waitFor(() => expect(sent()).toHaveLength(1));
  const [ride] = sent();
  expect(ride).toMatchObject({ day: today(), pack: { start_v: 41.6, end_v: 37.9 } });
  expect((ride as { way: { distance_km: number } }).way.distance_km).toBeCloseTo(10.2998, 3);
  expect(field('Distance, km').value).toBe('');
});

test('a ride of which nothing was measured is not sent, and says what would do', async () => {
  entry();
  await keep();
  expect(textOf(screen.getByRole('alert'))).toContain('kilometres are enough');
  expect(sent()).toEqual([]);
});

test('a wrong figure stays in its field with the reason, and a day that has not come is refused', async () => {
  entry();
  await user.type(field('Distance, km'), '4 furlongs');
  const day = field('Day');
  await user.clear(day);
  await user.type(day, '2099-01-01');
  await keep();
  expect(textOf(screen.getByTestId('ride-entry'))).toContain('is not a unit here');
  expect(textOf(screen.getByTestId('ride-entry'))).toContain('has not come yet');
  expect([field('Distance, km').value, sent()]).toEqual(['4 furlongs', []]);
});

test('a wrong figure among the further ones opens them', async () => {
  entry();
  await user.type(field('Distance, km'), '9');
  await user.click(screen.getByRole('button', { name: 'More of it' }));
  await user.type(field('Climb'), 'steep');
  await user.click(screen.getByRole('button', { name: 'Only the first four' }));
  await keep();
  expect(field('Climb').value).toBe('steep');
  expect(sent()).toEqual([]);
});

test('what only the server can know comes back into the entry with its reason', async () => {
  server.on('POST /api/builds/{id}/rides', ({ body }) => {
    const faults = [{ field: 'pack.start_v', reason: 'belongs to another pack' }];
    return {
      rides: [],
      points: [],
      refused: body.rides.map((r: { ride: { id: string } }) => ({ id: r.ride.id, faults })),
    };
  });
  entry();
  await user.type(field('Distance, km'), '9');
  await user.type(field('Volts before, V'), '22');
  await keep();
  await vi.waitFor(() =>
    expect(textOf(screen.getByTestId('ride-entry'))).toContain('belongs to another pack'),
  );
  expect([field('Distance, km').value, field('Volts before, V').value]).toEqual(['9', '22']);
});

test('a ride that is altered shows all that it has in the person’s units, and keeps its id', async () => {
  reader.units = { distance: 'mi' };
  server.on('GET /api/builds/{id}/rides', () => ({ rides: [], points: ['Before the new pack'] }));
  const { onkept } = entry({
    id: 'r1',
    day: '2026-05-02',
    way: { distance_km: 16.09344 },
    conditions: { wet: true },
    note: 'salt wind',
  } as unknown as RideFile);
  expect([field('Distance, mi').value, field('Day').value]).toEqual(['10', '2026-05-02']);
  await user.clear(field('Distance, mi'));
  await user.type(field('Distance, mi'), '12');
  await keep();
  expect(onkept).toHaveBeenCalledWith('r1');
  await vi.waitFor(() => expect(sent()).toHaveLength(1));
  expect(sent()[0]).toMatchObject({
    id: 'r1',
    day: '2026-05-02',
    note: 'salt wind',
    conditions: { wet: true },
  });
});

test('a server that is away keeps the ride on the device, and the entry is free for the next', async () => {
  server.on('POST /api/builds/{id}/rides', () => json(503, { message: 'Later.', faults: [] }));
  const { rides } = entry();
  await user.type(field('Distance, km'), '9');
  await keep();
  await vi.waitFor(() => expect(rides.offline).toBe(true));
  expect([rides.count, field('Distance, km').value]).toEqual([1, '']);
});
