import { flushSync } from 'svelte';
import { afterEach, expect, test } from 'vitest';
import { writeCache } from './device-cache';
import { Query, type Reply } from './query.svelte';

let stop: () => void = () => undefined;
afterEach(() => stop());

/** Something asked, whose answers come when the test says so. */
function asking(cacheKey?: () => string) {
  let question = $state('15 teeth');
  const open: { of: string; answer: (reply: Reply<string> | Error) => void }[] = [];
  let asked!: Query<string, string>;
  stop = $effect.root(() => {
    asked = new Query(
      () => question,
      (of, signal) =>
        new Promise((resolve, reject) => {
          signal.addEventListener('abort', () => reject(new DOMException('overtaken', 'AbortError')));
          open.push({ of, answer: (reply) => (reply instanceof Error ? reject(reply) : resolve(reply)) });
        }),
      { cacheKey },
    );
  });
  const ask = (text: string) => {
    question = text;
    flushSync();
  };
  flushSync();
  return { asked, open, ask };
}

const turn = () => new Promise((resolve) => setTimeout(resolve, 0));

test('an answer that a newer question overtook is dropped', async () => {
  const { asked, open, ask } = asking();
  ask('12 teeth');
  open[1]!.answer({ data: 'slower' });
  await turn();
  open[0]!.answer({ data: 'of before' });
  await turn();
  expect(open.map((o) => o.of)).toEqual(['15 teeth', '12 teeth']);
  expect(asked.answer).toBe('slower');
});

test('a refusal leaves the last answer and gives its reasons by field', async () => {
  const { asked, open, ask } = asking();
  open[0]!.answer({ data: 'good' });
  await turn();
  ask('0 teeth');
  open[1]!.answer({ error: { message: 'no', faults: [{ field: 'teeth', reason: 'at least 9' }] } });
  await turn();
  expect(asked.answer).toBe('good');
  expect(asked.faults).toEqual({ teeth: 'at least 9' });
  expect(asked.refused).toBe('no');
  ask('12 teeth');
  open[2]!.answer({ data: 'mended' });
  await turn();
  expect(asked.faults).toEqual({});
});

test('without the server the device shows what it remembers, and says so', async () => {
  const first = asking(() => 'bench:a');
  first.open[0]!.answer({ data: 'seen before' });
  await turn();
  stop();
  const second = asking(() => 'bench:a');
  second.open[0]!.answer(new TypeError('no network'));
  await turn();
  await turn();
  expect(second.asked.failed).toBe(true);
  expect(second.asked.answer).toBe('seen before');
  expect(second.asked.fromCache).toBe(true);
  void second.asked.again();
  second.open[1]!.answer({ data: 'fresh' });
  await turn();
  expect([second.asked.answer, second.asked.fromCache, second.asked.failed]).toEqual(['fresh', false, false]);
});

test('what is newer on the screen is not replaced by what is remembered', async () => {
  await writeCache('bench:a', 'old');
  const { asked, open, ask } = asking(() => 'bench:a');
  open[0]!.answer({ data: 'new' });
  await turn();
  ask('12 teeth');
  open[1]!.answer(new TypeError('no network'));
  await turn();
  await turn();
  expect(asked.answer).toBe('new');
  expect(asked.fromCache).toBe(false);
});

test('an answer that was read before an entry arrived does not take its place', async () => {
  const { asked, open } = asking();
  asked.take('with the entry');
  open[0]!.answer({ data: 'read before it' });
  await turn();
  expect(asked.answer).toBe('with the entry');
  open[1]!.answer({ data: 'read after it' });
  await turn();
  expect([asked.answer, open.length]).toEqual(['read after it', 2]);
});
