import { expect, test } from 'vitest';
import type { Outcome } from '$lib/api/client';
import Gauge from './Gauge.svelte';
import { render, screen } from '../../testing/component';
import fc from '../../testing/property';

const SPEED = {
  name: 'speed',
  title: 'Speed',
  quantity: 'speed',
  mid: 35,
  low: 32,
  high: 38,
  wanted: 30,
  verdict: 'on target',
  more_is_better: true,
  chance_in_words: 'over 95 % likely',
  message: {
    text: '',
    template: 'The pack gives out at {v}.',
    values: { v: { value: 35, quantity: 'speed' } },
  },
} as unknown as Outcome;
const shown = (outcome: object = {}, more: object = {}) =>
  render(Gauge, { outcome: { ...SPEED, ...outcome } as Outcome, units: {}, ...more });
const picture = () => screen.getByRole('img').getAttribute('aria-label')!;

test('the picture has everything in words: middle, band, brief, chance and limit', () => {
  shown();
  expect(picture()).toBe(
    'Speed: 35 km/h, between 32 km/h and 38 km/h. Target 30 km/h: on target. over 95 % likely. ' +
      'The pack gives out at 35\u00a0km/h.',
  );
});

test('in the person’s own units, in the words too', () => {
  shown({}, { units: { speed: 'mph' } });
  expect(picture()).toContain('21.7 mph, between 19.9 mph and 23.6 mph');
  expect(screen.getByText('22')).toBeTruthy();
});

test.each([
  [{ verdict: 'short', more_is_better: true }, 'short'],
  [{ verdict: 'over', more_is_better: false }, 'over'],
  [{ verdict: 'uncertain' }, 'uncertain'],
  [{ verdict: 'no target', wanted: null }, 'no target'],
])('the verdict is a word and never a colour alone: %o', (outcome, word) => {
  const { container } = shown(outcome);
  expect(container.querySelector('figcaption')!.textContent).toContain(word);
});

test('what cannot be predicted yet shows a dash and no block', () => {
  const { container } = shown({ mid: null, low: null, high: null, verdict: 'not predicted' });
  expect(picture()).toBe('Speed: not predicted yet.');
  expect(container.querySelector('.block-on-gauge')).toBeNull();
  expect(container.querySelector('figcaption')!.textContent).toContain('–');
});

test('whatever is predicted and asked for, block and notch lie within the ruled scale', () => {
  const km = fc.double({ min: 0, max: 2000, noNaN: true });
  fc.assert(
    fc.property(km, km, km, fc.option(km), (a, b, c, wanted) => {
      const [low, mid, high] = [a, b, c].sort((x, y) => x - y);
      const { container, unmount } = shown({ low, mid, high, wanted, quantity: 'distance' }, { height: 200 });
      const numbers = (selector: string, ...names: string[]) =>
        [...container.querySelectorAll(selector)].flatMap((e) => names.map((n) => Number(e.getAttribute(n))));
      const block = container.querySelector<SVGGElement>('.block-on-gauge')!;
      const top = Number(/translateY\((.*)px\)/.exec(block.getAttribute('style')!)![1]);
      const height = Number(block.querySelector('rect')!.getAttribute('height'));
      expect(height).toBeGreaterThan(0);
      for (const y of [top, top + height, ...numbers('svg > line', 'y1', 'y2')]) {
        expect(y).toBeGreaterThanOrEqual(-2);
        expect(y).toBeLessThanOrEqual(202);
      }
      unmount();
    }),
    { numRuns: 40 },
  );
});

test('two gauges on one scale put the same figure at the same height', () => {
  const ys = [30, 45].map((wanted) => {
    const { container, unmount } = shown({ wanted }, { end: 60, height: 220 });
    const block = container.querySelector('.block-on-gauge')!.getAttribute('style')!;
    unmount();
    return block;
  });
  expect(ys[0]).toBe(ys[1]);
});
