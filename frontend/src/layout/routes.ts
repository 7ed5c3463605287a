import { createRouter, searchParams } from 'sv-router';
import type { Component } from 'svelte';
import { installRouter } from '$lib/navigation';
import { PAGES } from '$lib/api/tables.gen';
import BoardLayout from './BoardLayout.svelte';
import NotFound from './NotFound.svelte';
import PublicLayout from './PublicLayout.svelte';

type PageModule = () => Promise<{ default: Component }>;

/** Each page lies in the folder that its slug names, and is loaded when it is opened. */
const pages = import.meta.glob<{ default: Component }>('../features/*/Page.svelte');
const page = (slug: string): PageModule => pages[`../features/${slug}/Page.svelte`]!;
const ofABoard = Object.fromEntries(
  PAGES.map(({ slug }) => [slug === 'overview' ? '/' : `/${slug}`, page(slug)]),
) as Record<'/', PageModule>;

/** Every page by its address. */
export const { navigate, route } = createRouter({
  '/': { '/': page('boards'), layout: PublicLayout },
  '/new-board': { '/': page('new-board'), layout: PublicLayout },
  '/library': { '/': page('library'), layout: PublicLayout },
  '/compare/:refs': { '/': page('compare'), layout: PublicLayout },
  '/builds/:id': { ...ofABoard, layout: BoardLayout },
  '*': NotFound,
});

installRouter({
  navigate: (path, options) => {
    const { pathname, search } = new URL(path, location.origin);
    return navigate(pathname as '/', { ...options, search });
  },
  params: () => route.params,
  search: (name) => searchParams.toURLSearchParams().get(name),
  forgetSearch: (name) => searchParams.delete(name, undefined, { replace: true }),
});

/** Links that the router should leave to the browser, and links to where one is already, which are no step back. */
window.addEventListener(
  'click',
  (event) => {
    const link = (event.target as Element | null)?.closest<HTMLAnchorElement>('a[href]');
    if (!link) return;
    const elsewhere = event.ctrlKey || event.metaKey || event.shiftKey || event.altKey || event.button !== 0;
    if ((elsewhere || link.pathname.startsWith('/api/')) && !link.target) {
      // A link with a target is the browser's.
      link.target = '_self';
      setTimeout(() => link.removeAttribute('target'));
    } else if (link.pathname === location.pathname) link.dataset.replace = '';
    else delete link.dataset.replace;
  },
  { capture: true },
);
