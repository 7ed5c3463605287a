import { PAGES, STAGES } from './api/tables.gen';

export type PageSlug = (typeof PAGES)[number]['slug'];
export type StageSlug = (typeof STAGES)[number]['slug'];
export type Page = (typeof PAGES)[number];

/** The pages of a stage, in their order. */
export function pagesOf(stage: StageSlug): Page[] {
  return PAGES.filter((r) => r.stage === stage);
}

/** The page of a board that an address leads to; null outside of boards. */
export function pageAt(pathname: string): Page | null {
  const [, slug] = /^\/builds\/[^/]+(?:\/([a-z-]+))?\/?$/.exec(pathname) ?? [];
  if (!pathname.startsWith('/builds/')) return null;
  return PAGES.find((r) => r.slug === (slug ?? 'overview')) ?? null;
}
