import { deviceStorage } from './device-storage.svelte';

/** What has not reached the server yet, kept in this browser over a reload; one draft a key. */
export class Drafts<T> {
  constructor(private readonly key: string) {}

  /** The kept draft; one that cannot be read is none. */
  read(): T | null {
    try {
      return JSON.parse(localStorage.getItem(this.key) ?? 'null') as T | null;
    } catch {
      return null;
    }
  }

  keep(draft: T): void {
    try {
      localStorage.setItem(this.key, JSON.stringify(draft));
      deviceStorage.full = false;
    } catch {
      // It is still in memory and on its way; the person has to know that it is nowhere else.
      deviceStorage.full = true;
    }
  }

  forget(): void {
    try {
      localStorage.removeItem(this.key);
    } catch {
      // A forbidden store holds nothing.
    }
  }
}

const ALL = 'sand-pocket:';
const KINDS: Record<string, string> = {
  draft: 'changes to a board',
  part: 'changes to a part',
  benchtest: 'entries of a bench test',
  log: 'entries and photos of the work at a board',
  rides: 'rides',
  beginning: 'the beginning of a board',
  existing: 'the beginning of a board that is there',
};

/** Nothing that the server waits for: how somebody likes to see things here, and whose device it is. */
const CHOICES = ['explorer', 'short-form', 'owner'];
const OWNER = `${ALL}owner`;

function keysHere(): string[] {
  try {
    return Object.keys(localStorage).filter((key) => key.startsWith(ALL));
  } catch {
    return [];
  }
}

/** What lies in this browser and has not reached the server, each in a word. */
export function unsent(): string[] {
  return keysHere().flatMap((key) => {
    const kind = key.split(':')[1] ?? '';
    return CHOICES.includes(kind) ? [] : (KINDS[kind] ?? 'something entered');
  });
}

/** Throws away all that was entered here, as when somebody signs out for good. */
export function forgetEntered(): void {
  for (const key of keysHere()) new Drafts(key).forget();
}

/** Notes whose device this is now, and throws away what somebody else entered on it; true where it was somebody else's. */
export function claimDevice(name: string): boolean {
  const owner = new Drafts<string>(OWNER);
  const before = owner.read();
  if (before === name) return false;
  if (before !== null) forgetEntered();
  owner.keep(name);
  return before !== null;
}
