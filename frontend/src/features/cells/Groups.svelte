<!-- The groups: each a row of its cells, and on one gauge for all how much it holds against what no grouping can exceed. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import { written } from '$lib/units';
  import type { CellsReport, CellsPage } from './cells.svelte';

  let { page, report }: { page: CellsPage; report: CellsReport } = $props();
  const byId = $derived(new Map(page.cells.map((c) => [c.id, c])));
  const wrong = $derived(new Set(report.wrongly_in));
  const ah = (v: number) => written(v, 'charge', reader.units);
  const holds = $derived(report.groups.map((g) => g.capacity_ah));
  /** The stretch of the gauge that is shown: where the groups differ, never less than two per cent. */
  const span = $derived.by(() => {
    if (!report.whole || !report.weakest_ah) return null;
    const low = Math.min(...holds);
    const high = Math.max(...holds, report.bound_ah ?? 0);
    const middle = (low + high) / 2;
    const half = Math.max((high - low) * 0.75, 0.01 * middle);
    return { low: middle - half, high: middle + half };
  });
  const at = (v: number) => (span ? ((v - span.low) / (span.high - span.low)) * 100 : 0);
</script>

{#if span}
  <div class="mb-0.5 flex justify-end text-xs text-ink2" aria-hidden="true">
    <span class="flex w-[104px] justify-between sm:w-[190px]"
      ><span>{span.low.toFixed(2)}</span><span>{span.high.toFixed(2)} Ah</span></span
    >
  </div>
{/if}
<ol class="m-0 list-none border-t border-ink p-0" data-testid="groups">
  {#each report.groups as group, n (group.position)}
    {@const lowest = span !== null && group.position === report.weakest}
    <li class="flex items-stretch gap-2 border-b border-line py-1" data-group={group.position}>
      <span class="w-6 shrink-0 self-center text-right font-serif text-base" class:text-short={lowest}
        >{group.position}</span
      >
      <span class="flex min-w-0 flex-1 flex-wrap gap-px">
        {#each group.cells as id (id)}
          {@const cell = byId.get(id)}
          {@const on = page.picked === id || page.other === id}
          <button
            class={[
              'cell min-h-9 min-w-[2.4rem] flex-1 truncate px-0.5 text-xs sm:min-h-8',
              n % 2 ? 'bg-sheet' : 'bg-sand',
              on && 'on',
              wrong.has(id) && 'wrong',
            ]}
            aria-pressed={on}
            aria-label={`${id}, group ${group.position}${cell?.capacity_ah ? `, ${ah(cell.capacity_ah)}` : ''}${cell?.locked ? ', locked' : ''}`}
            onclick={() => page.pick(id)}
            ><span class="block font-semibold"
              >{id}{#if cell?.locked}<span aria-hidden="true"> ▪</span>{/if}</span
            >{#if cell?.capacity_ah}<span class="block max-sm:hidden">{cell.capacity_ah.toFixed(2)}</span
              >{/if}</button
          >
        {:else}
          <span class="self-center text-sm text-ink2">empty</span>
        {/each}
      </span>
      {#if span}
        <span
          class="relative w-[104px] shrink-0 self-stretch border-x border-rule sm:w-[190px]"
          role="img"
          aria-label={`${ah(group.capacity_ah)}${lowest ? ', the smallest' : ''}`}
        >
          {#if report.bound_ah}<span class="bound" style:left={`${at(report.bound_ah)}%`}></span>{/if}
          <span class="holds" class:lowest style:width={`${at(group.capacity_ah)}%`}></span>
          <span class="absolute right-1 bottom-0 text-xs max-sm:sr-only" class:font-semibold={lowest}
            >{lowest ? 'ends the ride' : ''}</span
          >
        </span>
      {:else if group.capacity_ah}
        <span class="w-16 shrink-0 self-center text-right text-sm">{ah(group.capacity_ah)}</span>
      {/if}
    </li>
  {/each}
</ol>
{#if span && report.bound_ah}
  <p class="mt-0.5 flex justify-end text-xs text-ink2">
    <span class="w-[104px] sm:w-[190px]"
      ><span class="inline-block h-2 border-l-2 border-ink"></span> no smallest group holds more than {ah(
        report.bound_ah,
      )}</span
    >
  </p>
{/if}

<style>
  .cell {
    border: 1px solid var(--color-rule);
    text-align: center;
    line-height: 1.25;
  }
  .cell:hover {
    border-color: var(--color-ink);
  }
  .on {
    outline: 2.5px solid var(--color-acting);
    outline-offset: -1px;
    z-index: 1;
  }
  .wrong {
    background: repeating-linear-gradient(45deg, var(--color-short-wash) 0 6px, var(--color-sheet) 6px 10px);
    border-color: var(--color-short);
  }
  .holds {
    position: absolute;
    left: 0;
    top: 22%;
    height: 40%;
    background: var(--color-holds-wash);
    border-right: 2.5px solid var(--color-holds);
    transition: width 150ms;
  }
  .holds.lowest {
    background: var(--color-unsure-wash);
    border-right-color: var(--color-unsure);
  }
  .bound {
    position: absolute;
    top: 0;
    bottom: 0;
    border-left: 2px solid var(--color-ink);
  }
</style>
