import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { json, server } from '../../testing/server';
import { clock, metresOf, Trips, type Trip } from './trips.svelte';

let stop = () => {};
function opened(trips: Partial<Trip>[] = []): { trips: Trips; build: OpenBuild } {
  const build = openBuild({ trips });
  server.on('POST /api/trip', ({ body }) => ({ needs: [], named: body.trip.name }));
  const component = inComponent(() => new Trips(build));
  stop = component.stop;
  return { trips: component.made, build };
}
const later = (ms = 5000) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  stop();
  vi.useRealTimers();
});

test('the trip that is checked is asked about, without the other trips', async () => {
  const { trips } = opened([
    { id: 'a', name: 'Hide round', days: [] },
    { id: 'b', name: 'Old light', days: [] },
  ]);
  await later();
  expect(trips.asked.answer).toMatchObject({ named: 'Hide round' });
  trips.chosen = 'b';
  await later();
  expect(trips.asked.answer).toMatchObject({ named: 'Old light' });
  expect(server.to('POST /api/trip').at(-1)!.body.document).not.toHaveProperty('trips');
  expect(server.to('POST /api/trip').at(-1)!.body).toMatchObject({
    trip: { id: 'b' },
  });
});

test('without a trip nothing is asked', async () => {
  const { trips } = opened();
  await later();
  expect([trips.asked.answer, server.received]).toEqual([null, []]);
});

test('trips, days and legs are added and removed, each as one step that can be undone', async () => {
  const { trips, build } = opened();
  trips.add();
  trips.addDay();
  trips.legs(1, (legs) => [...legs, { distance_km: 7 }]);
  trips.set('days.0.legs.0.distance_km', 12);
  expect(trips.trip?.days?.map((d) => d.legs?.map((l) => l.distance_km))).toEqual([[12], [undefined, 7]]);
  trips.removeDay(0);
  expect(trips.trip?.days).toHaveLength(1);
  build.undo();
  expect(trips.value('days.0.legs.0.distance_km')).toBe(12);
  trips.remove();
  expect([trips.all, build.file.trips ?? null]).toEqual([[], null]);
  build.undo();
  expect(trips.trip?.name).toBe('Trip 1');
  await later();
});

test('a trip from a file gets an id of its own, so that importing it twice makes two', () => {
  const { trips } = opened();
  const file = { id: 'theirs', name: 'Three days', days: [] } as Trip;
  trips.add(file);
  trips.add(file);
  expect(new Set(trips.all.map((t) => t.id)).size).toBe(2);
  expect(trips.trip?.id).toBe(trips.chosen);
});

test('a track becomes a leg and takes the place of an empty one', async () => {
  const { trips } = opened([
    { id: 'a', name: 'Hide round', days: [{ legs: [{}, { distance_km: 3 }] }] } as never,
  ]);
  const leg = { name: 'wall', profile: { metres: [400, 600], climbs: [4, -4] } };
  server.on('POST /api/trip/route', ({ query }) => {
    expect(query.get('name')).toBe('wall.gpx');
    return { id: 'job', state: 'waiting', progress: 0 };
  });
  server.on('GET /api/jobs/{id}', () => ({ id: 'job', state: 'done', progress: 1 }));
  server.on('GET /api/trip/route/{job}', () => leg);
  const bringing = trips.bring(0, new File(['<gpx/>'], 'wall.gpx'));
  await later();
  expect(await bringing).toBe('');
  expect(trips.trip?.days?.[0]?.legs).toEqual([{ distance_km: 3 }, leg]);
});

test('a saved trip is read as a trip, and one that cannot be read says which field is wrong', async () => {
  const { trips } = opened();
  const text = JSON.stringify({ format: 'sand-pocket/trip', version: 1, trip: {} });
  server.on('POST /api/trip/read', () => ({ id: 'x', name: 'Three days', days: [] }));
  expect(await trips.bring(0, new File([text], 'trip.json'))).toBe('');
  expect(trips.trip?.name).toBe('Three days');
  const faults = [{ field: 'days.0.legs', reason: 'needs a leg' }];
  server.on('POST /api/trip/read', () => json(422, { message: 'No.', faults }));
  expect(await trips.bring(0, new File([text], 'trip.json'))).toBe('days.0.legs: needs a leg');
  server.offline = true;
  expect(await trips.bring(0, new File([text], 'trip.json'))).toContain('cannot be reached');
});

test('a file that is too large is refused before it is sent', async () => {
  const { trips } = opened();
  const file = new File(['x'], 'long.gpx');
  Object.defineProperty(file, 'size', { value: 41_000_000 });
  expect(await trips.bring(0, file)).toContain('40 MB');
  expect(server.received).toEqual([]);
});

test('a leg is as long as its track, or as was typed', () => {
  expect(metresOf({ profile: { metres: [400, 600.5] } } as never)).toBe(1000.5);
  expect(metresOf({ distance_km: 7.5 })).toBe(7500);
  expect(metresOf({})).toBe(0);
});

test.each([
  [0, '00:00'],
  [545.6, '09:06'],
  [1439.4, '23:59'],
  [1439.6, '00:00'],
  [1500, '01:00'],
])('minute %d of a day is %s', (minutes, text) => {
  expect(clock(minutes)).toBe(text);
});
