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
    } catch {
      // A full or forbidden store: it is still in memory and on its way.
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
