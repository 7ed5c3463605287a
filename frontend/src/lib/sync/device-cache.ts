import { clear, delMany, get, keys, set, update } from 'idb-keyval';
import { NEW_BUILD } from '../api/tables.gen';

const MOST_BOARDS = 12;
const OPENED = 'opened';
/** Answers under the names of an earlier build file are not read again. */
const versioned = (key: string) => `${NEW_BUILD.version}:${key}`;

/** Keeps something on this device for when the server cannot be reached. */
export async function writeCache(key: string, value: unknown): Promise<void> {
  // Without a store, or with a full one, the device just does not remember.
  await set(versioned(key), value).catch(() => undefined);
}

/** What this device remembers; undefined where it does not. */
export function readCache<T>(key: string): Promise<T | undefined> {
  return get<T>(versioned(key)).catch(() => undefined);
}

/** Notes that a board was opened: what is remembered of those that were open longest ago makes room. */
export async function noteOpened(id: string): Promise<void> {
  try {
    let dropped: string[] = [];
    await update<string[]>(OPENED, (before = []) => {
      const now = [id, ...before.filter((b) => b !== id)];
      dropped = now.slice(MOST_BOARDS);
      return now.slice(0, MOST_BOARDS);
    });
    const of = (key: IDBValidKey) => dropped.some((id) => String(key).endsWith(`:${id}`));
    if (dropped.length) await delMany((await keys()).filter(of));
  } catch {
    // Without a store there is nothing to make room in.
  }
}

/** Takes away what this device remembers of a workshop, as when somebody signs out. */
export async function clearCache(): Promise<void> {
  await clear().catch(() => undefined);
}
