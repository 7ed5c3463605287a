<!-- A ready-made board beside the build: its outcomes on the same gauges against the same brief. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import type { PartsList } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import Gauge from '$lib/ui/Gauge.svelte';
  import { FIGURES } from '$lib/api/tables.gen';
  import { formatMessage } from '$lib/units';
  import type { PartsListPage } from './parts-list.svelte';

  let { piece, list }: { piece: PartsListPage; list: PartsList } = $props();
  let editing = $state(false);
  const board = $derived(piece.build.file.ready_made);
  const beside = $derived(list.beside);
  const fields = Object.keys(FIGURES).filter((path) => path.startsWith('ready_made.'));
  const currency = $derived(list.sums.currency);
  /** One scale for both boards' gauges. */
  function end(i: number): number {
    const pair = [list.outcomes[i], beside?.outcomes[i]];
    const most = Math.max(...pair.map((p) => Math.max(p?.high ?? 0, p?.mid ?? 0) * 1.12));
    return Math.max(most, (list.outcomes[i]?.wanted ?? 0) * 1.5, 1e-6);
  }
</script>

<section class="mt-6 mb-4" aria-labelledby="ready-made" data-testid="ready-made">
  <div class="flex flex-wrap items-baseline gap-x-3 border-b border-ink pb-1">
    <h2 class="text-base" id="ready-made">Or buy one ready-made?</h2>
    <span class="remark text-sm">The same brief and gauges; theirs as the seller claims.</span>
    <span class="ml-auto flex gap-3 text-sm">
      {#if board}
        <button class="link" aria-expanded={editing} onclick={() => (editing = !editing)}
          >{editing ? 'Close its figures' : 'Its figures'}</button
        >
        <button class="link" onclick={() => piece.build.set('ready_made', null)}>Remove it</button>
      {:else}
        <button
          class="link"
          onclick={() => {
            piece.build.set('ready_made', { name: 'A ready-made board', currency });
            editing = true;
          }}>Enter one</button
        >
      {/if}
    </span>
  </div>
  {#if board && editing}
    <div class="grid grid-cols-2 gap-x-4 gap-y-2 border-b border-line py-2 sm:grid-cols-4">
      {#each fields as path (path)}
        <div class:col-span-full={(FIGURES[path]?.longest ?? 0) >= 2000}>
          <Figure
            {path}
            value={piece.build.value(path)}
            currency={board.currency ?? currency}
            fault={piece.faults[path]}
            onchange={(v) => piece.build.set(path, v)}
          />
        </div>
      {/each}
    </div>
  {/if}
  {#if board && beside}
    <div class="mt-2 grid gap-x-10 gap-y-4 sm:grid-cols-2">
      {#each [{ name: piece.build.file.name ?? 'Your board', outcomes: list.outcomes }, { name: board.name ?? 'Ready-made', outcomes: beside.outcomes }] as side, k (k)}
        <div>
          <h3 class="mb-1 text-sm">{side.name}</h3>
          <div class="grid grid-cols-5 gap-2" data-testid={k ? 'theirs' : 'ours'}>
            {#each side.outcomes as outcome, i (outcome.name)}
              <div class="min-w-0">
                <p class="text-xs text-ink2">{outcome.title}</p>
                <Gauge
                  {outcome}
                  units={reader.units}
                  {currency}
                  compact
                  height={110}
                  width={56}
                  end={end(i)}
                />
              </div>
            {/each}
          </div>
        </div>
      {/each}
    </div>
    <ul class="mt-2 list-disc pl-5 text-sm">
      {#each beside.remarks as remark, i (i)}<li>{formatMessage(remark, reader.units, currency)}</li>{/each}
      {#if board.claims}<li class="remark">{board.claims}</li>{/if}
    </ul>
  {/if}
</section>
