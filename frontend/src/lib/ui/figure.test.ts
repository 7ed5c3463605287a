import { beforeEach, expect, test, vi } from 'vitest';
import { reader } from '$lib/reader.svelte';
import Figure from './Figure.svelte';
import { render, screen, textOf, userEvent } from '../../testing/component';

const user = userEvent.setup();
beforeEach(() => (reader.units = {}));

/** An entry field of the build file, as a page shows it. */
function field(path: string, value: unknown, more: object = {}) {
  const onchange = vi.fn();
  const view = render(Figure, { path, value, onchange, ...more });
  return { onchange, view, input: screen.getByRole<HTMLInputElement>('textbox') };
}
const WHEEL = 'parts.wheels.diameter_mm';

test.each([
  ['3.5 in', 88.9],
  ['88,9', 88.9],
  ['8.89 cm', 88.9],
  ['3 1/2"', 88.9],
  ['7/2 in', 88.9],
  ['', null],
])('“%s” typed into a field in millimetres is %s', async (typed, value) => {
  const { input, onchange } = field(WHEEL, 90);
  await user.clear(input);
  await user.type(input, `${typed}{Enter}`);
  expect(onchange).toHaveBeenCalledWith(value);
});

test.each([
  ['ninety', /Enter a number/],
  ['0.09', /outside 40/],
  ['90 lb', /not a unit/],
])('“%s” is refused with its reason, and what was typed stays to be mended', async (typed, reason) => {
  const { input, onchange } = field(WHEEL, 90);
  await user.clear(input);
  await user.type(input, `${typed}{Enter}`);
  expect(textOf(screen.getByRole('alert'))).toMatch(reason);
  expect(input.getAttribute('aria-invalid')).toBe('true');
  expect(document.getElementById(input.getAttribute('aria-describedby')!)).toBe(screen.getByRole('alert'));
  expect([input.value, onchange.mock.calls]).toEqual([typed, []]);
  await user.keyboard('{Escape}');
  expect([input.value, screen.queryByRole('alert')]).toEqual(['90', null]);
});

test('a field shows the person’s own unit and takes a bare number in it', async () => {
  reader.units = { length: 'in' };
  const { input, onchange } = field(WHEEL, 88.9);
  expect(input.value).toBe('3.5');
  await user.clear(input);
  await user.type(input, '4{Enter}');
  expect(onchange).toHaveBeenCalledWith(101.6);
});

test('arrow keys go one step, with Shift ten', async () => {
  const { input, onchange } = field('parts.drive.motor_teeth', 15);
  input.focus();
  await user.keyboard('{ArrowUp}');
  await user.keyboard('{Shift>}{ArrowDown}{/Shift}');
  expect(onchange.mock.calls).toEqual([[16], [5]]);
});

test('leaving the field keeps what was typed, once', async () => {
  const { input, onchange } = field('parts.drive.motor_teeth', 15);
  await user.clear(input);
  await user.type(input, '12');
  await user.tab();
  await user.tab();
  expect(onchange.mock.calls).toEqual([[12]]);
});

test('what is not stated shows what the model takes instead, and by which rule', async () => {
  const estimate = { value: 31.26, rule: 'can volume and KV' };
  const { input } = field('parts.motors.phase_resistance_mohm', null, { estimate });
  expect(input.placeholder).toBe('≈ 31.3');
  await user.click(input);
  expect(textOf(document.body)).toContain('not stated; taken from can volume and KV');
});

test('what the server will not take is said beside the field', () => {
  field('parts.drive.motor_teeth', 15, { fault: 'more teeth than the belt has' });
  expect(textOf(screen.getByRole('alert'))).toContain('more teeth than the belt has');
});

test('a figure is marked as measured with what and when, and the mark is taken back', async () => {
  const onmeasured = vi.fn();
  field('parts.motors.kv_rpm_per_v', 170, { onmeasured, measured: null });
  await user.click(screen.getByRole('button', { name: /mark as measured/ }));
  await user.type(screen.getByLabelText('Measured with'), 'drill and meter');
  await user.clear(screen.getByLabelText('On'));
  await user.type(screen.getByLabelText('On'), '2026-05-01');
  await user.click(screen.getByRole('button', { name: 'It is measured' }));
  expect(onmeasured).toHaveBeenCalledWith({ by: 'drill and meter', day: '2026-05-01' });
});

test('a field of choices sends the choice, yes as true, and “not stated” as nothing', async () => {
  const onchange = vi.fn();
  const { unmount } = render(Figure, { path: 'parts.controller.programmable', value: null, onchange });
  const choice = screen.getByRole<HTMLSelectElement>('combobox');
  await user.selectOptions(choice, 'yes');
  await user.selectOptions(choice, 'no');
  unmount();
  render(Figure, { path: 'brief.surface', value: 'asphalt', onchange });
  await user.selectOptions(screen.getByRole('combobox'), '');
  expect(onchange.mock.calls).toEqual([[true], [false], [null]]);
});

test('an entry that states more than the field is read elsewhere, and a refusal stands beside it', async () => {
  const onnotation = vi.fn((text: string) => Promise.resolve(text.includes('S') ? null : 'No such cells.'));
  const { input, onchange } = field('parts.pack.series', 10, { onnotation });
  await user.clear(input);
  await user.type(input, '12S3P{Enter}');
  await vi.waitFor(() => expect(input.getAttribute('aria-invalid')).toBeNull());
  await user.clear(input);
  await user.type(input, '12 cows{Enter}');
  await vi.waitFor(() => expect(textOf(screen.getByRole('alert'))).toBe('No such cells.'));
  expect([onnotation.mock.calls, onchange.mock.calls]).toEqual([[['12S3P'], ['12 cows']], []]);
  expect(input.value).toBe('12 cows');
});

test('a title that is a term opens its explanation and still names its field', async () => {
  field('parts.motors.kv_rpm_per_v', 190);
  expect(screen.getByLabelText('KV')).toBe(screen.getByRole('textbox'));
  await user.click(screen.getByRole('button', { name: 'KV' }));
  await vi.waitFor(() =>
    expect(textOf(screen.getByTestId('term-kv'))).toContain('turns a minute a motor makes for each volt'),
  );
});
