import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { PAUSE_BEFORE_SENDING, RETRY, SaveQueue, type SaveResult } from './save-queue.svelte';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

/** A server that can be away, and what it has received. */
function post(ends: SaveResult[] = []) {
  const box = { here: '', sent: '', received: [] as string[] };
  const queue = new SaveQueue(
    async () => {
      const carried = box.here;
      const ended = ends.shift() ?? 'arrived';
      await new Promise((resolve) => setTimeout(resolve, 50));
      if (ended === 'arrived') {
        box.received.push(carried);
        box.sent = carried;
      }
      return ended;
    },
    () => box.here !== box.sent,
  );
  const write = (text: string) => {
    box.here = text;
    queue.soon();
  };
  return { box, queue, write };
}

test('what is written quickly goes out once, as it was last', async () => {
  const { box, queue, write } = post();
  write('a');
  write('ab');
  write('abc');
  expect(queue.state).toBe('waiting');
  await vi.advanceTimersByTimeAsync(PAUSE_BEFORE_SENDING + 60);
  expect(box.received).toEqual(['abc']);
  expect(queue.state).toBe('idle');
});

test('what is written during a request goes out after it, and never beside it', async () => {
  const { box, write } = post();
  write('first');
  await vi.advanceTimersByTimeAsync(PAUSE_BEFORE_SENDING + 10);
  write('second');
  await vi.advanceTimersByTimeAsync(5000);
  expect(box.received).toEqual(['first', 'second']);
});

test('a server that is away is tried again until it is back, and nothing is lost', async () => {
  const { box, queue, write } = post(['unreachable', 'unreachable']);
  write('kept');
  await vi.advanceTimersByTimeAsync(PAUSE_BEFORE_SENDING + 60);
  expect(queue.state).toBe('offline');
  write('kept, and more');
  expect(queue.state).toBe('offline');
  await vi.advanceTimersByTimeAsync(2 * RETRY + 200);
  expect(box.received).toEqual(['kept, and more']);
  expect(queue.state).toBe('idle');
});

test('a fault in the request itself counts as a server that is away', async () => {
  let tries = 0;
  const queue = new SaveQueue(
    () => {
      tries += 1;
      return Promise.reject(new TypeError('no network'));
    },
    () => true,
  );
  await queue.now();
  expect(queue.state).toBe('offline');
  await vi.advanceTimersByTimeAsync(RETRY + 10);
  expect(tries).toBe(2);
  queue.close();
});

test('what is refused waits for the person', async () => {
  const { box, queue, write } = post(['stopped']);
  write('bad');
  await vi.advanceTimersByTimeAsync(10 * RETRY);
  expect(queue.state).toBe('stopped');
  expect(box.received).toEqual([]);
  write('mended');
  await vi.advanceTimersByTimeAsync(PAUSE_BEFORE_SENDING + 60);
  expect(box.received).toEqual(['mended']);
});

test('settled tells whether everything has arrived', async () => {
  const good = post();
  good.write('there');
  const arrived = good.queue.settled();
  await vi.advanceTimersByTimeAsync(100);
  expect(await arrived).toBe(true);
  const bad = post(['unreachable']);
  bad.write('not there');
  const not = bad.queue.settled();
  await vi.advanceTimersByTimeAsync(100);
  expect(await not).toBe(false);
});

test('closing sends what is left and nothing after it', async () => {
  const { box, queue, write } = post();
  write('last words');
  queue.close();
  await vi.advanceTimersByTimeAsync(200);
  expect(box.received).toEqual(['last words']);
  write('too late');
  await vi.advanceTimersByTimeAsync(10 * RETRY);
  expect(box.received).toEqual(['last words']);
});
