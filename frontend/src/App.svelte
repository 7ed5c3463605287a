<script lang="ts">
  import { onMount } from 'svelte';
  import Router from 'svelte-spa-router';
  import { wrap } from 'svelte-spa-router/wrap';
  import { session } from '$lib/session.svelte';
  import Notices from '$lib/ui/Notices.svelte';
  import BenchPage from './pages/BenchPage.svelte';
  import Enter from './pages/Enter.svelte';
  import NotFound from './pages/NotFound.svelte';
  import Shelf from './pages/Shelf.svelte';

  const routes = {
    '/': Shelf,
    '/bench/:id': BenchPage,
    '/curves/:id': wrap({ asyncComponent: () => import('./pages/CurvesPage.svelte') }),
    '/drawings/:id': wrap({ asyncComponent: () => import('./pages/DrawingsPage.svelte') }),
    '/parts/:id': wrap({ asyncComponent: () => import('./pages/PartsPage.svelte') }),
    '/sheet/:id': wrap({ asyncComponent: () => import('./pages/SheetPage.svelte') }),
    '/test/:id': wrap({ asyncComponent: () => import('./pages/StandPage.svelte') }),
    '/revisions/:id': wrap({ asyncComponent: () => import('./pages/RevisionsPage.svelte') }),
    '/compare/:refs': wrap({ asyncComponent: () => import('./pages/ComparePage.svelte') }),
    '/library': wrap({ asyncComponent: () => import('./pages/LibraryPage.svelte') }),
    '*': NotFound,
  };

  onMount(() => session.load());
  $effect(() => {
    document.documentElement.dataset.theme = session.theme;
  });
</script>

{#if session.who?.name}
  <Router {routes} />
{:else if session.who}
  <Enter />
{:else if session.failed}
  <main class="mx-auto max-w-xl px-6 py-16">
    <h1 class="text-2xl">The server cannot be reached</h1>
    <p class="remark mt-2">Nothing is lost: unsent changes are kept in this browser.</p>
    <button class="button mt-4" onclick={() => session.load()}>Try again</button>
  </main>
{:else}
  <p class="remark px-6 py-16">Opening the workshop…</p>
{/if}
<Notices />
