import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { json, server } from '../../testing/server';
import { OpenPart } from './part.svelte';

type Record_ = Record<string, unknown>;

/** A part at the server: a KV above 6000 is refused, with its reason. */
class Row {
  record: Record_ = { name: 'Winch motor', kv_rpm_per_v: 190 };

  constructor(readonly own = true) {
    server.on('GET /api/parts/{id}', () => this.out());
    server.on('PUT /api/parts/{id}', ({ body }) => {
      if (JSON.stringify(body.before) !== JSON.stringify(this.record)) return json(409, this.out());
      const faults = [
        ...(body.record.kv_rpm_per_v > 6000 ? [{ field: 'kv_rpm_per_v', reason: 'at most 6000' }] : []),
        ...(body.record.name === '' ? [{ field: 'name', reason: 'cannot be empty' }] : []),
      ];
      if (faults.length) return json(422, { message: 'Not kept.', faults });
      this.record = body.record;
      return this.out();
    });
  }

  out(): object {
    return { id: 'p1', kind: 'motors', own: this.own, record: this.record, assumed: [] };
  }
}

const later = (ms = 10_000) => vi.advanceTimersByTimeAsync(ms);
let altered = 0;
async function opened(row = new Row()): Promise<{ part: OpenPart; row: Row }> {
  altered = 0;
  const part = new OpenPart(
    'p1',
    () => ['kv_rpm_per_v'],
    () => (altered += 1),
  );
  await later();
  return { part, row };
}

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

test('an alteration is shown at once, kept by the server, and told to the table', async () => {
  const { part, row } = await opened();
  part.set('kv_rpm_per_v', 170);
  expect(part.value('kv_rpm_per_v')).toBe(170);
  await later();
  expect([row.record.kv_rpm_per_v, altered, part.history.canUndo]).toEqual([170, 1, true]);
});

test('what is refused stays in its field with the reason and keeps nothing else back', async () => {
  const { part, row } = await opened();
  part.set('kv_rpm_per_v', 99_999);
  part.set('can_diameter_mm', 63);
  await later();
  expect([part.value('kv_rpm_per_v'), part.faults]).toEqual([99_999, { kv_rpm_per_v: 'at most 6000' }]);
  expect(row.record).toEqual({ name: 'Winch motor', kv_rpm_per_v: 190, can_diameter_mm: 63 });
  part.set('kv_rpm_per_v', 180);
  await later();
  expect([row.record.kv_rpm_per_v, part.faults]).toEqual([180, {}]);
});

test('a reason that belongs to no field on the page is said above them', async () => {
  const { part } = await opened();
  part.set('name', '');
  await later();
  expect(part.message).toBe('cannot be empty');
});

test('undo goes back one alteration after everything before it has arrived', async () => {
  const { part, row } = await opened();
  part.set('kv_rpm_per_v', 170);
  await later();
  part.set('kv_rpm_per_v', 150);
  const undone = part.undo();
  await later();
  await undone;
  expect([row.record.kv_rpm_per_v, part.value('kv_rpm_per_v')]).toEqual([170, 170]);
  const again = part.undo();
  await later();
  await again;
  expect(row.record.kv_rpm_per_v).toBe(190);
});

test('an undo that does not reach the server can be tried again', async () => {
  const { part, row } = await opened();
  part.set('kv_rpm_per_v', 170);
  await later();
  server.on('PUT /api/parts/{id}', () => json(503, { message: 'Later.', faults: [] }));
  const undone = part.undo();
  await later();
  await undone;
  expect([part.history.canUndo, part.value('kv_rpm_per_v'), row.record.kv_rpm_per_v]).toEqual([
    true,
    170,
    170,
  ]);
});

test('alterations without network survive a reload', async () => {
  const { part, row } = await opened();
  server.offline = true;
  part.set('kv_rpm_per_v', 140);
  await later(500);
  part.close();
  server.offline = false;
  const again = (await opened(row)).part;
  await later();
  expect([again.value('kv_rpm_per_v'), row.record.kv_rpm_per_v]).toEqual([140, 140]);
});

test('what was changed elsewhere stands beside what was changed here', async () => {
  const { part, row } = await opened();
  row.record = { ...row.record, mass_g: 700 };
  part.set('kv_rpm_per_v', 140);
  await later();
  expect(row.record).toEqual({ name: 'Winch motor', kv_rpm_per_v: 140, mass_g: 700 });
  expect([part.faults, part.value('mass_g')]).toEqual([{}, 700]);
  await part.undo();
  await later();
  expect(row.record).toEqual({ name: 'Winch motor', kv_rpm_per_v: 190, mass_g: 700 });
});

test('one figure changed here and elsewhere waits for the person, also over a reload', async () => {
  const { part, row } = await opened();
  row.record = { ...row.record, kv_rpm_per_v: 170 };
  part.set('kv_rpm_per_v', 140);
  part.set('can_diameter_mm', 63);
  await later();
  expect(row.record).toEqual({ name: 'Winch motor', kv_rpm_per_v: 170, can_diameter_mm: 63 });
  expect([part.value('kv_rpm_per_v'), part.faults.kv_rpm_per_v]).toEqual([
    140,
    expect.stringContaining('changed elsewhere'),
  ]);
  part.close();
  const again = (await opened(row)).part;
  await later();
  expect([again.value('kv_rpm_per_v'), row.record.kv_rpm_per_v]).toEqual([140, 170]);
  again.set('kv_rpm_per_v', 140);
  await later();
  expect([again.faults, row.record.kv_rpm_per_v]).toEqual([{}, 140]);
});

test('a draft of before a change elsewhere does not replace it', async () => {
  const { part, row } = await opened();
  server.offline = true;
  part.set('kv_rpm_per_v', 140);
  await later(500);
  part.close();
  row.record = { ...row.record, kv_rpm_per_v: 200 };
  server.offline = false;
  const again = (await opened(row)).part;
  await later();
  expect([again.value('kv_rpm_per_v'), row.record.kv_rpm_per_v]).toEqual([140, 200]);
});

test('an undo does not take back what was changed elsewhere', async () => {
  const { part, row } = await opened();
  part.set('kv_rpm_per_v', 170);
  await later();
  row.record = { ...row.record, mass_g: 700 };
  const undone = part.undo();
  await later();
  await undone;
  expect([row.record.kv_rpm_per_v, row.record.mass_g]).toEqual([170, 700]);
  expect(part.message).toContain('changed elsewhere');
});

test('a shared part takes no draft, and one that cannot be fetched says so until it can', async () => {
  localStorage.setItem('sand-pocket:part:p1', '{"kv_rpm_per_v": 1}');
  const shared = (await opened(new Row(false))).part;
  expect(shared.value('kv_rpm_per_v')).toBe(190);
  server.offline = true;
  const { part } = await opened();
  expect([part.failed, part.part]).toEqual([true, null]);
  server.offline = false;
  part.retry();
  await later();
  expect([part.failed, part.value('name')]).toEqual([false, 'Winch motor']);
});
