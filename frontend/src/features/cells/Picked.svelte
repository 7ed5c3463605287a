<!-- The cell that is picked up: what it showed, and with a second one what their exchange would cost. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { valueText, written } from '$lib/units';
  import type { Cell, CellsPage } from './cells.svelte';

  let { page }: { page: CellsPage } = $props();
  const cell = $derived(page.cell(page.picked));
  const other = $derived(page.cell(page.other));
  const tried = $derived(page.other ? page.tried.answer : null);
  const report = $derived(page.report);
  let editing = $state(false);
  const KEYS = [
    'capacity_ah',
    'found_v',
    'rested_v',
    'rested_days',
    'resistance_mohm',
    'mass_g',
    'size',
    'source',
    'chemistry',
  ] as const;
  const ah = (v?: number | null) => (v == null ? '–' : written(v, 'charge', reader.units));
  const place = (c: Cell) => (c.group ? `group ${c.group}` : 'spare');
  const told = (c: Cell) =>
    KEYS.slice(0, 6)
      .filter((k) => c[k] != null)
      .map(
        (k) =>
          valueText(`pack_assembly.cells.0.${k}`, c[k], reader.units) + (k === 'rested_days' ? ' days' : ''),
      )
      .join(' · ');
  const worse = $derived(
    tried?.weakest_ah != null && report?.weakest_ah != null && tried.weakest_ah < report.weakest_ah - 1e-9,
  );
  const index = $derived(page.cells.findIndex((c) => c.id === page.picked));
</script>

{#if cell}
  <section
    class="fixed inset-x-0 z-10 border-t border-ink bg-sheet px-4 py-2 shadow-lg sm:px-6"
    style:bottom="var(--foot)"
    aria-label="Selected cell"
    data-testid="picked"
  >
    <div class="mx-auto flex max-w-[1240px] flex-wrap items-center gap-x-4 gap-y-1">
      <p>
        <b class="text-base">{cell.id}</b> <span class="text-ink2">{place(cell)}</span>
        <span class="block text-sm text-ink2">{told(cell) || 'not measured'}</span>
      </p>
      {#if other}
        <p aria-live="polite" data-testid="cost">
          with <b class="text-base">{other.id}</b> <span class="text-ink2">{place(other)}</span>:
          {#if tried?.weakest_ah != null}
            smallest group {ah(report?.weakest_ah)} →
            <b class={worse ? 'text-short' : 'text-holds'}>{ah(tried.weakest_ah)}</b
            >{#if tried.spread_pct != null}, groups differ by {report?.spread_pct?.toFixed(2) ?? '–'} → {tried.spread_pct.toFixed(
                2,
              )} %{/if}
          {:else}…{/if}
        </p>
        <Button main onclick={() => page.swap()}>Swap them</Button>
      {:else}
        {#if cell.group}
          <Button
            aria-pressed={!!cell.locked}
            onclick={() => page.alter(cell.id, { locked: cell.locked ? null : true })}
            >{cell.locked ? 'Let it move' : 'Lock it here'}</Button
          >
          <Button onclick={() => page.alter(cell.id, { group: null, locked: null })}>Make it a spare</Button>
        {:else if report}
          <label class="text-sm"
            >into group
            <select
              class="entry !w-16"
              value=""
              onchange={(e) => page.alter(cell.id, { group: Number(e.currentTarget.value) || null })}
            >
              <option value="">–</option>
              {#each report.groups as g (g.position)}<option value={g.position}>{g.position}</option>{/each}
            </select></label
          >
        {/if}
        <Button onclick={() => (editing = true)}>Its figures</Button>
      {/if}
      <Button class="ml-auto" onclick={() => page.leave()}>Deselect</Button>
    </div>
  </section>
  <Dialog open={editing} title={`Cell ${cell.id}`} onclose={() => (editing = false)}>
    <div class="grid grid-cols-2 gap-3 sm:grid-cols-3">
      {#each KEYS as key (key)}
        <Figure
          path={`pack_assembly.cells.${index}.${key}`}
          value={cell[key]}
          onchange={(v) => page.alter(cell.id, { [key]: v })}
        />
      {/each}
    </div>
    {#snippet actions()}
      <Button
        class="text-short"
        onclick={() => {
          editing = false;
          page.remove(cell.id);
        }}>Remove</Button
      >
      <Button main onclick={() => (editing = false)}>Done</Button>
    {/snippet}
  </Dialog>
{/if}
