import { message } from '../../testing/message';
import { beforeEach, expect, test } from 'vitest';
import type { Candidate } from '$lib/api/client';
import { reader } from '$lib/reader.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { json, server } from '../../testing/server';
import { Design } from './design.svelte';
import Candidates from './Candidates.svelte';
import { STATIONS } from './stations';
import { render, screen, textOf, userEvent, within } from '../../testing/component';

const change = (name: string, by: number, better = by > 0) => ({
  name,
  quantity: { speed: 'speed', money: 'money' }[name],
  mid: 30 + by,
  change: by,
  low: by - 1,
  high: by + 1,
  better,
  sure: true,
  more_is_better: name !== 'money',
});
const MOTORS = [
  { name: 'Slow motor', price: 60, kv: 90, speed: -6, fits: true },
  { name: 'Fast motor', price: 110, kv: 190, speed: 7, fits: true, owned: true },
  { name: 'Wide motor', price: 80, kv: 170, speed: 4, fits: false },
].map(
  (m, i) =>
    ({
      id: `m${i}`,
      name: m.name,
      price: m.price,
      owned: m.owned ?? false,
      chosen: false,
      fits: m.fits,
      findings: m.fits
        ? []
        : [{ id: 'wide', title: message('Motors collide'), message: message('They overlap by 12 mm.') }],
      record: { kv_rpm_per_v: m.kv },
      parts: { motors: { name: m.name, kv_rpm_per_v: m.kv } },
      changes: [change('speed', m.speed), change('money', m.price - 80, m.price < 80)],
      own: {},
    }) as unknown as Candidate,
);

const user = userEvent.setup();
async function table(candidates = MOTORS, more: object = {}) {
  server.on('POST /api/candidates', () => ({ candidates, columns: ['speed', 'money'], own: [], ...more }));
  server.on('POST /api/predict', () => ({ outcomes: [] }));
  const build = openBuild({ currency: 'EUR' });
  const { made: design } = inComponent(() => new Design(build));
  const slot = STATIONS.find((s) => s.id === 'motor')!.slots.find((s) => s.kind === 'motors')!;
  render(Candidates, { design, slot });
  if (candidates.length) await screen.findAllByTestId('candidate');
  return build;
}
const names = () => screen.queryAllByTestId('candidate').map((row) => row.dataset.name);
const row = (name: string) => screen.getAllByTestId('candidate').find((r) => r.dataset.name === name)!;

beforeEach(() => (reader.units = {}));

test('each part shows what it changes, before anything is chosen', async () => {
  const build = await table();
  expect(textOf(row('Fast motor'))).toContain('+7.0±1.0');
  expect(textOf(row('Slow motor'))).toContain('−6.0±1.0');
  expect(server.to('POST /api/candidates')[0]!.body).toMatchObject({ kind: 'motors', board: build.id });
});

test('a click chooses the part as the core made it, as one step', async () => {
  const build = await table();
  await user.click(row('Fast motor'));
  expect(build.file.parts?.motors).toEqual({ name: 'Fast motor', kv_rpm_per_v: 190 });
  build.undo();
  expect(build.file.parts?.motors).toBeUndefined();
});

test('arrow keys and Enter choose without a mouse', async () => {
  const build = await table();
  screen.getByRole('searchbox').focus();
  await user.keyboard('{ArrowDown}');
  expect(document.activeElement).toBe(row('Fast motor'));
  await user.keyboard('{End}{Home}{ArrowDown}{Enter}');
  expect(build.file.parts?.motors?.name).toBe('Fast motor');
});

test('a part that does not fit says why on demand, and asking does not choose it', async () => {
  const build = await table();
  await user.click(within(row('Wide motor')).getByRole('button', { name: /Motors collide/ }));
  expect(textOf(screen.getByTestId('why-not'))).toContain('They overlap by 12 mm.');
  expect(build.file.parts?.motors).toBeUndefined();
  await user.click(within(row('Wide motor')).getByRole('button', { name: /Motors collide/ }));
  expect(screen.queryByTestId('why-not')).toBeNull();
});

test('the table is narrowed to what fits, lies already owned, costs at most so much, or is called so', async () => {
  await table();
  await user.click(screen.getByLabelText('fits'));
  expect(names()).toEqual(['Slow motor', 'Fast motor']);
  await user.click(screen.getByLabelText('already owned'));
  expect(names()).toEqual(['Fast motor']);
  await user.click(screen.getByLabelText('fits'));
  await user.click(screen.getByLabelText('already owned'));
  await user.type(screen.getByLabelText(/Price at most/), '80');
  expect(names()).toEqual(['Slow motor', 'Wide motor']);
  await user.clear(screen.getByLabelText(/Price at most/));
  await user.type(screen.getByRole('searchbox'), 'motor 170');
  expect(names()).toEqual(['Wide motor']);
  await user.type(screen.getByRole('searchbox'), ' xyz');
  expect(screen.getByText(/No part matches/)).toBeTruthy();
});

test('a column’s head puts the best of it first, where less money is better, and once more as the core had it', async () => {
  await table();
  await user.click(screen.getByRole('button', { name: /^speed/ }));
  expect(names()).toEqual(['Fast motor', 'Wide motor', 'Slow motor']);
  await user.click(screen.getByRole('button', { name: /^cost/ }));
  expect(names()).toEqual(['Slow motor', 'Wide motor', 'Fast motor']);
  expect(screen.getByRole('columnheader', { name: /^cost/ }).getAttribute('aria-sort')).toBe('descending');
  await user.click(screen.getByRole('button', { name: /^cost/ }));
  expect(names()).toEqual(['Slow motor', 'Fast motor', 'Wide motor']);
});

test('why a board has none of this kind is said in the core’s words', async () => {
  await table([], { nothing: { text: '', template: 'Hub motors need no pulleys.', values: {} } });
  expect(await screen.findByText('Hub motors need no pulleys.')).toBeTruthy();
});

test('a library that cannot be reached is no empty table', async () => {
  server.on('POST /api/predict', () => ({ outcomes: [] }));
  const { made: design } = inComponent(() => new Design(openBuild()));
  server.on('POST /api/candidates', () => json(500, { message: 'No.', faults: [] }));
  render(Candidates, { design, slot: STATIONS.find((s) => s.id === 'motor')!.slots[0]! });
  expect(await screen.findByText(/cannot be loaded at the moment/)).toBeTruthy();
});
