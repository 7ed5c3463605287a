import { flushSync } from 'svelte';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { OpenBuild } from '$lib/build/build.svelte';
import { device } from '../../testing/device';
import { json, server } from '../../testing/server';
import { Work, type StepStatus } from './work.svelte';

/** The log as the server has it, and what it is to refuse or to change. */
const log = {
  received: [] as { kind: string; id: string; [more: string]: unknown }[],
  refuse: {} as Record<string, { field: string; reason: string }[]>,
  changes: {} as Record<string, unknown>,
};

const STEP = (id: string, more: Partial<StepStatus> = {}) => ({
  id,
  state: 'ready',
  title: id,
  phase: 'ready',
  facts: { 'parts.drive.wheel_teeth': 42 },
  judged: { verdict: 'open', changes: {} },
  after: [],
  values: {},
  ...more,
});

function answer() {
  const done = new Set(log.received.filter((e) => e.kind === 'done').map((e) => e.step));
  const steps = [STEP('lay-out'), STEP('bearings', { after: ['lay-out'] }), STEP('belt-line')].map((s) => ({
    ...s,
    state: done.has(s.id) ? 'done' : s.after!.every((a) => done.has(a)) ? 'ready' : 'waits',
    judged: { verdict: 'right', changes: log.received.some((e) => e.step === s.id) ? log.changes : {} },
  }));
  const next = steps.find((s) => s.state === 'ready')?.id;
  return {
    report: { steps, next, done: done.size, phases: [], tools: [] },
    log: log.received.map((e) => ({ ...e })),
    wishes: [],
    rides: [],
    troubles: [],
  };
}

const WORK = '/api/builds/{id}/assembly';

function serve(): void {
  server.on(`GET ${WORK}`, answer);
  server.on(`POST ${WORK}/photos`, () => {
    log.received.push({ kind: 'picture', id: 'picture' });
    return json(202, { id: 'j', state: 'done', progress: 1 });
  });
  server.on(`POST ${WORK}`, ({ body }: { body: { entries: typeof log.received } }) => {
    const bad = body.entries.filter((e) => log.refuse[e.kind]);
    const good = body.entries.filter((e) => !bad.includes(e));
    log.received.push(...good.filter((e) => !log.received.some((r) => r.id === e.id)));
    const refused = bad.map((e) => ({ id: e.id, faults: log.refuse[e.kind] }));
    return { ...answer(), refused };
  });
}

const applied: Record<string, unknown>[] = [];
const build = {
  id: 'b1',
  revision: 1,
  file: {},
  changeAndSay: (changes: Record<string, unknown>) => applied.push(changes),
} as unknown as OpenBuild;

let stop: () => void = () => undefined;
beforeEach(() => {
  serve();
  Object.assign(log, { received: [], refuse: {}, changes: {} });
  applied.length = 0;
});
afterEach(() => stop());

async function turns(n = 8): Promise<void> {
  for (let i = 0; i < n; i += 1) await new Promise((resolve) => setTimeout(resolve, 0));
}

async function atTheBench(): Promise<Work> {
  let work!: Work;
  stop = $effect.root(() => {
    work = new Work(build, 'assembly');
  });
  flushSync();
  await turns();
  return work;
}
const step = (work: Work, id: string) => work.steps.find((s) => s.id === id)!;

test('a tick stands at once, with what the step stood on, and leads on to the next one', async () => {
  const work = await atTheBench();
  expect(work.next).toBe('lay-out');
  work.done(step(work, 'lay-out'), 12);
  expect(step(work, 'lay-out').state).toBe('done');
  await turns();
  expect(log.received).toHaveLength(1);
  expect(log.received[0]).toMatchObject({
    kind: 'done',
    step: 'lay-out',
    minutes: 12,
    facts: { 'parts.drive.wheel_teeth': 42 },
  });
  expect(work.count).toBe(0);
  expect(work.next).toBe('bearings');
});

test('without network an afternoon is kept, outlives the page and arrives once', async () => {
  const work = await atTheBench();
  server.offline = true;
  work.done(step(work, 'lay-out'));
  await turns();
  expect(work.next).toBe('bearings');
  work.done(step(work, 'bearings'));
  work.note('bearings', 'one was rough', true);
  await turns();
  expect(work.count).toBe(3);
  expect(work.offline).toBe(true);
  stop();
  server.offline = false;
  const again = await atTheBench();
  await turns();
  expect(log.received.map((e) => e.kind)).toEqual(['done', 'done', 'noted']);
  expect(again.count).toBe(0);
  expect(localStorage.getItem('sand-pocket:log:b1')).toBeNull();
});

test('an entry whose answer was lost is shown once, and sent again', async () => {
  const work = await atTheBench();
  server.offline = true;
  work.note('lay-out', 'arrived, but nobody said so', false);
  work.done(step(work, 'lay-out'));
  await turns();
  // The server has both; the answer never came. The page asks for the log again before it sends.
  log.received.push(...JSON.parse(localStorage.getItem('sand-pocket:log:b1')!).entries);
  server.offline = false;
  await work.loading.again();
  expect(work.notesOf('lay-out').map((n) => n.text)).toEqual(['arrived, but nobody said so']);
  expect(work.next).toBe('bearings');
  work.retry();
  await turns();
  expect(work.count).toBe(0);
  expect(log.received).toHaveLength(2);
});

test('two rooms of one work do not take each other’s entries away', async () => {
  const one = await atTheBench();
  const stopOne = stop;
  server.offline = true;
  one.note('lay-out', 'of the first page', false);
  await turns();
  const other = await atTheBench();
  other.note('lay-out', 'of the second page', false);
  await turns();
  server.offline = false;
  one.retry();
  await turns();
  expect(JSON.parse(localStorage.getItem('sand-pocket:log:b1')!).entries).toHaveLength(1);
  other.retry();
  await turns();
  expect(log.received.map((e) => e.text)).toEqual(['of the first page', 'of the second page']);
  expect(localStorage.getItem('sand-pocket:log:b1')).toBeNull();
  stopOne();
});

test('what was written down wrongly without network is simply gone again', async () => {
  const work = await atTheBench();
  server.offline = true;
  work.note('lay-out', 'nonsense', false);
  await turns();
  work.takeBack(work.notesOf('lay-out')[0]!.id);
  expect(work.notesOf('lay-out')).toEqual([]);
  server.offline = false;
  work.retry();
  await turns();
  expect(log.received).toEqual([]);
});

test('a figure that cannot be is told beside its field, and holds up nothing', async () => {
  const work = await atTheBench();
  log.refuse = { measured: [{ field: 'near-1', reason: '4000 mm cannot be' }] };
  work.measure('belt-line', 'near-1', 4000);
  work.done(step(work, 'lay-out'));
  await turns();
  expect(work.faults['belt-line.near-1']).toBe('4000 mm cannot be');
  expect(log.received.map((e) => e.kind)).toEqual(['done']);
  expect(work.count).toBe(0);
  log.refuse = {};
  work.measure('belt-line', 'near-1', 0.4);
  expect(work.faults['belt-line.near-1']).toBeUndefined();
});

test('what was measured here goes into the build once, and not again on every look', async () => {
  const work = await atTheBench();
  log.changes = { 'parts.drive.belt_teeth': 57 };
  work.measure('belt-line', 'teeth', 57);
  await turns();
  expect(applied).toEqual([{ 'parts.drive.belt_teeth': 57 }]);
  await work.loading.again();
  await turns();
  expect(applied).toHaveLength(1);
});

test('a photo waits behind its entry, and leaves this device when it has arrived', async () => {
  vi.stubGlobal('createImageBitmap', () =>
    Promise.resolve({ width: 4000, height: 3000, close: () => undefined }),
  );
  const drawn = vi.fn();
  vi.spyOn(document, 'createElement').mockImplementationOnce(
    () =>
      ({
        getContext: () => ({ drawImage: drawn }),
        toBlob: (done: (b: Blob) => void) => done(new Blob(['x'], { type: 'image/jpeg' })),
      }) as unknown as HTMLElement,
  );
  vi.stubGlobal(
    'URL',
    Object.assign(URL, { createObjectURL: () => 'blob:x', revokeObjectURL: () => undefined }),
  );
  const work = await atTheBench();
  server.offline = true;
  expect(await work.photograph('lay-out', new File(['x'], 'a.jpg'))).toBe('');
  expect(drawn).toHaveBeenCalledWith(expect.anything(), 0, 0, 2000, 1500);
  expect(work.photosOf('lay-out')[0]).toMatchObject({ unsent: true, address: 'blob:x' });
  const kept = () => [...device.keys()].filter((key) => String(key).startsWith('photo:'));
  expect(kept()).toHaveLength(1);
  await turns();
  server.offline = false;
  work.retry();
  await turns(14);
  expect(log.received.map((e) => e.kind)).toEqual(['photographed', 'picture']);
  expect(kept()).toHaveLength(0);
});

test('what is no picture, or far too large, is told before anything is written down', async () => {
  vi.stubGlobal('createImageBitmap', () => Promise.reject(new Error('no')));
  const work = await atTheBench();
  expect(await work.photograph('lay-out', new File(['x'], 'poem.txt'))).toContain('no photo');
  const huge = new File(['x'], 'film.mov');
  Object.defineProperty(huge, 'size', { value: 60_000_000 });
  expect(await work.photograph('lay-out', huge)).toContain('60 MB');
  expect(work.count).toBe(0);
});
