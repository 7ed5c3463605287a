import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { server } from '../../testing/server';
import { Job, whyNot, type JobOut } from './job.svelte';

const at = (state: JobOut['state'], further: Partial<JobOut> = {}) =>
  ({ id: 'j', kind: 'dossier', state, progress: 0, message: '', faults: [], ...further }) as JobOut;
const asking = () => Promise.resolve({ data: at('waiting') });

/** The server shows the job in these states, one a request, and stays at the last; an error is a network that is down. */
function shows(...looks: (JobOut | Error)[]): void {
  server.on('GET /api/jobs/{id}', () => {
    const next = looks.length > 1 ? looks.shift()! : looks[0]!;
    if (next instanceof Error) throw next;
    return next;
  });
}

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

async function ended(job: Job) {
  const running = job.run();
  await vi.advanceTimersByTimeAsync(300_000);
  return running;
}

test('it is looked after until it is done, whatever the network does meanwhile', async () => {
  shows(
    at('waiting'),
    new TypeError('no network'),
    at('running', { progress: 0.4 }),
    at('done', { progress: 1, file: 'dossier.pdf' }),
  );
  const job = new Job('Dossier', asking);
  expect((await ended(job))?.file).toBe('dossier.pdf');
  expect([job.state, job.progress]).toEqual(['done', 1]);
});

test('a refusal at the door and a failure at work both say why', async () => {
  const full = new Job('Dossier', () => Promise.resolve({ error: { message: 'Too much.', faults: [] } }));
  expect(await ended(full)).toBeNull();
  expect([full.state, whyNot(full)]).toEqual(['failed', 'Too much.']);
  shows(at('failed', { message: 'No.', faults: [{ field: 'file', reason: 'a whole picture' }] }));
  const failed = new Job('Photo', asking);
  await ended(failed);
  expect(whyNot(failed)).toBe('No. It needs a whole picture.');
});

test('one that is stopped before the server answered is stopped all the same', async () => {
  shows(at('stopped'));
  server.on('POST /api/jobs/{id}/stop', () => ({}));
  const job = new Job('Proposals', asking);
  const running = job.run();
  job.stop();
  await vi.advanceTimersByTimeAsync(1000);
  expect(await running).toBeNull();
  expect(server.to('POST /api/jobs/{id}/stop').map((r) => r.params.id)).toEqual(['j']);
  expect(job.state).toBe('stopped');
});

test('a server that stays away is not waited for without end', async () => {
  shows(new TypeError('no network'));
  const job = new Job('Dossier', asking);
  await ended(job);
  expect(job.state).toBe('failed');
});
