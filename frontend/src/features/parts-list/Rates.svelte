<!-- The builder's own rates of exchange, one for every currency on the list. -->
<script lang="ts">
  import type { PartsList } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import type { PartsListPage } from './parts-list.svelte';

  let { piece, list }: { piece: PartsListPage; list: PartsList } = $props();
  const own = $derived(list.sums.currency);
  const used = $derived([
    ...new Set(
      [
        ...list.lines.map((l) => l.currency),
        ...(piece.build.file.orders ?? []).map((o) => o.currency),
        piece.build.file.ready_made?.currency,
        ...(piece.build.file.exchange ?? []).map((e) => e.currency),
      ].filter((c): c is string => Boolean(c) && c !== own),
    ),
  ]);
  const index = (currency: string) =>
    (piece.build.file.exchange ?? []).findIndex((e) => e.currency === currency);

  function set(currency: string, rate: unknown): void {
    const i = index(currency);
    if (typeof rate !== 'number') {
      if (i >= 0) piece.build.set(`exchange.${i}`, null);
    } else if (i >= 0) piece.build.set(`exchange.${i}.rate`, rate);
    else piece.build.set(`exchange.${piece.build.file.exchange?.length ?? 0}`, { currency, rate });
  }
</script>

<h3 class="mt-3 border-t border-line pt-2 text-sm">Currency</h3>
<div class="grid grid-cols-2 items-end gap-x-4 gap-y-2">
  <Figure
    path="currency"
    value={piece.build.value('currency')}
    fault={piece.faults.currency}
    onchange={(v) => piece.build.set('currency', v)}
  />
  {#each used as currency (currency)}
    <div data-testid={`rate-${currency}`}>
      <p class="text-sm text-ink2">1 {currency} is, in {own}</p>
      <Figure
        path="exchange.0.rate"
        value={piece.build.file.exchange?.[index(currency)]?.rate}
        onchange={(v) => set(currency, v)}
      />
    </div>
  {/each}
</div>
{#if used.length}
  <p class="remark mt-1 text-sm">Your own rates: what your bank really charged, with fees.</p>
{/if}
