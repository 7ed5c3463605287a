import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Job, whyNot, type JobOut } from './job.svelte';

const server = vi.hoisted(() => ({ looks: [] as unknown[], stopped: [] as string[] }));
vi.mock('$lib/api/client', () => ({
  api: {
    GET: () => {
      const next = server.looks.shift();
      return next instanceof Error ? Promise.reject(next) : Promise.resolve(next);
    },
    POST: (_: string, { params }: { params: { path: { id: string } } }) => {
      server.stopped.push(params.path.id);
      return Promise.resolve({});
    },
  },
  faultsOf: (error: unknown) => error,
}));

const at = (state: JobOut['state'], further: Partial<JobOut> = {}) =>
  ({ id: 'j', kind: 'dossier', state, progress: 0, message: '', faults: [], ...further }) as JobOut;
const seen = (job: JobOut) => ({ data: job, response: { status: 200 } });
const asking = () => Promise.resolve({ data: at('waiting') });

beforeEach(() => {
  vi.useFakeTimers();
  server.looks = [];
  server.stopped = [];
});
afterEach(() => vi.useRealTimers());

async function ended(job: Job) {
  const running = job.run();
  await vi.advanceTimersByTimeAsync(300_000);
  return running;
}

test('it is looked after until it is done, whatever the network does meanwhile', async () => {
  server.looks = [
    seen(at('waiting')),
    new TypeError('no network'),
    seen(at('running', { progress: 0.4 })),
    seen(at('done', { progress: 1, file: 'dossier.pdf' })),
  ];
  const job = new Job('Dossier', asking);
  expect((await ended(job))?.file).toBe('dossier.pdf');
  expect([job.state, job.progress]).toEqual(['done', 1]);
});

test('a refusal at the door and a failure at work both say why', async () => {
  const full = new Job('Dossier', () => Promise.resolve({ error: { message: 'Too much.', faults: [] } }));
  expect(await ended(full)).toBeNull();
  expect([full.state, whyNot(full)]).toEqual(['failed', 'Too much.']);
  server.looks = [
    seen(at('failed', { message: 'No.', faults: [{ field: 'file', reason: 'a whole picture' }] })),
  ];
  const failed = new Job('Photo', asking);
  await ended(failed);
  expect(whyNot(failed)).toBe('No. It takes a whole picture.');
});

test('one that is stopped before the server answered is stopped all the same', async () => {
  server.looks = [seen(at('stopped'))];
  const job = new Job('Proposals', asking);
  const running = job.run();
  job.stop();
  await vi.advanceTimersByTimeAsync(1000);
  expect(await running).toBeNull();
  expect(server.stopped).toEqual(['j']);
  expect(job.state).toBe('stopped');
});

test('a server that stays away is not waited for without end', async () => {
  server.looks = Array.from({ length: 400 }, () => new TypeError('no network'));
  const job = new Job('Dossier', asking);
  await ended(job);
  expect(job.state).toBe('failed');
});
