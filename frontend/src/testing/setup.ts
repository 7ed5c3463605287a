import { cleanup } from '@testing-library/svelte';
import { afterEach, beforeEach, vi } from 'vitest';
import { SaveQueue } from '$lib/sync/save-queue.svelte';
import { device, downloads } from './device';
import { running } from './running';
import { server } from './server';

// Before any module of the application is loaded: the API's client takes the `fetch` that is there then.
globalThis.fetch = (input: RequestInfo | URL, init?: RequestInit) =>
  server.answer(new Request(input as RequestInfo, init));

vi.mock('idb-keyval', async () => {
  const { device } = await import('./device');
  return {
    get: (key: IDBValidKey) => Promise.resolve(device.get(key)),
    set: (key: IDBValidKey, value: unknown) => Promise.resolve(void device.set(key, value)),
    del: (key: IDBValidKey) => Promise.resolve(void device.delete(key)),
    keys: () => Promise.resolve([...device.keys()]),
    clear: () => Promise.resolve(device.clear()),
    delMany: (keys: IDBValidKey[]) => Promise.resolve(keys.forEach((key) => device.delete(key))),
    update: (key: IDBValidKey, change: (before: unknown) => unknown) =>
      Promise.resolve(void device.set(key, change(device.get(key)))),
  };
});

vi.mock('$lib/download', async (original) => {
  const { downloads } = await import('./device');
  return {
    ...(await original<object>()),
    download: (content: string, type: string, name: string) => downloads.push({ content, type, name }),
  };
});

const waiting = new Set<SaveQueue>();
const soon = SaveQueue.prototype.soon;
SaveQueue.prototype.soon = function (pause?: number) {
  waiting.add(this);
  soon.call(this, pause);
};

beforeEach(() => {
  server.reset();
  device.clear();
  downloads.length = 0;
  localStorage.clear();
});

afterEach(() => {
  cleanup();
  // Nothing of a test reaches the next one.
  running.forEach((stop) => stop());
  waiting.forEach((queue) => queue.hold());
  waiting.clear();
});
