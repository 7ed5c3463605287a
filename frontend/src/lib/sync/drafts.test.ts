import { beforeEach, expect, test, vi } from 'vitest';
import { deviceStorage } from './device-storage.svelte';
import { Drafts } from './drafts';

beforeEach(() => localStorage.clear());

test('a draft outlives the page, each under its own key', () => {
  new Drafts<{ teeth: number }>('board a').keep({ teeth: 12 });
  expect(new Drafts('board a').read()).toEqual({ teeth: 12 });
  expect(new Drafts('board b').read()).toBeNull();
  new Drafts('board a').forget();
  expect(new Drafts('board a').read()).toBeNull();
});

test('a draft that cannot be read is none', () => {
  localStorage.setItem('board a', '{"teeth": 1');
  expect(new Drafts('board a').read()).toBeNull();
});

test('a full store stops nobody from going on, and is known until something can be kept again', () => {
  vi.stubGlobal('localStorage', {
    setItem() {
      throw new DOMException('full', 'QuotaExceededError');
    },
  });
  new Drafts('board a').keep('anything');
  expect(deviceStorage.full).toBe(true);
  vi.unstubAllGlobals();
  new Drafts('board a').keep('anything');
  expect(deviceStorage.full).toBe(false);
});
