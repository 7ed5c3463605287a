<!-- The builder's own rates of exchange, one for every currency on the list. -->
<script lang="ts">
  import type { PartsList } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import type { ListPiece } from './list.svelte';

  let { piece, list }: { piece: ListPiece; list: PartsList } = $props();
  const own = $derived(list.sums.currency);
  const used = $derived([
    ...new Set(
      [
        ...list.lines.map((l) => l.currency),
        ...(piece.file.orders ?? []).map((o) => o.currency),
        piece.file.ready_made?.currency,
        ...(piece.file.exchange ?? []).map((e) => e.currency),
      ].filter((c): c is string => Boolean(c) && c !== own),
    ),
  ]);
  const index = (currency: string) => (piece.file.exchange ?? []).findIndex((e) => e.currency === currency);

  function set(currency: string, rate: unknown): void {
    const i = index(currency);
    if (typeof rate !== 'number') {
      if (i >= 0) piece.set(`exchange.${i}`, null);
    } else if (i >= 0) piece.set(`exchange.${i}.rate`, rate);
    else piece.set(`exchange.${piece.file.exchange?.length ?? 0}`, { currency, rate });
  }
</script>

<h3 class="mt-3 border-t border-line pt-2 text-[13.5px]">Currency</h3>
<div class="grid grid-cols-2 items-end gap-x-4 gap-y-2">
  <Figure
    path="currency"
    value={piece.value('currency')}
    fault={piece.faults.currency}
    onchange={(v) => piece.set('currency', v)}
  />
  {#each used as currency (currency)}
    <div data-testid={`rate-${currency}`}>
      <p class="text-[12.5px] text-ink2">1 {currency} is, in {own}</p>
      <Figure
        path="exchange.0.rate"
        value={piece.file.exchange?.[index(currency)]?.rate}
        onchange={(v) => set(currency, v)}
      />
    </div>
  {/each}
</div>
{#if used.length}
  <p class="remark mt-1 text-[12.5px]">Your own rates: what your bank really took, fees and all.</p>
{/if}
