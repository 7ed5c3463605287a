import { expect, test } from 'vitest';
import { forgetEntered, unsent } from './drafts';
import { clearCache, noteOpened, readCache, writeCache } from './device-cache';

test('twelve boards are remembered; the one that was open longest ago makes room, with everything of it', async () => {
  for (let i = 0; i < 12; i++) {
    await noteOpened(`b${i}`);
    await writeCache(`build:b${i}`, { number: i });
    await writeCache(`rides:b${i}`, { number: i });
  }
  await noteOpened('b0'); // checked again: b1 is now the oldest
  await noteOpened('new');
  expect(await readCache('build:b1')).toBeUndefined();
  expect(await readCache('rides:b1')).toBeUndefined();
  expect(await readCache('build:b0')).toEqual({ number: 0 });
  expect(await readCache('build:b11')).toEqual({ number: 11 });
});

test('a board whose id ends like another’s keeps what is its own', async () => {
  await writeCache('build:xb1', 'other');
  await noteOpened('b1');
  for (let i = 0; i < 12; i++) await noteOpened(`c${i}`);
  expect(await readCache('build:xb1')).toBe('other');
});

test('signing out forgets all of it', async () => {
  await writeCache('build:b1', 1);
  await clearCache();
  expect(await readCache('build:b1')).toBeUndefined();
});

test('what was not sent is named by what it is, and thrown away only when asked to', () => {
  localStorage.setItem('sand-pocket:draft:1', '{}');
  localStorage.setItem('sand-pocket:rides:1', '{}');
  localStorage.setItem('sand-pocket:something-new:1', '{}');
  localStorage.setItem('another-site', 'kept');
  expect(unsent().sort()).toEqual(['changes to a board', 'rides', 'something entered']);
  forgetEntered();
  expect([unsent(), localStorage.getItem('another-site')]).toEqual([[], 'kept']);
});
