<!-- The parts list: what is bought where, what it costs and how it stands, what is forgotten, and what could be bought instead. -->
<script lang="ts">
  import { addressOf } from '$lib/navigation';
  import { reader } from '$lib/reader.svelte';
  import { KINDS } from '$lib/api/tables.gen';
  import { getBuildContext } from '$lib/build/build.svelte';
  import Gauge from '$lib/ui/Gauge.svelte';
  import { billed, currencySign, formatMessage } from '$lib/units';
  import Forgotten from './Forgotten.svelte';
  import { PartsListPage } from './parts-list.svelte';
  import OrderGroup from './OrderGroup.svelte';
  import OwnLine from './OwnLine.svelte';
  import CostSummary from './CostSummary.svelte';
  import Rates from './Rates.svelte';
  import ReadyMade from './ReadyMade.svelte';
  import ListFile from './ListFile.svelte';

  const piece = new PartsListPage(getBuildContext());

  const list = $derived(piece.list);
  const currency = $derived(list?.sums.currency);
  const say = (v: number | null | undefined) => (v === null || v === undefined ? '–' : billed(v, currency));
  const sums = $derived.by((): [string, number, string][] => {
    if (!list) return [];
    const s = list.sums;
    const rows: [string, number, string][] = [
      ['still to spend', s.to_spend, ''],
      ['spent or ordered', s.spent ?? 0, ''],
      ['you paid', s.outlay ?? 0, 'both together; compared with the budget'],
      ['already owned', s.owned ?? 0, 'in the value, not in what you pay'],
      ['total value', s.total, 'everything on it'],
    ];
    if (s.charges) rows.splice(3, 0, ['of it shipping, duty, tax', s.charges, '']);
    if (s.left_over) rows.splice(3, 0, ['of it no longer on the board', s.left_over, '']);
    return rows;
  });
  const left = $derived(
    piece.build.file.brief?.budget != null && list
      ? piece.build.file.brief.budget - (list.sums.outlay ?? 0)
      : null,
  );
  const nameOf = (kind: string) => KINDS[kind]?.name.toLowerCase() ?? kind;
</script>

<main
  class="mx-auto grid w-full max-w-[1280px] gap-x-8 gap-y-4 px-4 py-4 sm:px-6 lg:grid-cols-[minmax(0,1fr)_318px]"
>
  <div class="min-w-0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1 class="text-xl">Parts list</h1>
      <p class="remark">The parts, where you buy them, and their state.</p>
      <ListFile {piece} />
    </div>
    {#if list}
      <p class="mt-1 lg:hidden">
        <span class="font-semibold">{say(list.sums.to_spend)}</span> still to spend{#if left !== null}{left <
          0
            ? `, ${say(-left)} over the budget`
            : `, ${say(left)} of the budget left`}{/if}.
      </p>
      {#each piece.groups as group (group.id)}
        <OrderGroup {piece} {group} bill={list.sums.orders?.find((o) => o.name === group.name)} {currency} />
      {/each}
      {#if !list.lines.length}
        <p class="mt-4 font-serif text-lg text-ink2">Nothing chosen yet.</p>
        <p class="remark">
          The list follows your choices on the <a class="link" href={addressOf(piece.build.id, 'design')}
            >Design page</a
          >.
        </p>
      {/if}
      <OwnLine {piece} />
      {#if list.to_choose.length}
        <p class="mt-4 border-t border-line pt-3 text-sm" data-testid="to-choose">
          <span class="text-ink2">Not chosen yet:</span>
          {list.to_choose.map(nameOf).join(', ')}.
          <a class="link" href={addressOf(piece.build.id, 'design')}>Open Design</a>
        </p>
      {/if}
      <Forgotten {piece} {list} />
      <ReadyMade {piece} {list} />
    {:else if piece.asked.failed}
      <p class="py-8 text-short" role="alert">
        The parts list cannot be loaded at the moment; your board is saved.
      </p>
    {:else}
      <p class="remark py-8">Loading…</p>
    {/if}
  </div>

  <aside aria-label="Cost">
    {#if list}
      <h2 class="text-base">Cost</h2>
      <div class="mt-1 grid grid-cols-[76px_minmax(0,1fr)] gap-4 lg:grid-cols-[70px_minmax(0,1fr)]">
        <Gauge outcome={list.money} units={reader.units} {currency} height={190} />
        <dl class="m-0 grid grid-cols-[1fr_auto] content-start gap-x-3 gap-y-1 text-sm" data-testid="sums">
          {#each sums as [title, value, about] (title)}
            <dt class="text-ink2" class:pl-3={title.startsWith('of it')} title={about || undefined}>
              {title}
            </dt>
            <dd
              class="m-0 text-right"
              class:font-semibold={title === 'still to spend' || title === 'you paid'}
              data-sum={title}
            >
              {say(value)}
            </dd>
          {/each}
          {#if left !== null}
            <dt class:text-short={left < 0} class="border-t border-line pt-1">
              {left < 0 ? 'over the budget by' : 'left of the budget'}
            </dt>
            <dd class="m-0 border-t border-line pt-1 text-right font-semibold" class:text-short={left < 0}>
              {say(Math.abs(left))}
            </dd>
          {:else}
            <dt class="col-span-2 border-t border-line pt-1">
              <a class="link" href={addressOf(piece.build.id, 'design')}>Enter your budget in the brief</a>
            </dt>
          {/if}
        </dl>
      </div>
      <div class="mt-3"><CostSummary {list} /></div>
      <p class="remark mt-1 text-sm">
        {#if list.money.message}{formatMessage(list.money.message, reader.units, currency)}{:else}No prices
          entered yet.{/if}
      </p>
      {#if list.measures.length}
        <h3 class="mt-3 border-t border-line pt-2 text-sm">Cost per Wh and km</h3>
        <dl class="m-0 grid grid-cols-[1fr_auto] gap-x-3 gap-y-1 text-sm">
          {#each list.measures as m (m.title + m.per)}
            <dt>
              {m.title}, by {m.per}
              <span class="remark block text-sm">{formatMessage(m.why, reader.units, currency)}</span>
            </dt>
            <dd class="m-0 text-right font-semibold whitespace-nowrap">
              {m.value < 0.1 ? m.value.toFixed(3) : m.value.toFixed(2)}<span
                class="text-xs font-normal text-ink2">&thinsp;{currencySign(currency)}/{m.per}</span
              >
            </dd>
          {/each}
        </dl>
      {/if}
      <Rates {piece} {list} />
    {/if}
  </aside>
</main>
