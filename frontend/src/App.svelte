<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import { onMount } from 'svelte';
  import { useEventListener } from 'runed';
  import { Router } from 'sv-router';
  import { go, currentAddress } from '$lib/navigation';
  import { session } from '$lib/session.svelte';
  import TrayView from '$lib/jobs/TrayView.svelte';
  import Notices from '$lib/ui/Notices.svelte';
  import './layout/routes';
  import { watchForReleases } from './layout/release.svelte';
  import Enter from './features/account/Enter.svelte';
  import { linkOf } from './features/account/enter.svelte';

  /** A link to a new password or an invitation is for whoever has it, signed in or not. */
  const sent = $derived(!!session.who && Object.keys(linkOf(location)).length > 0);
  onMount(() => {
    void session.load();
    watchForReleases();
  });
  $effect(() => {
    document.documentElement.dataset.theme = session.theme;
  });
  useEventListener(
    () => window,
    'hashchange',
    () => {
      const current = currentAddress(location);
      if (current) go(current, { replace: true });
    },
  );
</script>

{#if session.who?.name && !sent}
  <Router />
{:else if session.who}
  <Enter />
{:else if session.failed}
  <main class="mx-auto max-w-xl px-6 py-16">
    <h1 class="text-2xl">The server cannot be reached</h1>
    <p class="remark mt-2">Nothing is lost: unsent changes are kept in this browser.</p>
    <Button onclick={() => session.load()} class="mt-4">Try again</Button>
  </main>
{:else}
  <p class="remark px-6 py-16">Opening the workshop…</p>
{/if}
<Notices />
<TrayView />
