import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { clockText, dayText, momentText, reader, shortDay, today } from './reader.svelte';
import { addressOf, currentAddress } from './navigation';
import { pageAt, pagesOf } from './pages';

beforeEach(() => vi.useFakeTimers({ now: new Date('2026-05-31T12:00:00Z') }));
afterEach(() => vi.useRealTimers());

test('a day of the calendar is the same day wherever it is read', () => {
  expect(dayText('2026-05-01')).toMatch(/May.* 1|1 May/);
  expect(dayText('2026-12-31')).toContain('31');
  expect([dayText(null), dayText(''), momentText(undefined)]).toEqual(['–', '–', '–']);
});

test('a day of this year is told without its year', () => {
  expect(shortDay('2026-05-01')).not.toContain('2026');
  expect(shortDay('2025-05-01')).toContain('2025');
});

test('a moment is told by the reader’s own clock', () => {
  const moment = '2026-05-01T13:05:00Z';
  const hour = new Date(moment).toLocaleTimeString(reader.locale, {
    timeStyle: 'short',
    timeZone: reader.zone,
  });
  expect(clockText(moment)).toBe(hour);
  expect(momentText(moment)).toContain('2026');
  expect(today()).toMatch(/^2026-0[56]-\d\d$/);
});

// --- addresses ----------------------------------------------------------------------------------------------------------

test.each([
  ['#/', '/'],
  ['#/library', '/library'],
  ['#/compare/a,b', '/compare/a,b'],
  ['#/bench/42', '/builds/42/design'],
  ['#/parts/42', '/builds/42/parts-list'],
  ['#/test/42', '/builds/42/bench-test'],
  ['#/bench', null],
  ['#section', null],
  ['', null],
])('the earlier address %s leads to %s', (hash, address) => {
  expect(currentAddress({ pathname: '/', hash, search: '' })).toBe(address);
});

test.each([
  ['/builds/42/bench', '?at=brief.range_km', '/builds/42/design?at=brief.range_km'],
  ['/builds/42/sheet', '', '/builds/42/controller-settings'],
  ['/builds/42/cameto/', '', '/builds/42/review'],
  ['/beginning', '', '/new-board'],
  ['/builds/42/design', '', null],
  ['/builds/42', '', null],
  ['/library', '?find=bench', null],
])('a page under the former name %s is found', (pathname, search, address) => {
  expect(currentAddress({ pathname, hash: '', search })).toBe(address);
});

test('a page of a board has one address, also with the field that it opens at', () => {
  expect(addressOf('42')).toBe('/builds/42');
  expect(addressOf('42', 'design', 'parts.drive.motor_teeth')).toBe(
    '/builds/42/design?at=parts.drive.motor_teeth',
  );
});

test('every page of every stage is found by its own address, and none outside of boards', () => {
  for (const stage of ['plan', 'buy', 'build', 'setup', 'ride'] as never[])
    for (const page of pagesOf(stage)) expect(pageAt(addressOf('42', page.slug))?.slug).toBe(page.slug);
  expect(pageAt('/builds/42')?.slug).toBe('overview');
  expect([pageAt('/library'), pageAt('/'), pageAt('/builds/42/nowhere')]).toEqual([null, null, null]);
});
