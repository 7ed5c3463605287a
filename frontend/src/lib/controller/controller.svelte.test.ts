import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { openBuild } from '../../testing/build.svelte';
import { json, server } from '../../testing/server';
import { ControllerLink, type ControllerCommand } from './controller.svelte';

const HELD = [{ motor_current_a: 30 }];
const command = (state: string, more: object = {}) =>
  ({ id: 'e1', kind: 'read', state, step: 'reading', message: '', ...more }) as unknown as ControllerCommand;

const ended: string[] = [];
let link: ControllerLink;
const later = (ms = 2000) => vi.advanceTimersByTimeAsync(ms);

function opened(): ControllerLink {
  const build = openBuild({ settings: { motor_current_a: 40 } });
  return (link = new ControllerLink(
    build.id,
    () => build.file,
    (e) => ended.push(e.state),
  ));
}

beforeEach(() => {
  vi.useFakeTimers();
  ended.length = 0;
  server.on('POST /api/builds/{id}/controller/diff', () => ({ held: HELD, ports: [], command: null }));
});
afterEach(() => {
  link.close();
  vi.useRealTimers();
});

test('what the controllers hold is compared with what is wanted, without asking them anything', async () => {
  opened();
  expect(link.stale).toBe(true);
  await later();
  expect([link.stale, link.seen?.held]).toEqual([false, HELD]);
  const [asked] = server.received;
  expect(asked!.body).toEqual({ settings: { motor_current_a: 40 }, apart: [], port: '', unit: 0 });
});

test('a comparison that a newer one overtook is not shown', async () => {
  opened();
  await later();
  let wait = 1000;
  server.on('POST /api/builds/{id}/controller/diff', async ({ body }) => {
    await new Promise((resolve) => setTimeout(resolve, (wait -= 400)));
    return { held: [{ port: body.port }], ports: [], command: null };
  });
  link.lead('first', 0);
  link.lead('second', 1);
  await later(300);
  expect(link.seen?.held).toEqual([{ port: 'second' }]);
  await later(2000);
  expect([link.seen?.held, link.stale]).toEqual([[{ port: 'second' }], false]);
});

test('a command is followed until it has ended, and told once', async () => {
  opened();
  await later();
  const states = ['waiting', 'running', 'running', 'done'];
  server.on('POST /api/builds/{id}/controller', () => command('waiting'));
  server.on('GET /api/controller-commands/{command}', () => command(states.shift()!));
  expect(await link.send('read')).toBe(true);
  expect([link.busy, link.step]).toEqual([true, 'reading']);
  await later(5000);
  expect([link.busy, ended, states]).toEqual([false, ['done'], []]);
  expect(server.to('POST /api/builds/{id}/controller/diff')).toHaveLength(2);
});

test('a look that fails on the way is tried again', async () => {
  opened();
  await later();
  server.on('POST /api/builds/{id}/controller', () => command('running'));
  let tries = 0;
  server.on('GET /api/controller-commands/{command}', () => {
    if (++tries < 3) throw new TypeError('The connection broke.');
    return command('done');
  });
  await link.send('read');
  await later(5000);
  expect([tries, ended]).toEqual([3, ['done']]);
});

test('what is set is what was confirmed, on the strength of what was seen', async () => {
  opened();
  await later();
  server.on('POST /api/builds/{id}/controller/write', () => command('done'));
  server.on('GET /api/controller-commands/{command}', () => command('done'));
  await link.write([{ motor_current_a: 40 }], 'first set-up', 'warden', null);
  const [sent] = server.to('POST /api/builds/{id}/controller/write');
  expect(sent!.body).toMatchObject({
    settings: [{ motor_current_a: 40 }],
    seen: HELD,
    reason: 'first set-up',
    by: 'warden',
    profile: null,
  });
  await later();
});

test('a refusal names its fields, and without network nothing was sent', async () => {
  opened();
  await later();
  const faults = [{ field: 'reason', reason: 'a few words' }];
  server.on('POST /api/builds/{id}/controller/write', () => json(422, { message: 'Not set.', faults }));
  expect(await link.write([], '', '')).toBe(false);
  expect([link.refused, link.busy]).toEqual(['Not set. reason: a few words', false]);
  server.offline = true;
  expect(await link.send('read')).toBe(false);
  expect(link.refused).toBe('The server cannot be reached; nothing was sent.');
});

test('a command that was under way before the page came is followed from here', async () => {
  let state = 'running';
  server.on('POST /api/builds/{id}/controller/diff', () => ({
    held: [],
    ports: [],
    command: command(state),
  }));
  server.on('GET /api/controller-commands/{command}', () => command((state = 'done')));
  opened();
  await later(5000);
  expect(ended).toEqual(['done']);
});

test('a page that was left asks nothing more', async () => {
  opened();
  await later();
  server.on('POST /api/builds/{id}/controller', () => command('running'));
  server.on('GET /api/controller-commands/{command}', () => command('running'));
  await link.send('read');
  await later(1000);
  link.close();
  const before = server.received.length;
  await later(5000);
  expect(server.received).toHaveLength(before);
});

test('stopping asks the server to stop this very command', async () => {
  opened();
  await link.stop();
  expect(server.to('POST /api/controller-commands/{command}/stop')).toEqual([]);
  server.on('POST /api/builds/{id}/controller', () => command('running'));
  server.on('GET /api/controller-commands/{command}', () => command('running'));
  server.on('POST /api/controller-commands/{command}/stop', () => command('stopped'));
  await link.send('read');
  await link.stop();
  expect(server.to('POST /api/controller-commands/{command}/stop')[0]!.params).toEqual({ command: 'e1' });
});
