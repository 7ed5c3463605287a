import { beforeEach, expect, test, vi } from 'vitest';
import { reader } from '$lib/reader.svelte';
import { openBuild } from '../../testing/build.svelte';
import { fireEvent, render, screen, textOf, userEvent } from '../../testing/component';
import { server } from '../../testing/server';
import { Explorer } from './explore.svelte';
import OpenList from './OpenList.svelte';
import WishRuler from './WishRuler.svelte';

const user = userEvent.setup();
const KV = 'parts.motors.kv_rpm_per_v';
const MAY = {
  usual: { kinds: [], numbers: [] },
  kinds: [
    { kind: 'motors', title: 'Motor', parts: 12, own: 'Outrunner' },
    { kind: 'pack', title: 'Pack', parts: 4, own: null },
    { kind: 'cell', title: 'Cells, to make a pack of', parts: 6, own: null },
    { kind: 'remote', title: 'Remote', parts: 0, own: null },
  ],
  numbers: [{ path: KV, title: 'KV', quantity: 'kv', low: 140, high: 220, step: 10, own: 170 }],
};
async function list(): Promise<Explorer> {
  server.on('POST /api/explore/open', () => MAY);
  const explorer = new Explorer(openBuild());
  await explorer.ask();
  render(OpenList, { explorer });
  return explorer;
}
const box = (name: RegExp) => screen.getByRole<HTMLInputElement>('checkbox', { name });

beforeEach(() => (reader.units = {}));

test('a kind that is open is taken from the library, one that is not stays as it is on the board', async () => {
  const explorer = await list();
  expect(textOf(document.body)).toContain('stays: Outrunner');
  await user.click(box(/^Motor/));
  expect(explorer.open.kinds).toEqual(['motors']);
  expect(textOf(document.body)).toContain('12 of the library');
  await user.click(box(/^Motor/));
  expect(explorer.open.kinds).toEqual([]);
});

test('packs that are ready made and cells to make one of exclude each other', async () => {
  const explorer = await list();
  await user.click(box(/^Pack/));
  await user.click(box(/^Cells/));
  expect(explorer.open.kinds).toEqual(['cell']);
});

test('a kind of which the library has nothing cannot be left open', async () => {
  await list();
  expect(box(/^Remote/).disabled).toBe(true);
});

test('a number is free between its usual ends, which can be altered; what is no number changes nothing', async () => {
  const explorer = await list();
  await user.click(box(/^KV/));
  expect(explorer.open.numbers).toEqual([{ path: KV, low: 140, high: 220, step: 10 }]);
  await fireEvent.change(screen.getByLabelText('KV from'), { target: { value: '150,5' } });
  await fireEvent.change(screen.getByLabelText('KV to'), { target: { value: 'many' } });
  await fireEvent.change(screen.getByLabelText('KV, step'), { target: { value: '' } });
  expect(explorer.open.numbers).toEqual([{ path: KV, low: 150.5, high: 220, step: 10 }]);
  await user.click(box(/^KV/));
  expect(explorer.open.numbers).toEqual([]);
});

test('an end that cannot be is refused at its own field', async () => {
  const explorer = await list();
  await user.click(box(/^KV/));
  explorer.faults = { 'open.numbers.0.low': '900 is above 280' };
  expect(textOf(await screen.findByRole('alert'))).toBe('900 is above 280');
  expect(screen.getByLabelText('KV from').getAttribute('aria-invalid')).toBe('true');
  expect(screen.getByLabelText('KV to').getAttribute('aria-invalid')).toBeNull();
});

// --- wishes ---------------------------------------------------------------------------------------------------------------

const SPREAD = {
  name: 'range',
  quantity: 'distance',
  low: 10,
  high: 30,
  boards: [4, 0, 9, 2],
  sure: [1, 0, 3, 0],
};
function ruler(more: object = {}, wanted: number | null = null) {
  const onpull = vi.fn();
  const spread = { ...SPREAD, ...more } as never;
  const { unmount } = render(WishRuler, { spread, title: 'Range', wanted, currency: 'EUR', onpull });
  return { onpull, unmount, slider: screen.getByRole<HTMLInputElement>('slider') };
}

test('a wish is pulled along a ruler that reaches beyond the boards, so that one that none keeps can be asked for', async () => {
  const { onpull, slider } = ruler();
  expect([Number(slider.min), Number(slider.max)]).toEqual([7.6, 32.4]);
  expect(slider.getAttribute('aria-valuetext')).toBe('no target');
  await fireEvent.input(slider, { target: { value: '20' } });
  expect(onpull).toHaveBeenCalledWith(20);
});

test('the ruler reaches as far as the wish that is there', () => {
  const { slider } = ruler({}, 90);
  expect([Number(slider.max), slider.getAttribute('aria-valuetext')]).toEqual([90, '90\u00a0km']);
});

test('of what is a limit at most is asked for, of all else at least', () => {
  const { unmount } = ruler({ at_most: true, quantity: 'money' }, 600);
  expect(screen.getByRole('slider', { name: 'Range, at most' })).toBeTruthy();
  expect(textOf(document.body)).toContain('≤ 600 €');
  unmount();
  ruler({}, 20);
  expect(screen.getByRole('slider', { name: 'Range, at least' })).toBeTruthy();
});

test('a wish is left open by one press', async () => {
  const { onpull } = ruler({}, 20);
  await user.click(screen.getByRole('button', { name: 'No target for range' }));
  expect(onpull).toHaveBeenCalledWith(null);
});

test('boards that all lie at one figure still have a ruler', () => {
  const { slider } = ruler({ low: 15, high: 15, boards: [7], sure: [7] });
  expect(Number(slider.max)).toBeGreaterThanOrEqual(Number(slider.min));
  expect(document.querySelectorAll('rect[width="NaN"], rect[x="NaN"], line[x1="NaN"]')).toHaveLength(0);
});
