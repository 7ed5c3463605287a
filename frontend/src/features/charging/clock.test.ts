import { expect, test } from 'vitest';
import { beganAt, clockOf, daysBefore, hoursOf, nowText } from './clock';

test.each([
  [450, '07:30'],
  [0, '00:00'],
  [-30, '23:30'],
  [1441, '00:01'],
])('minute %i of the day is %s', (minute, shown) => expect(clockOf(minute)).toBe(shown));

test.each([
  [59, '59 min'],
  [60, '1 h 00'],
  [167.6, '2 h 48'],
])('%f minutes are %s', (minutes, shown) => expect(hoursOf(minutes)).toBe(shown));

test('days before are said only where there are any', () => {
  expect([0, 1, 2].map(daysBefore)).toEqual(['', ' the day before', ' 2 days before']);
});

test('a moment is written as the build file has it and read back to the second', () => {
  const moment = Date.UTC(2026, 10, 22, 13, 5, 7, 300);
  expect(nowText(moment)).toBe('2026-11-22T13:05:07Z');
  expect(beganAt(nowText(moment))).toBe(moment - 300);
});
