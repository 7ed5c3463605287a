<!-- Whose doubt a band is: the rider's, the day's or the machine's, as one ruled strip. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';

  let { doubt }: { doubt: Schemas['InputUncertainty'] } = $props();
  const parts = $derived(
    (
      [
        ['rider', 'you', 'var(--color-acting)'],
        ['day', 'way and day', 'var(--color-wet)'],
        ['machine', 'the board', 'var(--color-ink2)'],
      ] as const
    )
      .map(([key, words, tone]) => ({ words, tone, share: doubt[key] }))
      .filter((p) => Math.round(p.share * 100) > 1),
  );
  const words = $derived(parts.map((p) => `${p.words} ${Math.round(p.share * 100)} %`).join(', '));
</script>

<div class="mt-1.5" role="img" aria-label={`Uncertainty: ${words}.`} data-testid="whose">
  <div class="flex h-1.5 gap-px" aria-hidden="true">
    {#each parts as p (p.words)}<span style:flex={p.share} style:background={p.tone}></span>{/each}
  </div>
  <p class="mt-0.5 flex flex-wrap gap-x-3 text-xs text-ink2" aria-hidden="true">
    <span>uncertainty</span>
    {#each parts as p (p.words)}
      <span class="whitespace-nowrap"
        ><i class="mr-1 inline-block h-2 w-2" style:background={p.tone}></i>{p.words}
        {Math.round(p.share * 100)}&nbsp;%</span
      >
    {/each}
  </p>
</div>
