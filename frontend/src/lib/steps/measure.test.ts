import { beforeEach, expect, test, vi } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { reader } from '$lib/reader.svelte';
import { render, screen, textOf, userEvent } from '../../testing/component';
import MeasureField from './MeasureField.svelte';
import { between, lasting, STATES } from './words';

const user = userEvent.setup();
beforeEach(() => (reader.units = {}));
const GAP = {
  id: 'gap',
  text: 'Gap over the box',
  quantity: 'length',
  unit: 'mm',
  low: 2,
  high: null,
} as unknown;

function measured(check: object = {}, value?: number, fault?: string) {
  const onenter = vi.fn();
  const view = render(MeasureField, {
    check: { ...(GAP as object), ...check } as Schemas['Check'],
    value,
    fault,
    onenter,
  });
  return { onenter, input: screen.getByRole<HTMLInputElement>('textbox'), view };
}
const meant = () => textOf(document.querySelector('[data-check] p'));

test.each([
  [{ low: 2, high: null }, 'at least 2 mm'],
  [{ low: null, high: 0.5 }, 'at most 0.5 mm'],
  [{ low: 2, high: 4 }, '2 mm to 4 mm'],
  [{ plan: 56, low: 2, high: 4 }, 'planned 56 mm'],
  [{ low: null, high: null }, ''],
])('what it is to be stands beneath: %o', (check, text) => {
  measured(check);
  expect(meant()).toBe(text);
});

test('any unit can be typed, and the same figure once more is no entry', async () => {
  const { input, onenter, view } = measured();
  await user.type(input, '0.1 in{Enter}');
  expect(onenter.mock.calls).toEqual([[2.54]]);
  await view.rerender({ value: 2.54 });
  expect(input.value).toBe('2.54');
  await user.clear(input);
  await user.type(input, '2.54{Enter}');
  expect(onenter).toHaveBeenCalledOnce();
});

test('a cleared field takes the measurement back, and a wrong one is no measurement', async () => {
  const { input, onenter } = measured({}, 3);
  await user.clear(input);
  await user.type(input, 'much{Enter}');
  expect(textOf(screen.getByRole('alert'))).toContain('Enter a number');
  expect(onenter).not.toHaveBeenCalled();
  await user.clear(input);
  await user.tab();
  expect(onenter.mock.calls).toEqual([[null]]);
});

test('in inches the field, its unit and what it is to be are in inches', () => {
  reader.units = { length: 'in' };
  const { input } = measured({ low: 2.54 }, 25.4);
  expect([input.value, meant()]).toEqual(['1', 'at least 0.1 in']);
});

test('what the server says of it is an alert in place of what it is to be', () => {
  measured({}, 300, 'That is more than the deck is wide. In another unit?');
  expect(textOf(screen.getByRole('alert'))).toContain('In another unit?');
});

// --- words ---------------------------------------------------------------------------------------------------------------

test.each([
  [4.4, '4 min'],
  [49, '49 min'],
  [50, '1 h'],
  [100, '1.5 h'],
  [620, '10 h'],
])('%d minutes are told as %s', (minutes, text) => expect(lasting(minutes)).toBe(text));

test.each([
  [10, 40, '10 to 40 min'],
  [30, 100, '0.5 to 1.5 h'],
  [300, 900, '5 to 15 h'],
])('from %d to %d minutes are told in one unit: %s', (low, high, text) =>
  expect(between({ low, high })).toBe(text),
);

test('no state of a step is told by colour alone', () => {
  const signs = Object.values(STATES).map((s) => s.sign);
  expect(new Set(signs).size).toBe(signs.length);
  expect(Object.values(STATES).every((s) => s.word.length > 3)).toBe(true);
});
