import { beforeEach, vi } from 'vitest';
import { server } from './server';

// Before any module of the application is loaded: the API's client takes the `fetch` that is there then.
globalThis.fetch = (input: RequestInfo | URL, init?: RequestInit) =>
  server.answer(new Request(input as RequestInfo, init));

const store = vi.hoisted(() => new Map<IDBValidKey, unknown>());
vi.mock('idb-keyval', () => ({
  get: (key: IDBValidKey) => Promise.resolve(store.get(key)),
  set: (key: IDBValidKey, value: unknown) => Promise.resolve(void store.set(key, value)),
  del: (key: IDBValidKey) => Promise.resolve(void store.delete(key)),
  keys: () => Promise.resolve([...store.keys()]),
  clear: () => Promise.resolve(store.clear()),
  delMany: (keys: IDBValidKey[]) => Promise.resolve(keys.forEach((key) => store.delete(key))),
  update: (key: IDBValidKey, change: (before: unknown) => unknown) =>
    Promise.resolve(void store.set(key, change(store.get(key)))),
}));

beforeEach(() => {
  server.reset();
  store.clear();
  localStorage.clear();
});
