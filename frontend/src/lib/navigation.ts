import type { PageSlug } from './pages';

/** What the router can do; set once by the layout, so that pages need not know it. */
interface Router {
  navigate: (path: string, options?: { replace?: boolean }) => unknown;
  params: () => Record<string, string | undefined>;
  search: (name: string) => string | null;
  forgetSearch: (name: string) => void;
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

/** A value of the address's search part, such as the field to arrive at; null where there is none. Follows the address. */
export function searchParam(name: string): string | null {
  return router?.search(name) ?? null;
}

/** Takes a value out of the address, once one has arrived where it leads: the same link then leads there again. */
export function forgetSearchParam(name: string): void {
  router?.forgetSearch(name);
}

/** The address of a board's page; without one of its first page. */
export function addressOf(id: string, page: PageSlug = 'overview', field?: string | null): string {
  const address = page === 'overview' ? `/builds/${id}` : `/builds/${id}/${page}`;
  return field ? `${address}?at=${encodeURIComponent(field)}` : address;
}

/** What pages were called in earlier addresses. */
const FORMER: Record<string, PageSlug> = {
  stands: 'overview',
  bench: 'design',
  explorer: 'explore',
  box: 'enclosure',
  parts: 'parts-list',
  partslist: 'parts-list',
  taps: 'balance-leads',
  sheet: 'controller-settings',
  test: 'bench-test',
  benchtest: 'bench-test',
  firstride: 'first-ride',
  learnt: 'calibration',
  upkeep: 'maintenance',
  cameto: 'review',
};

/** Where an earlier address leads today, one with a hash or one with a former name; null for an address of today. */
export function currentAddress({
  pathname,
  hash,
  search,
}: Pick<Location, 'pathname' | 'hash' | 'search'>): string | null {
  const [, page, id] = /^#\/([a-z]*)(?:\/(.*))?$/.exec(hash) ?? [];
  if (page === '') return '/';
  if (page === 'library') return '/library';
  if (page === 'compare') return `/compare/${id ?? ''}`;
  if (page !== undefined) return id ? addressOf(id, FORMER[page] ?? (page as PageSlug)) : null;
  if (pathname === '/beginning') return `/new-board${search}`;
  const [, build, name] = /^\/builds\/([^/]+)\/([a-z]+)\/?$/.exec(pathname) ?? [];
  return build && FORMER[name!] ? `${addressOf(build, FORMER[name!])}${search}` : null;
}
