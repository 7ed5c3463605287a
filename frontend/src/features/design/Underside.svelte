<!-- The deck's underside as measured: places along it, with what a straight edge finds there. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import type { Design } from './design.svelte';

  let { design }: { design: Design } = $props();
  const points = $derived(design.build.file.parts?.deck?.curve ?? []);
  const length = $derived(design.build.file.parts?.deck?.length_mm ?? 900);
  const KEYS = ['at_mm', 'below_mm', 'hollow_mm'] as const;

  function add(): void {
    // Evenly along what is left: three places are the least that tell a curve.
    const at = Math.round((length * (points.length + 1)) / Math.max(4, points.length + 2));
    design.build.set(`parts.deck.curve.${points.length}`, { at_mm: at, below_mm: 0 });
  }
</script>

<h3 class="mt-4 mb-1 border-t border-line pt-2 text-sm">Underside as measured</h3>
<p class="remark mb-2 text-sm">
  Lay a straight edge from mount to mount and measure down to the wood; then across. Where the enclosure will
  be every ten centimetres are enough. They replace concave and rocker.
</p>
{#each points as _, i (i)}
  <div class="mb-2 grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-x-4" data-testid="curve-point">
    {#each KEYS as key (key)}
      {@const path = `parts.deck.curve.${i}.${key}`}
      <Figure
        {path}
        value={design.build.value(path)}
        fault={design.faults[path]}
        onchange={(v) => design.build.set(path, v)}
      />
    {/each}
    <button
      class="px-2 py-1 text-ink2 hover:text-short"
      aria-label={`Remove place ${i + 1}`}
      onclick={() => design.build.set(`parts.deck.curve.${i}`, null)}>✕</button
    >
  </div>
{/each}
<Button onclick={add}>Add a place</Button>
