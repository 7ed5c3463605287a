<!-- What protects against what: a gap stands out, with its fix. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { reader } from '$lib/reader.svelte';
  import FindingItem from '$lib/ui/FindingItem.svelte';
  import { formatMessage } from '$lib/units';

  let { guards, onfix }: { guards: Schemas['Guard'][]; onfix: (fix: Schemas['Fix']) => void } = $props();
</script>

<section aria-label="What protects against what">
  <h2 class="text-lg">What protects against what</h2>
  <ul class="m-0 list-none p-0" data-testid="guards">
    {#each guards as guard (guard.against)}
      <li class="border-t border-line py-1.5" data-against={guard.against} data-gap={guard.gap}>
        <p class="flex items-baseline gap-3">
          <b class="w-28 shrink-0">{guard.title}</b>
          {#if guard.gap}
            <span class="font-semibold text-short">✕ nothing</span>
          {:else}
            <span class="text-holds">✓ {guard.by.join(', ')}</span>
          {/if}
        </p>
        <p class="text-sm text-ink2">{formatMessage(guard.message, reader.units)}</p>
        {#if guard.finding}
          <FindingItem finding={guard.finding} testid="gap" fixes={guard.finding.fixes ?? []} {onfix} />
        {/if}
      </li>
    {/each}
  </ul>
</section>
