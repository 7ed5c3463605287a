import { createRouter } from 'sv-router';
import { installRouter } from '$lib/navigation';
import BoardHouse from './BoardHouse.svelte';
import NotFound from './NotFound.svelte';
import PublicLayout from './PublicLayout.svelte';

/** Every page by its address. Rooms are loaded when they are opened; each is called by its slug. */
export const { navigate, route } = createRouter({
  '/': { '/': () => import('../features/shelf/Page.svelte'), layout: PublicLayout },
  '/beginning': { '/': () => import('../features/beginning/Page.svelte'), layout: PublicLayout },
  '/library': { '/': () => import('../features/library/Page.svelte'), layout: PublicLayout },
  '/compare/:refs': { '/': () => import('../features/compare/Page.svelte'), layout: PublicLayout },
  '/builds/:id': {
    '/': () => import('../features/stands/Page.svelte'),
    '/bench': () => import('../features/bench/Page.svelte'),
    '/explorer': () => import('../features/explorer/Page.svelte'),
    '/curves': () => import('../features/curves/Page.svelte'),
    '/drawings': () => import('../features/drawings/Page.svelte'),
    '/box': () => import('../features/box/Page.svelte'),
    '/partslist': () => import('../features/partslist/Page.svelte'),
    '/cells': () => import('../features/cells/Page.svelte'),
    '/pack': () => import('../features/pack/Page.svelte'),
    '/taps': () => import('../features/taps/Page.svelte'),
    '/wiring': () => import('../features/wiring/Page.svelte'),
    '/charging': () => import('../features/charging/Page.svelte'),
    '/assembly': () => import('../features/assembly/Page.svelte'),
    '/sheet': () => import('../features/sheet/Page.svelte'),
    '/benchtest': () => import('../features/benchtest/Page.svelte'),
    '/firstride': () => import('../features/firstride/Page.svelte'),
    '/rides': () => import('../features/rides/Page.svelte'),
    '/learnt': () => import('../features/learnt/Page.svelte'),
    '/trips': () => import('../features/trips/Page.svelte'),
    '/upkeep': () => import('../features/upkeep/Page.svelte'),
    '/cameto': () => import('../features/cameto/Page.svelte'),
    '/revisions': () => import('../features/revisions/Page.svelte'),
    layout: BoardHouse,
  },
  '*': NotFound,
});

installRouter({
  navigate: (path, options) => {
    const { pathname, search } = new URL(path, location.origin);
    return navigate(pathname as '/', { ...options, search });
  },
  params: () => route.params,
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
