<!-- A pack that is bought as one: what to know of it, and what is for makers of packs folded away. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Message } from '$lib/api/client';
  import { reader } from '$lib/reader.svelte';
  import { formatMessage } from '$lib/units';

  let { bought, children }: { bought: Message; children?: Snippet } = $props();
</script>

<section class="max-w-2xl rounded border border-line bg-sheet p-4" data-testid="bought-pack">
  <h2 class="text-lg">A bought pack: nothing to do here</h2>
  <p class="mt-1">{formatMessage(bought, reader.units)}</p>
  <p class="mt-2 text-sm text-ink2">
    Do not open it. If you make the pack yourself, give the cells a price and the pack none, or enter your
    measured cells.
  </p>
</section>
{#if children}
  <details class="mt-4">
    <summary class="min-h-[32px] cursor-pointer text-ink2">Show what is for makers of packs</summary>
    <div class="mt-2">{@render children()}</div>
  </details>
{/if}
