import { beforeEach, expect, test } from 'vitest';
import { session } from '$lib/session.svelte';
import { json, server } from '../../testing/server';
import { Door, linkOf } from './enter.svelte';

const WHO = { name: 'warden', is_demo: false, preferences: { units: { speed: 'mph' }, theme: 'night' } };
const at = (path: string) => history.replaceState(null, '', path);

beforeEach(() => {
  at('/');
  session.who = null;
});

test.each([
  ['/join#some-invitation', { invitation: 'some-invitation' }],
  ['/join/some-invitation', { invitation: 'some-invitation' }],
  ['/recover#MQ/a-token', { who: 'MQ', token: 'a-token' }],
  ['/recover/MQ/a-token', { who: 'MQ', token: 'a-token' }],
  ['/recover#MQ', {}],
  ['/builds/1/design', {}],
])('a link to %s leads to what it names', (path, found) => {
  expect(linkOf(new URL(path, location.origin))).toEqual(found);
});

test('signing in makes the person known to every page, with their units', async () => {
  server.on('POST /api/session/sign-in', () => WHO);
  const door = new Door();
  [door.name, door.password] = ['warden', 'dunlin over wet sand'];
  await door.enter();
  expect(session.who?.name).toBe('warden');
  expect(session.theme).toBe('night');
  expect(server.received[0]!.body).toMatchObject({
    name: 'warden',
    password: 'dunlin over wet sand',
    code: '',
  });
});

test('a wrong password is said, and the door stays open for another try', async () => {
  const message = 'Name and password do not go together.';
  server.on('POST /api/session/sign-in', () => json(401, { message, faults: [] }));
  const door = new Door();
  await door.enter();
  expect([door.faults?.message, door.busy, session.who]).toEqual([message, false, null]);
});

test('a second factor is a question first and a fault only when its code is wrong', async () => {
  const faults = [{ field: 'code', reason: 'the six figures' }];
  server.on('POST /api/session/sign-in', () => json(401, { message: 'And the code.', faults }));
  const door = new Door();
  await door.enter();
  expect([door.codeAsked, door.faults]).toEqual([true, null]);
  door.code = '000000';
  await door.enter();
  expect(door.reason('code')).toBe('the six figures');
});

test('an invitation comes with the link or is typed as the whole link', async () => {
  server.on('POST /api/session/sign-up', () => WHO);
  at('/join#abc123');
  const invited = new Door();
  expect([invited.way, invited.invited]).toEqual(['new', true]);
  await invited.enter();
  expect(server.received[0]!.body.invitation).toBe('abc123');
  expect(location.pathname).toBe('/');
  const typed = new Door();
  typed.turn('new');
  typed.invitation = ' https://boards.example.invalid/join#xyz ';
  await typed.enter();
  expect(server.received[1]!.body.invitation).toBe('xyz');
});

test('a forgotten password: the link is asked for, followed, and leads back to signing in', async () => {
  server.on('POST /api/session/forgotten', () => ({ message: 'A letter is on its way.' }));
  server.on('POST /api/session/recover', ({ body }) =>
    body.token === 'good'
      ? { message: 'The password is changed.' }
      : json(422, { message: 'The link is used or over.', faults: [] }),
  );
  const door = new Door();
  door.turn('forgotten');
  door.name = 'warden';
  await door.askForLink();
  expect(door.said).toBe('A letter is on its way.');
  at('/recover#MQ/bad');
  const late = new Door();
  expect(late.way).toBe('recover');
  await late.recover();
  expect([late.faults?.message, late.way]).toEqual(['The link is used or over.', 'recover']);
  at('/recover#MQ/good');
  const good = new Door();
  good.password = 'godwit in the reeds';
  await good.recover();
  expect([good.way, good.said, good.password, location.pathname]).toEqual([
    'in',
    'The password is changed.',
    '',
    '/',
  ]);
});

test('without network every way in says that the server cannot be reached', async () => {
  server.offline = true;
  const door = new Door();
  for (const go of [() => door.enter(), () => door.enterDemo(), () => door.askForLink()]) {
    await go();
    expect([door.faults?.message, door.busy]).toEqual([
      'The server cannot be reached. Is it running?',
      false,
    ]);
    door.turn('in');
  }
});
