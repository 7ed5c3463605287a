import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { json, server } from '../../testing/server';
import { api, attach, faultsOf, importArchive, importFile, importParts, UNREACHABLE } from './client';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

/** Runs the clock while a request is on its way. */
async function answered<T>(request: Promise<T>): Promise<T> {
  const guarded = request.catch((error: unknown) => error as T);
  await vi.advanceTimersByTimeAsync(60_000);
  return guarded;
}
const predict = (signal?: AbortSignal) =>
  api.POST('/api/predict', { body: { document: { name: 'Sea wall' } } as never, signal });

test('every request carries the token and the zone of the reader', async () => {
  document.cookie = 'csrftoken=abc123';
  server.on('POST /api/predict', () => ({}));
  await answered(predict());
  const { headers } = server.received[0]!;
  expect([headers.get('X-CSRFToken'), headers.get('X-Time-Zone')]).toEqual([
    'abc123',
    expect.stringMatching(/\w+/),
  ]);
});

test.each([429, 503])(
  'status %d that is over in a moment is asked again with the same body',
  async (status) => {
    let refusals = 3;
    server.on('POST /api/predict', ({ body }) =>
      refusals-- > 0
        ? json(status, { message: 'Busy.', faults: [] }, { 'Retry-After': '1' })
        : { echoed: body },
    );
    const { data } = await answered(predict());
    expect(data).toEqual({ echoed: { document: { name: 'Sea wall' } } });
    expect(server.received).toHaveLength(4);
  },
);

test('what takes long is not asked again behind the person’s back', async () => {
  server.on('POST /api/predict', () => json(503, { message: 'Down.', faults: [] }, { 'Retry-After': '60' }));
  const { error } = await answered(predict());
  expect([faultsOf(error).message, server.received.length]).toEqual(['Down.', 1]);
});

test('asking again ends after a few tries with what the server said', async () => {
  server.on('POST /api/predict', () => json(429, { message: 'Busy.', faults: [] }, { 'Retry-After': '1' }));
  const { response } = await answered(predict());
  expect(response.status).toBe(429);
  expect(server.received.length).toBeGreaterThan(3);
  expect(server.received.length).toBeLessThan(10);
});

test('a question that was taken back is not asked again', async () => {
  const question = new AbortController();
  server.on('POST /api/predict', () => {
    question.abort();
    return json(429, { message: 'Busy.', faults: [] }, { 'Retry-After': '1' });
  });
  const ended = await answered(predict(question.signal));
  expect(ended).toBeInstanceOf(DOMException);
  expect(server.received).toHaveLength(1);
});

test('a file goes as it is, and is never sent twice', async () => {
  server.on('POST /api/builds/{id}/controller-settings/{number}/files', () =>
    json(503, { message: 'Full.', faults: [] }, { 'Retry-After': '1' }),
  );
  await answered(attach('b1', 3, new File(['the jumper on 10'], 'note.txt')));
  const [sent] = server.received;
  expect([sent!.body, sent!.query.get('name'), sent!.params]).toEqual([
    'the jumper on 10',
    'note.txt',
    { id: 'b1', number: '3' },
  ]);
  expect(server.received).toHaveLength(1);
});

test.each([
  ['a build', () => importFile(new File(['{}'], 'board.json')), 'POST /api/builds/import'],
  ['an archive', () => importArchive(new File(['zip'], 'a.zip')), 'POST /api/archive'],
  ['parts', () => importParts(new File(['a,b'], 'parts.csv'), false), 'POST /api/parts/import'],
])(
  '%s that is brought in comes back with the answer, the reasons, or that nobody was there',
  async (_, bring, route) => {
    server.on(route, () => ({ id: 'made' }));
    const came = (await answered<object>(bring())) as Record<string, unknown>;
    expect(Object.values(came)).toEqual([{ id: 'made' }]);
    const refusal = { message: 'Not taken.', faults: [{ field: 'version', reason: 'newer' }] };
    server.on(route, () => json(422, refusal));
    expect(await answered<object>(bring())).toEqual({ faults: refusal });
    server.offline = true;
    expect(await answered<object>(bring())).toEqual({ faults: UNREACHABLE });
  },
);

test.each([undefined, null, '', 'a page of HTML', 404, {}])(
  'a refusal of any shape has words: %o',
  (error) => {
    expect(faultsOf(error)).toEqual({ message: 'The server could not carry this out.', faults: [] });
  },
);
