import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { json, server } from '../../testing/server';
import { alike } from '$lib/sync/merging';
import { Rides, said } from './rides.svelte';

type Ride = { id: string; day: string; at?: string; way: { distance_km: number }; conditions?: object };
type Sent = { ride: Ride; before?: Ride };

/** The ride log at the server; rides longer than 900 km are refused. */
class Log {
  rides: Ride[] = [];

  constructor() {
    server.on('GET /api/builds/{id}/rides', () => this.out());
    server.on('GET /api/builds/{id}/calibration', () => ({ outcomes: [], of: [], judged: [], inputs: [] }));
    server.on('POST /api/builds/{id}/rides', ({ body }) => this.take(body));
    server.on('DELETE /api/builds/{id}/rides/{ride}', ({ params }) => {
      this.rides = this.rides.filter((r) => r.id !== params.ride);
      return this.out();
    });
  }

  take(body: { rides: Sent[] }): object {
    const sent = body.rides.map((r: { ride: Ride }) => r.ride) as Ride[];
    const bad = sent.filter((r) => r.way.distance_km > 900);
    const known = (id: string) => this.rides.find((r) => r.id === id);
    const differ = (one?: Ride, other?: Ride) => !alike(said({ ...one }), said({ ...other }));
    const changed = body.rides
      .filter((r: Sent) => known(r.ride.id) && differ(known(r.ride.id), r.ride))
      .filter((r: Sent) => differ(known(r.ride.id), r.before))
      .map((r: Sent) => r.ride.id);
    const good = sent.filter((r) => !bad.includes(r) && !changed.includes(r.id));
    this.rides = [...this.rides.filter((r) => !good.some((g) => g.id === r.id)), ...good];
    const faults = [{ field: 'way.distance_km', reason: 'at most 900 km' }];
    return this.out({ refused: bad.map((r) => ({ id: r.id, faults })), changed });
  }

  out(more: object = {}): object {
    // In an order of the server's own, and with what says nothing.
    const told = ({ id, ...rest }: Ride) => ({ id, runs: [], conditions: {}, ...rest });
    return { rides: this.rides.map((ride) => ({ id: ride.id, ride: told(ride) })), refused: [], ...more };
  }
}

let stop = () => {};
function opened(build: OpenBuild = openBuild()): { rides: Rides; log: Log; build: OpenBuild } {
  const log = new Log();
  const component = inComponent(() => new Rides(build));
  stop = component.stop;
  return { rides: component.made, log, build };
}
const later = (ms = 20_000) => vi.advanceTimersByTimeAsync(ms);
const km = (rides: Rides) => rides.lines.map((l) => l.ride.way?.distance_km);

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  stop();
  vi.useRealTimers();
});

test('a ride is listed at once, marked as unsent until the server has it', async () => {
  const { rides, log } = opened();
  await later();
  const id = rides.keep({ day: '2026-05-02', way: { distance_km: 11.2 } });
  expect(rides.lines).toMatchObject([{ id, unsent: true }]);
  await later();
  expect(rides.lines[0]!.unsent).toBeUndefined();
  expect(log.rides).toMatchObject([{ id, way: { distance_km: 11.2 } }]);
});

test('what was left empty is not sent', () => {
  expect(
    said({ day: '2026-05-02', pack: { start_v: null, end_v: '' }, way: { distance_km: 0 }, note: undefined }),
  ).toEqual({
    day: '2026-05-02',
    way: { distance_km: 0 },
  });
  expect(said({ runs: [], on: false })).toEqual({ on: false });
});

test('rides of a day without network wait, survive a reload and arrive once', async () => {
  const { rides, log, build } = opened();
  await later();
  server.offline = true;
  rides.keep({ day: '2026-05-02', way: { distance_km: 8 } });
  rides.keep({ day: '2026-05-02', way: { distance_km: 10.3 } });
  await later(1000);
  expect([rides.count, rides.offline]).toEqual([2, true]);
  stop();
  const again = inComponent(() => new Rides(build));
  stop = again.stop;
  expect(km(again.made).sort()).toEqual([10.3, 8]);
  server.offline = false;
  again.made.retry();
  await later();
  expect(log.rides).toHaveLength(2);
  expect([again.made.count, again.made.lines.length]).toEqual([0, 2]);
});

test('the latest ride comes first, by day and hour', async () => {
  const { rides } = opened();
  rides.keep({ day: '2026-05-02', at: '08:00', way: { distance_km: 1 } });
  rides.keep({ day: '2026-05-09', way: { distance_km: 2 } });
  rides.keep({ day: '2026-05-02', at: '18:30', way: { distance_km: 3 } });
  expect(km(rides)).toEqual([2, 3, 1]);
  await later();
});

test('a refused ride leaves the list with its reason, and the others are kept', async () => {
  const { rides, log } = opened();
  await later();
  const bad = rides.keep({ day: '2026-05-02', way: { distance_km: 9000 } });
  rides.keep({ day: '2026-05-02', way: { distance_km: 9 } });
  await later();
  expect(rides.refused[bad]).toEqual([{ field: 'way.distance_km', reason: 'at most 900 km' }]);
  expect(km(rides)).toEqual([9]);
  rides.keep({ id: bad, day: '2026-05-02', way: { distance_km: 90 } });
  expect(rides.refused).toEqual({});
  await later();
  expect(log.rides.map((r) => r.way.distance_km).sort()).toEqual([9, 90]);
});

test('a ride that is removed goes from the server, and one that never reached it just goes', async () => {
  const { rides, log } = opened();
  await later();
  const id = rides.keep({ day: '2026-05-02', way: { distance_km: 8 } });
  await later();
  rides.remove(id);
  expect(rides.lines).toEqual([]);
  await later();
  expect(log.rides).toEqual([]);
  server.offline = true;
  const never = rides.keep({ day: '2026-05-03', way: { distance_km: 5 } });
  rides.remove(never);
  server.offline = false;
  await later();
  expect([rides.count, server.to('DELETE /api/builds/{id}/rides/{ride}').length]).toEqual([0, 1]);
});

test('a removed ride that is kept again stays', async () => {
  const { rides, log } = opened();
  await later();
  const id = rides.keep({ day: '2026-05-02', way: { distance_km: 8 } });
  await later();
  server.offline = true;
  rides.remove(id);
  rides.keep({ id, day: '2026-05-02', way: { distance_km: 8 } });
  server.offline = false;
  rides.retry();
  await later();
  expect(log.rides.map((r) => r.id)).toEqual([id]);
});

test.each([
  [401, 'Signed out elsewhere'],
  [413, 'Too large.'],
])('status %d waits for the person and says why', async (status, says) => {
  const { rides } = opened();
  await later();
  server.on('POST /api/builds/{id}/rides', () => json(status, { message: 'Too large.', faults: [] }));
  rides.keep({ day: '2026-05-02', way: { distance_km: 8 } });
  await later(60_000);
  expect(rides.notice).toContain(says);
  expect([rides.count, server.to('POST /api/builds/{id}/rides').length]).toEqual([1, 1]);
});

test('a server that is busy is asked again by itself', async () => {
  const { rides, log } = opened();
  await later();
  let refusals = 2;
  server.on('POST /api/builds/{id}/rides', ({ body }) => {
    if (refusals-- > 0) return json(503, { message: 'Busy.', faults: [] }, { 'Retry-After': '30' });
    log.rides = body.rides.map((r: { ride: Ride }) => r.ride);
    return log.out();
  });
  rides.keep({ day: '2026-05-02', way: { distance_km: 8 } });
  await later();
  expect([rides.count, log.rides.length]).toEqual([0, 1]);
});

/** A ride of 11.2 km that the server has, and the log, opened. */
async function ridden(): Promise<{ rides: Rides; log: Log; build: OpenBuild; id: string }> {
  const { rides, log, build } = opened();
  await later();
  const id = rides.keep({ day: '2026-05-02', way: { distance_km: 11.2 } });
  await later();
  return { rides, log, build, id };
}

test('different things changed here and elsewhere are both kept', async () => {
  const { rides, log, id } = await ridden();
  log.rides = [{ ...log.rides[0]!, conditions: { temperature_c: 4 } }];
  rides.keep({ day: '2026-05-02', way: { distance_km: 12 }, id });
  await later();
  expect(log.rides).toEqual([
    { day: '2026-05-02', way: { distance_km: 12 }, id, conditions: { temperature_c: 4 } },
  ]);
  expect([rides.count, rides.clash, rides.notice]).toEqual([
    0,
    null,
    expect.stringContaining('Both changes are kept'),
  ]);
});

test.each(['mine', 'theirs'] as const)(
  'one figure changed here and elsewhere is for the person to settle, also after a reload: %s',
  async (which) => {
    const { rides, log, build, id } = await ridden();
    log.rides = [{ ...log.rides[0]!, way: { distance_km: 9 } }];
    rides.keep({ day: '2026-05-02', way: { distance_km: 12 }, id });
    await later();
    expect([log.rides[0]!.way.distance_km, rides.clash?.ride.way?.distance_km]).toEqual([9, 12]);
    stop();
    const again = inComponent(() => new Rides(build));
    stop = again.stop;
    await later();
    expect(again.made.clash?.theirs.way?.distance_km).toBe(9);
    again.made.settle(which);
    await later();
    expect([log.rides[0]!.way.distance_km, again.made.clash]).toEqual([which === 'mine' ? 12 : 9, null]);
  },
);

test('a ride whose answer was lost and that was changed again since is not taken for another one', async () => {
  const { rides, log } = opened();
  await later();
  const id = rides.keep({ day: '2026-05-02', way: { distance_km: 8 } });
  server.on('POST /api/builds/{id}/rides', ({ body }) => {
    log.take(body);
    return json(503, { message: 'Later.', faults: [] });
  });
  await later(1000);
  expect(log.rides[0]!.way.distance_km).toBe(8);
  rides.keep({ day: '2026-05-02', way: { distance_km: 8.4 }, id });
  server.on('POST /api/builds/{id}/rides', ({ body }) => log.take(body));
  await later();
  expect([log.rides[0]!.way.distance_km, rides.clash, rides.count]).toEqual([8.4, null, 0]);
});
