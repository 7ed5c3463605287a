import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { openBuild } from '../../testing/build.svelte';
import { json, server } from '../../testing/server';
import { Explorer, MOST_PINNED, type ExploredBoard } from './explore.svelte';

const USUAL = { kinds: [{ kind: 'motors' }], numbers: [] };
const encoder = new TextEncoder();

/** The answer of a search: lines that come one after the other, cut anywhere, as a network cuts them. */
function streamed(pieces: string[], pause = 10): Response {
  const body = new ReadableStream<Uint8Array>({
    async start(controller) {
      for (const piece of pieces) {
        controller.enqueue(encoder.encode(piece));
        await new Promise((resolve) => setTimeout(resolve, pause));
      }
      controller.close();
    },
  });
  return new Response(body, { headers: { 'Content-Type': 'application/x-ndjson' } });
}

const opened = (sections: object = {}) => new Explorer(openBuild(sections as never));
const later = (ms = 5000) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  vi.useFakeTimers();
  server.on('POST /api/explore/open', () => ({ usual: USUAL, kinds: [], numbers: [] }));
  server.on('POST /api/explore', () => streamed(['{"count":1}\n', '{"cou', 'nt":70', '00}\n']));
});
afterEach(() => vi.useRealTimers());

test('what most people no target is open until something else is chosen, which the device remembers', async () => {
  const build = openBuild();
  const explorer = new Explorer(build);
  await explorer.ask();
  expect(explorer.open).toEqual(USUAL);
  explorer.leaveOpen({
    kinds: [],
    numbers: [{ path: 'parts.drive.motor_teeth', low: 12, high: 18 }],
  } as never);
  expect(new Explorer(build).open.numbers).toHaveLength(1);
});

test('a board with a target is searched at once, one without any when it is asked for', async () => {
  const aiming = opened().begin();
  await later();
  await aiming;
  expect(server.to('POST /api/explore')).toHaveLength(1);
  const aimless = opened({ brief: {} }).begin();
  await later();
  await aimless;
  expect(server.to('POST /api/explore')).toHaveLength(1);
});

test('the brief is what is wished for until a wish is pulled', () => {
  const explorer = opened();
  expect(explorer.wishes).toEqual({ speed: 25, range: 14, hill: null, carry: null, money: null });
  expect(explorer.pulled).toBe(false);
  explorer.pull('range', 22);
  explorer.pull('speed', null);
  expect([explorer.wishes.range, explorer.wishes.speed, explorer.pulled]).toEqual([22, null, true]);
  explorer.asBriefed();
  expect([explorer.wishes.range, explorer.pulled]).toEqual([14, false]);
});

test('wishes go into the brief as one step that can be undone', () => {
  const explorer = opened();
  explorer.pull('range', 22);
  explorer.pull('money', 900);
  explorer.intoBrief();
  expect(explorer.build.file.brief).toEqual({ top_speed_kmh: 25, range_km: 22, budget: 900 });
  expect(explorer.pulled).toBe(false);
  explorer.build.undo();
  expect(explorer.build.file.brief).toEqual({ top_speed_kmh: 25, range_km: 14 });
});

test('every whole line of the answer is shown as it comes, wherever the network cuts it', async () => {
  const explorer = opened();
  const running = explorer.run();
  await later(5);
  expect([explorer.running, explorer.explored]).toEqual([true, { count: 1 }]);
  await later();
  await running;
  expect([explorer.running, explorer.explored]).toEqual([false, { count: 7000 }]);
  expect(server.to('POST /api/explore')[0]!.body).toMatchObject({
    wanted: { range: 14 },
    across: 'money',
    up: 'range',
  });
});

test('a wish that is pulled while boards are shown asks again once, after the hand has come to rest', async () => {
  const explorer = opened();
  explorer.pull('range', 16);
  await later();
  expect(server.to('POST /api/explore')).toEqual([]);
  const first = explorer.run();
  await later();
  await first;
  for (const km of [17, 18, 19, 20]) {
    explorer.pull('range', km);
    await later(50);
  }
  await later();
  expect(server.to('POST /api/explore').map((r) => r.body.wanted.range)).toEqual([16, 20]);
});

test('a search that is overtaken by a newer one does not end it', async () => {
  const explorer = opened();
  server.on('POST /api/explore', ({ body }) => streamed([`{"range":${body.wanted.range}}\n`], 200));
  const old = explorer.run();
  await later(50);
  explorer.pull('range', 30);
  const newer = explorer.run();
  await later(100);
  expect(explorer.running).toBe(true);
  await later();
  await Promise.all([old, newer]);
  expect([explorer.explored, explorer.running, explorer.refused]).toEqual([{ range: 30 }, false, '']);
});

test('a search can be stopped, and that is no fault', async () => {
  const explorer = opened();
  server.on('POST /api/explore', () => streamed(['{"count":1}\n', '{"count":2}\n'], 400));
  void explorer.run();
  await later(50);
  explorer.stop();
  await later();
  expect([explorer.running, explorer.refused]).toEqual([false, '']);
});

test('a refusal names the field, and a server that is away keeps what is open', async () => {
  const explorer = opened();
  const faults = [{ field: 'numbers.0.high', reason: 'is above 280' }];
  server.on('POST /api/explore', () => json(422, { message: 'That cannot be searched.', faults }));
  await explorer.run();
  expect([explorer.refused, explorer.faults]).toEqual([
    'That cannot be searched.',
    { 'numbers.0.high': 'is above 280' },
  ]);
  server.offline = true;
  await explorer.run();
  expect(explorer.refused).toContain('cannot be reached');
  expect(explorer.running).toBe(false);
});

test('a board is looked into, or the reason is said', async () => {
  const explorer = opened();
  server.on('POST /api/explore/board', ({ body }) => ({ number: body.number, steps: [] }));
  await explorer.lookInto(42);
  expect(explorer.looked).toMatchObject({ number: 42 });
  server.offline = true;
  await explorer.lookInto(43);
  expect(explorer.looked).toMatchObject({ number: 42 });
  expect(explorer.refused).toContain('cannot be reached');
  explorer.leaveOpen(USUAL as never);
  expect(explorer.looked).toBeNull();
});

test('what was picked of another space is let go: its numbers are other boards there', async () => {
  const explorer = opened();
  const found = (space: string) => server.on('POST /api/explore', () => streamed([`{"space":"${space}"}\n`]));
  const search = async () => {
    const run = explorer.run();
    await later();
    await run;
  };
  found('one');
  await search();
  explorer.pin({ number: 3 } as ExploredBoard);
  await search();
  expect(explorer.pinned).toHaveLength(1);
  found('other');
  await search();
  expect(explorer.pinned).toEqual([]);
});

test('at most four boards are compared; one more takes the place of the oldest, and a second press removes one', () => {
  const explorer = opened();
  const board = (number: number) => ({ number }) as ExploredBoard;
  for (const number of [1, 2, 3, 4, 5]) explorer.pin(board(number));
  expect(explorer.pinned.map((b) => b.number)).toEqual([2, 3, 4, 5]);
  expect(explorer.pinned).toHaveLength(MOST_PINNED);
  explorer.pin(board(3));
  expect(explorer.pinned.map((b) => b.number)).toEqual([2, 4, 5]);
  expect([explorer.isPinned(3), explorer.isPinned(4)]).toEqual([false, true]);
});
