<!-- Continuous handles: drag to see what a figure does before deciding on it. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import { figureSpec, written } from '$lib/units';
  import type { Design } from './design.svelte';
  import type { Handle } from './stations';

  let { design, handles }: { design: Design; handles: Handle[] } = $props();
  const uid = $props.id();

  function key(event: KeyboardEvent): void {
    // A step of the keyboard is a step to undo.
    if (event.key.startsWith('Arrow') || event.key.startsWith('Page')) design.build.release();
  }
</script>

<div class="mb-2 flex flex-wrap gap-x-5 gap-y-1" role="group" aria-label="Drag to see">
  {#each handles as h (h.path)}
    {@const value = design.build.value(h.path)}
    {#if typeof value === 'number'}
      {@const spec = figureSpec(h.path)}
      <div class="flex items-center gap-2 text-sm">
        <label for={`${uid}-${h.path}`} class="text-ink2">{h.name ?? spec.title}</label>
        <input
          id={`${uid}-${h.path}`}
          class="handle"
          type="range"
          min={Math.min(h.low, value)}
          max={Math.max(h.high, value)}
          step={h.step}
          {value}
          aria-valuetext={written(value, spec.quantity ?? 'count', reader.units)}
          data-handle={h.path}
          oninput={(e) => design.build.slide(h.path, Number(e.currentTarget.value))}
          onchange={() => design.build.release()}
          onkeyup={key}
        />
        <span class="min-w-9 font-semibold">{written(value, spec.quantity ?? 'count', reader.units)}</span>
      </div>
    {/if}
  {/each}
</div>

<style>
  .handle {
    appearance: none;
    width: 92px;
    height: 22px;
    background: repeating-linear-gradient(
        to right,
        var(--color-rule) 0 1px,
        transparent 1px calc((100% - 1px) / 10)
      )
      center / 100% 9px no-repeat;
    border-bottom: 1px solid var(--color-rule);
    cursor: grab;
  }
  .handle:active {
    cursor: grabbing;
  }
  .handle::-webkit-slider-thumb {
    appearance: none;
    width: 11px;
    height: 20px;
    border: 1.5px solid var(--color-ink);
    border-radius: 2px;
    background: var(--color-sand);
  }
  .handle::-moz-range-thumb {
    width: 9px;
    height: 18px;
    border: 1.5px solid var(--color-ink);
    border-radius: 2px;
    background: var(--color-sand);
  }
</style>
