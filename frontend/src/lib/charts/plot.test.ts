import { beforeEach, expect, test } from 'vitest';
import type { Curve } from '$lib/api/client';
import { reader } from '$lib/reader.svelte';
import Plot from './Plot.svelte';
import { fireEvent, render, screen, textOf, userEvent } from '../../testing/component';
import { downloads } from '../../testing/device';

const PLOT = {
  id: 'range',
  title: 'Range against cruising speed',
  text: 'At 20 km/h it goes 30 km.',
  x_title: 'cruising speed',
  x_quantity: 'speed',
  y_title: 'range',
  y_quantity: 'distance',
  marks: [{ name: 'your cruise', x: 20 }],
  lines: [
    {
      name: 'range',
      short: 'range',
      role: 'can',
      x: [10, 20, 30],
      mid: [40, 30, 20],
      low: [35, 25, 15],
      high: [45, 35, 25],
    },
    { name: 'to the "end"', short: null, role: 'limit', x: [10, 30], mid: [50, 30], low: null, high: null },
  ],
} as unknown as Curve;

beforeEach(() => {
  reader.units = {};
});
const rows = () => downloads[0]!.content.trim().split('\r\n');

test('the picture is named by its title and its words', () => {
  render(Plot, { plot: PLOT, name: 'spit-runner' });
  expect(screen.getByRole('img').getAttribute('aria-label')).toBe(`${PLOT.title}. ${PLOT.text}`);
});

test('the values go out as CSV with units in the heads, a gap where a line has no band, and quotes doubled', async () => {
  render(Plot, { plot: PLOT, name: 'spit-runner' });
  await userEvent.click(screen.getByRole('button', { name: /as CSV/ }));
  expect(downloads[0]).toMatchObject({ type: 'text/csv', name: 'spit-runner-range.csv' });
  expect(rows()).toEqual([
    '"line","cruising speed (km/h)","range (km)","low","high"',
    '"range",10,40,35,45',
    '"range",20,30,25,35',
    '"range",30,20,15,25',
    '"to the ""end""",10,50,"",""',
    '"to the ""end""",30,30,"",""',
  ]);
});

test('in miles everything is in miles, axis, values and file', async () => {
  reader.units = { speed: 'mph', distance: 'mi' };
  render(Plot, { plot: PLOT, name: 'spit-runner' });
  expect(screen.getByText('cruising speed, mph')).toBeTruthy();
  await userEvent.click(screen.getByRole('button', { name: /as CSV/ }));
  expect(rows()[1]).toBe('"range",6.2137,24.8548,21.748,27.9617');
});

test('the SVG that is kept stands alone: no variable of the page, no pointer', async () => {
  document.documentElement.style.setProperty('--color-ink', '#12303a');
  render(Plot, { plot: PLOT, name: 'spit-runner' });
  await fireEvent.keyDown(screen.getByRole('img'), { key: 'ArrowRight' });
  await userEvent.click(screen.getByRole('button', { name: /as SVG/ }));
  const { content, name } = downloads[0]!;
  expect(name).toBe('spit-runner-range.svg');
  expect(content).toMatch(/^<svg[^>]*xmlns="http:\/\/www.w3.org\/2000\/svg"/);
  expect(content).not.toContain('var(--');
  expect(content).not.toContain('data-pointer');
});

test('arrow keys walk along the axis and read the lines between their points', async () => {
  render(Plot, { plot: PLOT, name: 'spit-runner' });
  const picture = screen.getByRole('img');
  // From the start of the axis, 40 steps to its end at 30 km/h: 20 of them are 15 km/h.
  for (let i = 0; i < 20; i++) await fireEvent.keyDown(picture, { key: 'ArrowRight' });
  expect(textOf(document.body)).toContain('15 km/h');
  expect(textOf(document.body)).toContain('range35 km');
  for (let i = 0; i < 60; i++) await fireEvent.keyDown(picture, { key: 'ArrowRight' });
  expect(textOf(document.body)).toContain('30 km/h');
  await fireEvent.blur(picture);
  expect(textOf(document.body)).not.toContain('30 km/h');
});

test('bands of three boards let each other through, and a line without a band has none', () => {
  const bands = (count: number) => {
    const lines = Array.from({ length: count }, (_, i) => ({ ...PLOT.lines[0]!, name: `board ${i}` }));
    const { container, unmount } = render(Plot, { plot: { ...PLOT, lines } as Curve, name: 'x' });
    const found = [...container.querySelectorAll('path[opacity]')].map((p) => p.getAttribute('opacity'));
    unmount();
    return found;
  };
  expect(bands(2)).toEqual(['0.7', '0.7']);
  expect(bands(3)).toEqual(['0.35', '0.35', '0.35']);
});
