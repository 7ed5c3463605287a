import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { PAUSE_BEFORE_SENDING, RETRY, SaveQueue, type SaveResult } from './save-queue.svelte';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

/** A server that can be away, and what it has received. */
function post(ends: SaveResult[] = []) {
  const box = { here: '', sent: '', received: [] as string[] };
  const sender = new SaveQueue(
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
    sender.soon();
  };
  return { box, sender, write };
}

test('what is written quickly goes out once, as it was last', async () => {
  const { box, sender, write } = post();
  write('a');
  write('ab');
  write('abc');
  expect(sender.state).toBe('waiting');
  await vi.advanceTimersByTimeAsync(PAUSE_BEFORE_SENDING + 60);
  expect(box.received).toEqual(['abc']);
  expect(sender.state).toBe('idle');
});

test('what is written during a flight goes out after it, and never beside it', async () => {
  const { box, write } = post();
  write('first');
  await vi.advanceTimersByTimeAsync(PAUSE_BEFORE_SENDING + 10);
  write('second');
  await vi.advanceTimersByTimeAsync(5000);
  expect(box.received).toEqual(['first', 'second']);
});

test('a server that is away is tried again until it is back, and nothing is lost', async () => {
  const { box, sender, write } = post(['unreachable', 'unreachable']);
  write('kept');
  await vi.advanceTimersByTimeAsync(PAUSE_BEFORE_SENDING + 60);
  expect(sender.state).toBe('offline');
  write('kept, and more');
  expect(sender.state).toBe('offline');
  await vi.advanceTimersByTimeAsync(2 * RETRY + 200);
  expect(box.received).toEqual(['kept, and more']);
  expect(sender.state).toBe('idle');
});

test('a fault in the flight itself counts as a server that is away', async () => {
  let tries = 0;
  const sender = new SaveQueue(
    () => {
      tries += 1;
      return Promise.reject(new TypeError('no network'));
    },
    () => true,
  );
  await sender.now();
  expect(sender.state).toBe('offline');
  await vi.advanceTimersByTimeAsync(RETRY + 10);
  expect(tries).toBe(2);
  sender.close();
});

test('what is refused waits for the person', async () => {
  const { box, sender, write } = post(['stopped']);
  write('bad');
  await vi.advanceTimersByTimeAsync(10 * RETRY);
  expect(sender.state).toBe('stopped');
  expect(box.received).toEqual([]);
  write('mended');
  await vi.advanceTimersByTimeAsync(PAUSE_BEFORE_SENDING + 60);
  expect(box.received).toEqual(['mended']);
});

test('settled tells whether everything has arrived', async () => {
  const good = post();
  good.write('there');
  const arrived = good.sender.settled();
  await vi.advanceTimersByTimeAsync(100);
  expect(await arrived).toBe(true);
  const bad = post(['unreachable']);
  bad.write('not there');
  const not = bad.sender.settled();
  await vi.advanceTimersByTimeAsync(100);
  expect(await not).toBe(false);
});

test('closing sends what is left and nothing after it', async () => {
  const { box, sender, write } = post();
  write('last words');
  sender.close();
  await vi.advanceTimersByTimeAsync(200);
  expect(box.received).toEqual(['last words']);
  write('too late');
  await vi.advanceTimersByTimeAsync(10 * RETRY);
  expect(box.received).toEqual(['last words']);
});
