import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { inComponent } from '../../testing/build.svelte';
import { json, server, type Received } from '../../testing/server';
import { BenchTest } from './bench-test.svelte';

/** The bench test at the server: entries by path, each refused where another device changed it meanwhile. */
class Record_ {
  entered: Record<string, unknown> = {};

  constructor() {
    server.on('GET /api/builds/{id}/bench-test', () => this.out());
    server.on('PATCH /api/builds/{id}/bench-test', (request) => this.patch(request));
    server.on('POST /api/builds/{id}/bench-test', () => this.out());
    server.on('DELETE /api/builds/{id}/bench-test', () => {
      this.entered = {};
      return this.out();
    });
  }

  out(more: object = {}): object {
    return { entered: { ...this.entered }, steps: [], kept: [], ...more };
  }

  patch({ body }: Received): unknown {
    const overtaken = Object.keys(body.changes).filter(
      (path) =>
        (this.entered[path] ?? null) !== (body.was[path] ?? null) &&
        this.entered[path] !== body.changes[path],
    );
    if (overtaken.length) return json(409, this.out({ overtaken }));
    const tooHigh = Object.keys(body.changes).filter((path) => body.changes[path] > 1000);
    if (tooHigh.length)
      return json(422, {
        message: 'Not kept.',
        faults: tooHigh.map((field) => ({ field, reason: 'at most 100 V' })),
      });
    this.entered = { ...this.entered, ...body.changes };
    return this.out();
  }
}

let stop = () => {};
function opened(id = `board-${Math.random()}`): { test_: BenchTest; record: Record_; id: string } {
  const record = new Record_();
  const component = inComponent(() => new BenchTest(id));
  stop = component.stop;
  return { test_: component.made, record, id };
}
const later = (ms = 20_000) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  stop();
  vi.useRealTimers();
});

test('an entry shows at once and reaches the server', async () => {
  const { test_, record } = opened();
  await later();
  test_.enter({ pack_v: 40.1 });
  expect([test_.value('pack_v'), test_.count]).toEqual([40.1, 1]);
  await later();
  expect([record.entered.pack_v, test_.count]).toEqual([40.1, 0]);
});

test('entries made without network wait on the device, also over a reload, and arrive once', async () => {
  const { test_, record, id } = opened();
  await later();
  server.offline = true;
  test_.enter({ pack_v: 40.1 });
  test_.enter({ notes: 'on the jetty' });
  await later(1000);
  expect([test_.offline, test_.count]).toEqual([true, 2]);
  stop();
  const reloaded = inComponent(() => new BenchTest(id));
  expect(reloaded.made.entered).toEqual({ pack_v: 40.1, notes: 'on the jetty' });
  server.offline = false;
  reloaded.made.retry();
  await later();
  expect(record.entered).toEqual({ pack_v: 40.1, notes: 'on the jetty' });
  expect(reloaded.made.count).toBe(0);
  reloaded.stop();
});

test('what another device entered otherwise stands beside the own entry until the person chooses', async () => {
  const { test_, record } = opened();
  await later();
  record.entered = { pack_v: 39.4 };
  test_.enter({ pack_v: 40.1, wheels_free: true });
  await later();
  expect(test_.clashes).toEqual({ pack_v: { mine: 40.1, theirs: 39.4 } });
  expect(record.entered).toEqual({ pack_v: 39.4, wheels_free: true });
  expect(test_.value('pack_v')).toBe(40.1);
  test_.settle('pack_v', true);
  await later();
  expect([record.entered.pack_v, test_.clashes]).toEqual([40.1, {}]);
});

test('theirs is taken without a request', async () => {
  const { test_, record } = opened();
  await later();
  record.entered = { pack_v: 39.4 };
  test_.enter({ pack_v: 40.1 });
  await later();
  const before = server.to('PATCH /api/builds/{id}/bench-test').length;
  test_.settle('pack_v', false);
  await later();
  expect(test_.value('pack_v')).toBe(39.4);
  expect(server.to('PATCH /api/builds/{id}/bench-test')).toHaveLength(before);
});

test('a wrong entry gets its reason and does not keep the others back', async () => {
  const { test_, record } = opened();
  await later();
  test_.enter({ pack_v: 4001, notes: 'dry' });
  await later();
  expect(test_.faults).toEqual({ pack_v: 'at most 100 V' });
  expect(record.entered).toEqual({ notes: 'dry' });
  test_.enter({ pack_v: 40.1 });
  expect(test_.faults).toEqual({});
  await later();
  expect(record.entered.pack_v).toBe(40.1);
});

test('an entry that is changed while the first is on its way goes out again as it is last', async () => {
  const { test_, record } = opened();
  await later();
  server.on('PATCH /api/builds/{id}/bench-test', async (request) => {
    await new Promise((resolve) => setTimeout(resolve, 500));
    return record.patch(request);
  });
  test_.enter({ pack_v: 40.1 });
  await later(100);
  test_.enter({ pack_v: 40.6 });
  await later();
  expect(record.entered.pack_v).toBe(40.6);
  expect(server.to('PATCH /api/builds/{id}/bench-test').map((r) => r.body.was.pack_v)).toEqual([null, 40.1]);
});

test('a test is only kept when every entry has arrived', async () => {
  const { test_ } = opened();
  await later();
  server.on('PATCH /api/builds/{id}/bench-test', () => json(503, { message: 'Later.', faults: [] }));
  test_.enter({ pack_v: 40.1 });
  const kept = test_.keep('2026-05-01', 'Warden');
  await later(100);
  expect(await kept).toBe(false);
  expect(test_.refused).toContain('Not everything has reached the server');
  expect(server.to('POST /api/builds/{id}/bench-test')).toEqual([]);
});

test('beginning anew forgets what waits here too', async () => {
  const { test_, record } = opened();
  await later();
  test_.enter({ pack_v: 4001 });
  await later();
  await test_.beginAnew();
  expect([test_.entered, test_.faults, record.entered]).toEqual([{}, {}, {}]);
});

test('signed out elsewhere: the entries stay and the page says so', async () => {
  const { test_ } = opened();
  await later();
  server.on('PATCH /api/builds/{id}/bench-test', () => json(401, { message: 'Sign in.', faults: [] }));
  test_.enter({ pack_v: 40.1 });
  await later();
  expect(test_.refused).toContain('Signed out elsewhere');
  expect([test_.value('pack_v'), test_.count]).toEqual([40.1, 1]);
});
