import { expect, test } from 'vitest';
import { server } from '../testing/server';
import { reader } from './reader.svelte';
import { session } from './session.svelte';

const WHO = {
  name: 'warden',
  is_demo: false,
  demo_boards: 0,
  registration: 'open',
  mail_works: false,
  preferences: { units: { speed: 'mph' }, theme: 'day' },
} as const;
const name = () => session.who?.name;

test('who is here is known without network too, with their units', async () => {
  server.on('GET /api/session', () => WHO);
  await session.load();
  expect([session.who?.name, reader.units]).toEqual(['warden', { speed: 'mph' }]);
  server.offline = true;
  reader.units = {};
  await session.load();
  expect([session.failed, session.who?.name, reader.units]).toEqual([false, 'warden', { speed: 'mph' }]);
});

test('a device that has seen nobody says that the server cannot be reached', async () => {
  server.offline = true;
  await session.load();
  expect(session.failed).toBe(true);
});

test('a preference takes effect at once, and the last of several is the one that is kept', async () => {
  session.who = WHO as never;
  server.on('PUT /api/preferences', async ({ body }) => {
    await new Promise((resolve) => setTimeout(resolve, body.theme === 'night' ? 30 : 5));
    return {};
  });
  const first = session.prefer({ theme: 'night' });
  expect(session.theme).toBe('night');
  const second = session.prefer({ units: { length: 'in' } });
  expect(reader.units).toEqual({ length: 'in' });
  await Promise.all([first, second]);
  const kept = server.to('PUT /api/preferences').map((r) => r.body);
  expect(kept.at(-1)).toEqual({ theme: 'night', units: { length: 'in' } });
});

test('somebody who is not signed in has preferences for this page alone', async () => {
  session.who = { ...WHO, name: null } as never;
  await session.prefer({ theme: 'night' });
  expect([session.theme, server.received]).toEqual(['night', []]);
});

test('signing out leaves nothing of the workshop on the device; without network nobody is signed out', async () => {
  session.who = WHO as never;
  server.offline = true;
  expect(await session.signOut()).toBe(false);
  expect(name()).toBe('warden');
  server.offline = false;
  const { readCache, writeCache } = await import('./sync/device-cache');
  await writeCache('build:1', { name: 'Sea wall' });
  server.on('POST /api/session/sign-out', () => ({ ...WHO, name: null, preferences: {} }));
  expect(await session.signOut()).toBe(true);
  expect(await readCache('build:1')).toBeUndefined();
  expect(name()).toBeNull();
});

test('what somebody left on a device is shown to nobody else, and waits for them while their session is over', async () => {
  const { readCache, writeCache } = await import('./sync/device-cache');
  const { Drafts, unsent } = await import('./sync/drafts');
  const begun = new Drafts<string>('sand-pocket:beginning');
  session.who = WHO as never;
  begun.keep('six answers');
  new Drafts('sand-pocket:explorer:1').keep({ wishes: {} });
  await writeCache('build:1', { name: 'Sea wall' });
  expect(unsent()).toEqual(['the beginning of a board']);
  // The session is over, without anybody having signed out.
  session.who = { ...WHO, name: null } as never;
  expect(await readCache('build:1')).toBeUndefined();
  session.who = WHO as never;
  expect(begun.read()).toBe('six answers');
  await writeCache('build:1', { name: 'Sea wall' });
  session.who = { ...WHO, name: null } as never;
  session.who = { ...WHO, name: 'somebody else' } as never;
  expect([await readCache('build:1'), begun.read(), unsent()]).toEqual([undefined, null, []]);
  expect((await readCache<{ name: string }>('who'))?.name).toBe('somebody else');
});

test('the light follows the system until something is chosen', () => {
  session.who = { ...WHO, preferences: { units: {}, theme: 'system' } } as never;
  expect(session.theme).toBe(window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day');
});
