import { expect, test } from 'vitest';
import { History, REMEMBERED_STEPS } from './history.svelte';

test('undo and redo go back and forth over the same steps', () => {
  const history = new History<string>();
  history.step('bare');
  history.step('with a deck');
  expect(history.undo('with a motor')).toBe('with a deck');
  expect(history.undo('with a deck')).toBe('bare');
  expect(history.undo('bare')).toBeUndefined();
  expect(history.redo('bare')).toBe('with a deck');
  expect(history.redo('with a deck')).toBe('with a motor');
  expect(history.canRedo).toBe(false);
});

test('a new step after an undo forgets what was undone', () => {
  const history = new History<string>();
  history.step('15 teeth');
  history.undo('12 teeth');
  history.step('15 teeth');
  expect(history.canRedo).toBe(false);
  expect(history.undo('18 teeth')).toBe('15 teeth');
});

test('only so many steps are remembered, and the latest of them', () => {
  const history = new History<number>();
  for (let i = 0; i < REMEMBERED_STEPS + 50; i++) history.step(i);
  let last: number | undefined;
  let count = 0;
  for (let now = -1; history.canUndo; count++) last = now = history.undo(now)!;
  expect(count).toBe(REMEMBERED_STEPS);
  expect(last).toBe(50);
});

test('on another ground the steps that cannot stand there are forgotten', () => {
  const history = new History<number>();
  [1, 2, 3].forEach((step) => history.step(step));
  history.rebase((step) => (step === 2 ? null : step * 10));
  expect(history.undo(40)).toBe(30);
  expect(history.undo(30)).toBe(10);
  expect(history.canUndo).toBe(false);
});
