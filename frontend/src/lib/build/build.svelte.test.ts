import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import fc from '../../testing/property';
import type { BuildFile, BuildOut } from '$lib/api/client';
import { Drafts } from '$lib/sync/drafts';
import { notices } from '$lib/ui/notices.svelte';
import { json, server } from '../../testing/server';
import { getBuild, OpenBuild } from './build.svelte';

const DOCUMENT = {
  format: 'sand-pocket/build',
  version: 2,
  name: 'Sea wall',
  rider: { mass_kg: 75 },
  brief: { range_km: 14 },
  parts: { drive: { motor_teeth: 15, wheel_teeth: 42 } },
  settings: {},
} as unknown as BuildFile;

/** The document with the sections that these tests change. */
type Filled = BuildFile & { brief: { range_km: number }; parts: { drive: { motor_teeth: number } } };

/** The row of one build at the server; answers saves as the real one does. */
class Row {
  revision = 1;
  document = DOCUMENT;

  constructor(readonly id: string) {
    server.on('PUT /api/builds/{id}', ({ body }) => this.save(body));
    server.on('GET /api/builds/{id}', () => this.out);
  }

  get out(): BuildOut {
    return {
      id: this.id,
      revision: this.revision,
      updated_at: '2026-05-01T10:00:00Z',
      document: this.document,
    } as BuildOut;
  }

  save({ revision, document }: { revision: number; document: BuildFile }): unknown {
    if (revision !== this.revision && JSON.stringify(document) !== JSON.stringify(this.document))
      return json(409, this.out);
    if (revision === this.revision) this.revision += 1;
    this.document = document;
    return this.out;
  }

  /** Another device saves. */
  elsewhere(change: (document: Filled) => void): void {
    const document = structuredClone(this.document) as Filled;
    change(document);
    this.document = document;
    this.revision += 1;
  }
}

let count = 0;
function opened(): { build: OpenBuild; row: Row } {
  const row = new Row(`build-${++count}`);
  return { build: new OpenBuild(row.id, row.out), row };
}
const teeth = (build: OpenBuild) => build.value('parts.drive.motor_teeth');
const later = (ms = 60_000) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  notices.list = [];
});

test('a change is saved by itself, with the revision that it began with', async () => {
  const { build, row } = opened();
  build.set('parts.drive.motor_teeth', 12);
  expect([build.saving, build.waiting]).toEqual(['saving', 1]);
  await later();
  expect(build.saving).toBe('saved');
  expect(row.document.parts?.drive?.motor_teeth).toBe(12);
  expect(server.to('PUT /api/builds/{id}')).toHaveLength(1);
  expect(build.revision).toBe(2);
});

test('the same figure once more is no change and no step', async () => {
  const { build } = opened();
  build.set('parts.drive.motor_teeth', 15);
  build.set('parts.drive.idlers' as never, null);
  await later();
  expect(build.history.canUndo).toBe(false);
  expect(server.received).toEqual([]);
});

test('several figures of one fix are one step', () => {
  const { build } = opened();
  build.change({ 'parts.drive.motor_teeth': 18, 'parts.drive.wheel_teeth': 36, 'brief.range_km': null });
  expect(build.file.brief).toEqual({});
  build.undo();
  expect(build.file).toEqual(DOCUMENT);
});

test('dragging a handle is one step however often it moved, and none when it comes back', () => {
  const { build } = opened();
  for (const value of [16, 17, 18]) build.slide('parts.drive.motor_teeth', value);
  build.release();
  expect(teeth(build)).toBe(18);
  build.undo();
  expect(teeth(build)).toBe(15);
  build.slide('parts.drive.motor_teeth', 20);
  build.slide('parts.drive.motor_teeth', 15);
  build.release();
  expect(build.history.canUndo).toBe(false);
});

test('without network a change waits, survives the page, and is sent by the next one', async () => {
  const { build, row } = opened();
  server.offline = true;
  build.set('parts.drive.motor_teeth', 12);
  await later(1000);
  expect(build.saving).toBe('offline');
  const reloaded = new OpenBuild(row.id, row.out);
  expect(teeth(reloaded)).toBe(12);
  server.offline = false;
  await later();
  expect(reloaded.saving).toBe('saved');
  expect(row.document.parts?.drive?.motor_teeth).toBe(12);
  expect(localStorage.getItem(`sand-pocket:draft:${row.id}`)).toBeNull();
});

test('an answer that was lost on its way is recognised: nothing is asked of the person', async () => {
  const { build, row } = opened();
  server.on('PUT /api/builds/{id}', ({ body }) => {
    row.save(body);
    throw new TypeError('The connection broke before the answer came.');
  });
  build.set('parts.drive.motor_teeth', 12);
  await later(600);
  server.on('PUT /api/builds/{id}', ({ body }) => row.save(body));
  await later();
  expect([build.saving, row.revision]).toEqual(['saved', 2]);
});

test('changes of two devices to different things go together, undo included', async () => {
  const { build, row } = opened();
  build.set('parts.drive.motor_teeth', 12);
  row.elsewhere((d) => (d.brief.range_km = 20));
  await later(3000);
  expect(build.saving).toBe('saved');
  expect(row.document.brief?.range_km).toBe(20);
  expect(row.document.parts?.drive?.motor_teeth).toBe(12);
  expect(notices.list.map((n) => n.text).join()).toContain('both changes');
  build.undo();
  expect([teeth(build), build.file.brief?.range_km]).toEqual([15, 20]);
});

test.each([
  ['mine', 12, 12],
  ['theirs', 18, 18],
  ['both', 18, 18],
] as const)(
  'of two devices that changed one thing, "%s" is what the person gets',
  async (choice, here, there) => {
    const { build, row } = opened();
    server.on('POST /api/builds/import', ({ body }) => ({ ...row.out, id: 'copy', document: body }));
    build.set('parts.drive.motor_teeth', 12);
    row.elsewhere((d) => (d.parts.drive.motor_teeth = 18));
    await later();
    expect(build.saving).toBe('conflict');
    expect(row.document.parts?.drive?.motor_teeth).toBe(18);
    const copy = await build.settle(choice);
    await later();
    expect([teeth(build), row.document.parts?.drive?.motor_teeth]).toEqual([here, there]);
    expect(build.saving).toBe('saved');
    if (choice !== 'both') return expect(copy).toBeNull();
    expect(copy).toBe('copy');
    const [sent] = server.to('POST /api/builds/import');
    expect(sent!.body).toMatchObject({ name: 'Sea wall, my copy', parts: { drive: { motor_teeth: 12 } } });
  },
);

test('a copy that could not be made leaves the conflict open', async () => {
  const { build, row } = opened();
  build.set('parts.drive.motor_teeth', 12);
  row.elsewhere((d) => (d.parts.drive.motor_teeth = 18));
  await later();
  server.on('POST /api/builds/import', () => json(503, { message: 'Full.', faults: [] }));
  expect(await build.settle('both')).toBeNull();
  expect([build.saving, teeth(build)]).toEqual(['conflict', 12]);
});

test('what the server refuses stays here with its reason, and goes out again once it is mended', async () => {
  const { build, row } = opened();
  server.on('PUT /api/builds/{id}', ({ body }) =>
    body.document.parts.drive.motor_teeth > 100
      ? json(422, { message: 'The build cannot be kept.', faults: [] })
      : row.save(body),
  );
  build.set('parts.drive.motor_teeth', 400);
  await later();
  expect([build.saving, build.message, teeth(build)]).toEqual(['refused', 'The build cannot be kept.', 400]);
  build.set('parts.drive.motor_teeth', 14);
  await later();
  expect([build.saving, row.document.parts?.drive?.motor_teeth]).toEqual(['saved', 14]);
});

test('signed out elsewhere is said, and the change is kept for the next sign-in', async () => {
  const { build, row } = opened();
  server.on('PUT /api/builds/{id}', () => json(401, { message: 'Sign in.', faults: [] }));
  build.set('parts.drive.motor_teeth', 12);
  await later();
  expect(build.saving).toBe('signed out');
  server.on('PUT /api/builds/{id}', ({ body }) => row.save(body));
  build.retry();
  await later();
  expect(build.saving).toBe('saved');
});

test('undo goes on after the board was left for another page, unless it was changed meanwhile', async () => {
  const { build, row } = opened();
  build.set('parts.drive.motor_teeth', 12);
  await later();
  build.close();
  const again = new OpenBuild(row.id, row.out);
  again.undo();
  expect(teeth(again)).toBe(15);
  await later();
  again.close();
  row.elsewhere((d) => (d.name = 'Jetty'));
  expect(new OpenBuild(row.id, row.out).history.canUndo).toBe(false);
});

test('parts that are exchanged come back as the core makes them, unless the board was changed meanwhile', async () => {
  const { build } = opened();
  server.on('POST /api/builds/replace-parts', ({ body }) => ({
    ...body.document,
    parts: body.parts,
    settings: { motor_current_a: 40 },
    left_over: [{ name: 'old' }],
  }));
  expect(await build.takeParts({ drive: { motor_teeth: 20 } } as never)).toBe(true);
  expect([teeth(build), build.file.settings?.motor_current_a]).toEqual([20, 40]);
  build.undo();
  expect(build.file).toEqual(DOCUMENT);
  const answer = build.takeParts({ drive: { motor_teeth: 24 } } as never);
  build.set('brief.range_km', 9);
  expect(await answer).toBe(false);
  expect(teeth(build)).toBe(15);
});

test('leaving the page sends what is unsent along, and nothing when all is saved', async () => {
  const { build } = opened();
  build.leave();
  expect(server.received).toEqual([]);
  build.set('parts.drive.motor_teeth', 12);
  build.leave();
  await later(1);
  expect(server.received[0]!.body).toMatchObject({
    revision: 1,
    document: { parts: { drive: { motor_teeth: 12 } } },
  });
});

test('a board is fetched, remembered for when there is no network, and missing ones are told apart', async () => {
  const { row, build } = opened();
  await later(1);
  expect(build.name).toBe('Sea wall');
  expect((await getBuild(row.id)).build?.revision).toBe(1);
  server.offline = true;
  expect(await getBuild(row.id)).toMatchObject({ trouble: '', build: { document: DOCUMENT } });
  expect(await getBuild('never-seen')).toEqual({ trouble: 'unreachable' });
  server.offline = false;
  server.on('GET /api/builds/{id}', () => json(404, { message: 'Not here.', faults: [] }));
  expect(await getBuild(row.id)).toEqual({ trouble: 'missing' });
  const fault = (field: string) =>
    json(422, { message: 'It has faults.', faults: [{ field, reason: 'wrong' }] });
  server.on('GET /api/builds/{id}', () => fault('id'));
  expect(await getBuild('no-id')).toEqual({ trouble: 'missing' });
  server.on('GET /api/builds/{id}', () => fault('parts.deck.length_mm'));
  expect(await getBuild(row.id)).toEqual({ trouble: 'unreadable' });
});

// --- whatever a person does ---------------------------------------------------------------------------------------------

type Deed =
  | { kind: 'set'; path: 'parts.drive.motor_teeth' | 'brief.range_km' | 'name'; value: number | string }
  | { kind: 'undo' | 'redo' | 'wait' | 'offline' | 'online' };

const deeds: fc.Arbitrary<Deed> = fc.oneof(
  fc.record({
    kind: fc.constant('set' as const),
    path: fc.constantFrom('parts.drive.motor_teeth' as const, 'brief.range_km' as const),
    value: fc.integer({ min: 9, max: 30 }),
  }),
  fc.record({ kind: fc.constantFrom('undo', 'redo', 'wait', 'offline', 'online') }),
) as fc.Arbitrary<Deed>;

test('whatever is changed, undone and redone, with and without network, the server ends with what the page shows', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(deeds, { maxLength: 25 }), async (list) => {
      server.reset();
      localStorage.clear();
      const { build, row } = opened();
      const past = [JSON.stringify(build.file)];
      const future: string[] = [];
      for (const deed of list) {
        const before = JSON.stringify(build.file);
        if (deed.kind === 'set') {
          build.set(deed.path as never, deed.value);
          if (JSON.stringify(build.file) !== before) {
            past.push(JSON.stringify(build.file));
            future.length = 0;
          }
        } else if (deed.kind === 'undo') {
          build.undo();
          if (past.length > 1) future.push(past.pop()!);
        } else if (deed.kind === 'redo') {
          build.redo();
          if (future.length) past.push(future.pop()!);
        } else if (deed.kind === 'wait') await later(700);
        else server.offline = deed.kind === 'offline';
        expect(JSON.stringify(build.file)).toBe(past.at(-1));
      }
      server.offline = false;
      await later();
      expect(JSON.stringify(row.document)).toBe(past.at(-1));
      expect([build.saving, build.waiting]).toEqual(['saved', 0]);
      build.close();
    }),
    { numRuns: 60, seed: 7 },
  );
});

test('changes kept under an earlier version of the build file are sent under the names of today', async () => {
  const { row } = opened();
  const earlier = { ...DOCUMENT, version: 1, packwork: { plan: { halves: true } } };
  new Drafts(`sand-pocket:draft:${row.id}`).keep({ revision: 1, document: earlier, base: DOCUMENT });
  server.on('POST /api/builds/upgrade', ({ body }) => {
    const { packwork, ...rest } = body.document as typeof earlier;
    return { ...rest, version: 2, ...(packwork ? { pack_assembly: packwork } : {}) };
  });
  const again = new OpenBuild(row.id, (await getBuild(row.id)).build!);
  expect(again.file).toMatchObject({ version: 2, pack_assembly: { plan: { halves: true } } });
  expect('packwork' in again.file).toBe(false);

  expect(new Drafts<object>(`sand-pocket:draft:${row.id}`).read()).not.toHaveProperty('document');

  // Away just then: the board waits, and the changes stay as they are.
  new Drafts(`sand-pocket:draft:${row.id}`).keep({ revision: 1, document: earlier, base: DOCUMENT });
  server.on('POST /api/builds/upgrade', () => json(503, { message: 'Later.', faults: [] }));
  expect(await getBuild(row.id)).toEqual({ trouble: 'unreachable' });
  expect(new Drafts<{ document: unknown }>(`sand-pocket:draft:${row.id}`).read()?.document).toEqual(earlier);
});

test('a draft holds the changes alone, and is laid on what the server has by then', async () => {
  const { build, row } = opened();
  server.offline = true;
  build.set('parts.drive.motor_teeth', 12);
  await later(1);
  const kept = localStorage.getItem(`sand-pocket:draft:${row.id}`)!;
  expect(kept.length).toBeLessThan(JSON.stringify(DOCUMENT).length);
  expect(kept).not.toContain('rider');
  build.close();
  server.offline = false;
  row.elsewhere((d) => (d.name = 'Jetty'));
  const again = new OpenBuild(row.id, row.out);
  expect([again.name, teeth(again)]).toEqual(['Jetty', 12]);
  await later();
  expect([row.document.name, row.document.parts?.drive?.motor_teeth, again.saving]).toEqual([
    'Jetty',
    12,
    'saved',
  ]);
});

test('what was changed here and elsewhere meanwhile is for the person to settle', async () => {
  const { build, row } = opened();
  server.offline = true;
  build.set('parts.drive.motor_teeth', 12);
  await later(1);
  build.close();
  server.offline = false;
  row.elsewhere((d) => (d.parts!.drive!.motor_teeth = 18));
  const again = new OpenBuild(row.id, row.out);
  await later();
  expect([again.saving, again.theirs?.document.parts?.drive?.motor_teeth, teeth(again)]).toEqual([
    'conflict',
    18,
    12,
  ]);
});

test('what happened to a board moves no prediction, and stays when another board is put in its place', () => {
  const { build } = opened();
  const before = build.board;
  build.change({ trips: [{ id: 'a', name: 'Round the bay', days: [] }] });
  expect(build.board).toBe(before);
  expect(build.board).not.toHaveProperty('trips');
  build.putBoard({ ...before, name: 'Other' });
  expect([build.name, build.file.trips?.length, build.board.name]).toEqual(['Other', 1, 'Other']);
});
