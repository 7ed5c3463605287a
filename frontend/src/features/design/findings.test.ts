import { expect, test, vi } from 'vitest';
import type { Finding } from '$lib/api/client';
import { today } from '$lib/reader.svelte';
import { inComponent, openBuild } from '../../testing/build.svelte';
import { render, screen, textOf, userEvent, within } from '../../testing/component';
import { message } from '../../testing/message';
import { server } from '../../testing/server';
import { Design } from './design.svelte';
import Findings from './Findings.svelte';
import Handles from './Handles.svelte';

const DANGER = {
  id: 'controller-cells-mismatch',
  severity: 'danger',
  title: message('Cell count set to 5'),
  text: 'A cut-off meant for 5 cells comes at 14 V.',
  message: message('A cut-off meant for 5 cells comes at {v}.', { v: { value: 14, quantity: 'voltage' } }),
  fields: ['settings.cells_in_series'],
  about: ['controller'],
  fixes: [{ message: message('Set 10 cells'), changes: { 'settings.cells_in_series': 10 } }],
  aside: null,
} as unknown as Finding;
const NOTE = {
  ...DANGER,
  id: 'stiff',
  severity: 'note',
  title: message('A stiff deck'),
  fixes: [],
  fields: [],
} as unknown as Finding;

const user = userEvent.setup();
function shown(findings: Finding[], more: object = {}) {
  server.on('POST /api/predict', () => ({ outcomes: [] }));
  const build = openBuild({ settings: { cells_in_series: 5 } });
  const { made: design } = inComponent(() => new Design(build));
  const goToField = vi.fn();
  render(Findings, { design, findings, needs: [], goToField, ...more });
  return { build, goToField };
}
const finding = (title: string) => screen.getAllByTestId('finding').find((f) => textOf(f).includes(title))!;

test('a finding says its gravity in words, its numbers in the person’s units, and has its fix as one click', async () => {
  const { build } = shown([DANGER]);
  expect(textOf(finding('Cell count'))).toContain('danger: Cell count set to 5');
  expect(textOf(finding('Cell count'))).toContain('comes at 14 V.');
  await user.click(screen.getByRole('button', { name: 'Set 10 cells' }));
  expect(build.file.settings?.cells_in_series).toBe(10);
  build.undo();
  expect(build.file.settings?.cells_in_series).toBe(5);
});

test('it leads to the field that it is about', async () => {
  const { goToField } = shown([DANGER]);
  await user.click(screen.getByRole('button', { name: 'Go there: Cell count set to 5' }));
  expect(goToField).toHaveBeenCalledWith('settings.cells_in_series');
});

test('a danger is accepted only with a reason, which the build keeps with the day', async () => {
  const { build } = shown([DANGER]);
  await user.click(screen.getByRole('button', { name: /^Accept the risk: Cell count/ }));
  const dialog = await screen.findByRole('dialog');
  await user.click(within(dialog).getByRole('button', { name: 'Accept the risk' }));
  expect(textOf(within(dialog).getByRole('alert'))).toContain('Enter a short reason');
  expect(build.file.accepted).toBeUndefined();
  await user.type(within(dialog).getByLabelText('Why do you accept it?'), 'five groups on the bench supply');
  await user.click(within(dialog).getByRole('button', { name: 'Accept the risk' }));
  expect(build.file.accepted).toEqual([
    {
      finding: DANGER.id,
      reason: 'five groups on the bench supply',
      text: DANGER.text,
      day: today(),
    },
  ]);
});

test('a note needs no reason, so it cannot be set aside', () => {
  shown([NOTE]);
  expect(screen.queryByRole('button', { name: /Set aside/ })).toBeNull();
});

test('what was accepted stays in sight with the reason, says when its numbers have changed, and is taken up again', async () => {
  const accepted = { reason: 'bench supply', text: 'comes at 15 V.', day: '2026-05-01' };
  const { build } = shown([{ ...DANGER, accepted } as Finding]);
  const kept = screen.getByTestId('finding-accepted');
  expect(textOf(kept)).toContain('“bench supply”');
  expect(textOf(kept)).toContain('It said then: comes at 15 V.');
  expect(screen.queryAllByTestId('finding')).toEqual([]);
  build.put({ ...build.file, accepted: [{ finding: DANGER.id, reason: 'x', text: 'y' }] } as never);
  await user.click(screen.getByText(/Accepted, with your reason/));
  await user.click(screen.getByRole('button', { name: /Reopen/ }));
  expect(build.file.accepted ?? null).toBeNull();
});

test('what is still needed leads to each field', async () => {
  const needs = [
    { field: 'parts.motors.kv_rpm_per_v', reason: 'Choose a motor: the prediction needs its KV.' },
  ];
  const { goToField } = shown([], { needs });
  await user.click(screen.getByRole('button', { name: /needs its KV/ }));
  expect(goToField).toHaveBeenCalledWith('parts.motors.kv_rpm_per_v');
});

// --- handles --------------------------------------------------------------------------------------------------------------

test('a handle shows its figure with the unit, and reaches as far as the value that is there', async () => {
  server.on('POST /api/predict', () => ({ outcomes: [] }));
  const build = openBuild({ parts: { drive: { motor_teeth: 30, wheel_teeth: 42 } } });
  const { made: design } = inComponent(() => new Design(build));
  const handles = [
    { path: 'parts.drive.motor_teeth', low: 9, high: 24, step: 1 },
    { path: 'parts.pack.parallel', low: 1, high: 8, step: 1 },
  ];
  render(Handles, { design, handles });
  const sliders = screen.getAllByRole<HTMLInputElement>('slider');
  expect(sliders).toHaveLength(1); // a figure that is not there has no handle
  expect([sliders[0]!.min, sliders[0]!.max, sliders[0]!.getAttribute('aria-valuetext')]).toEqual([
    '9',
    '30',
    '30',
  ]);
});

test('a figure that is marked as measured loses both of its marks when it is not', () => {
  server.on('POST /api/predict', () => ({ outcomes: [] }));
  const motors = { name: 'Outrunner', kv_rpm_per_v: 170, measured: ['kv_rpm_per_v', 'no_load_current_a'] };
  const build = openBuild({ parts: { motors } });
  const { made: design } = inComponent(() => new Design(build));
  design.mark('parts.motors.kv_rpm_per_v', { path: 'parts.motors.kv_rpm_per_v', by: 'drill' });
  expect(design.measured('parts.motors.kv_rpm_per_v')?.by).toBe('drill');
  design.mark('parts.motors.kv_rpm_per_v', null);
  expect(design.measured('parts.motors.kv_rpm_per_v')).toBeUndefined();
  expect(build.file.parts?.motors?.measured).toEqual(['no_load_current_a']);
});

test('a proposed board replaces parts and settings, and a refusal leaves the board as it was', async () => {
  server.on('POST /api/predict', () => ({ outcomes: [] }));
  const build = openBuild();
  const { made: design } = inComponent(() => new Design(build));
  server.on('POST /api/builds/replace-parts', ({ body }) => ({ ...body.document, parts: body.parts }));
  const proposed = {
    ...build.file,
    name: 'Theirs',
    parts: { drive: { motor_teeth: 20 } },
    settings: { max_erpm: 1 },
  };
  expect(await design.lay(proposed as never)).toBe(true);
  expect([build.name, build.file.parts?.drive?.motor_teeth, build.file.settings]).toEqual([
    'Sea wall',
    20,
    { max_erpm: 1 },
  ]);
  server.offline = true;
  const before = build.file;
  expect(await design.lay(proposed as never)).toBe(false);
  expect(build.file).toBe(before);
});
