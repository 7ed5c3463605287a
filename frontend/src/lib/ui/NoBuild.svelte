<!-- In place of a build: while it is fetched, when it is not here, when the server cannot be reached. -->
<script lang="ts">
  import type { Trouble } from '$lib/api/client';
  import Header from './Header.svelte';

  let { trouble, again }: { trouble: Trouble; again: () => void } = $props();
</script>

<Header />
{#if trouble === 'missing'}
  <main class="mx-auto max-w-xl px-6 py-16">
    <h1 class="text-2xl">Not here, or not yours</h1>
    <p class="remark mt-2">
      There is no such build in your workshop. It may have been deleted, or it belongs to somebody else.
    </p>
    <a class="button mt-4" href="#/">To your shelf</a>
  </main>
{:else if trouble}
  <main class="mx-auto max-w-xl px-6 py-16">
    <h1 class="text-2xl">The server cannot be reached</h1>
    <p class="remark mt-2">
      Nothing is lost: what was saved is saved, and unsent changes are kept in this browser.
    </p>
    <button class="button mt-4" onclick={again}>Try again</button>
  </main>
{:else}
  <p class="remark px-6 py-16">Laying it out…</p>
{/if}
