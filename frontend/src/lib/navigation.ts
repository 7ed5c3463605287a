import type { RoomSlug } from './rooms';

/** What the house's router can do; set once by the house, so that rooms need not know it. */
interface Router {
  navigate: (path: string, options?: { replace?: boolean }) => unknown;
  params: () => Record<string, string | undefined>;
}

let router: Router | undefined;

export function installRouter(made: Router): void {
  router = made;
}

/** To another page of the application. */
export function go(path: string, options?: { replace?: boolean }): void {
  router?.navigate(path, options);
}

/** A part of the address, such as the boards that are compared; follows the address. */
export function param(name: string): string {
  return router?.params()[name] ?? '';
}

/** The address of a board's room; without one of its first page. */
export function roomOf(id: string, room: RoomSlug = 'stands', field?: string | null): string {
  const page = room === 'stands' ? `/builds/${id}` : `/builds/${id}/${room}`;
  return field ? `${page}?at=${encodeURIComponent(field)}` : page;
}

/** The addresses of before had a hash; they still lead where they led. */
export function ofToday(hash: string): string | null {
  const [, room, id] = /^#\/([a-z]*)(?:\/(.*))?$/.exec(hash) ?? [];
  if (room === undefined) return null;
  if (room === '') return '/';
  if (room === 'library') return '/library';
  if (room === 'compare') return `/compare/${id ?? ''}`;
  const renamed: Record<string, RoomSlug> = { parts: 'partslist', test: 'benchtest' };
  return id ? roomOf(id, renamed[room] ?? (room as RoomSlug)) : null;
}
