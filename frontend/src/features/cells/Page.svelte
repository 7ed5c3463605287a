<!-- The cells: a bag of measured ones, judged, sorted into groups, exchanged by hand, labelled. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { tray } from '$lib/jobs/tray.svelte';
  import { reader } from '$lib/reader.svelte';
  import BoughtPack from '$lib/build/BoughtPack.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Example from '$lib/ui/Example.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import { formatMessage, written } from '$lib/units';
  import Bag from './Bag.svelte';
  import BringIn from './BringIn.svelte';
  import { CellsPage } from './cells.svelte';
  import Groups from './Groups.svelte';
  import Picked from './Picked.svelte';

  const build = getBuildContext();
  const page = new CellsPage(build);
  const report = $derived(page.report);
  const pack = $derived(build.file.parts?.pack);
  const say = (s: Schemas['Message']) => formatMessage(s, reader.units);
  const ah = (v: number) => written(v, 'charge', reader.units);
  let bringing = $state(false);
  const EXAMPLE = [
    { id: 'a1', volts: 4.17, capacity: 2.61, group: 1 },
    { id: 'a2', volts: 4.17, capacity: 2.48, group: 2 },
    { id: 'a3', volts: 4.16, capacity: 2.55, group: 2 },
    { id: 'a4', volts: 4.08, capacity: 2.57, group: null },
  ];

  async function lot(): Promise<void> {
    const { data } = await api
      .POST('/api/cells/lot', { body: { document: build.board } })
      .catch(() => ({ data: undefined }));
    if (data?.length) page.put(data, `${data.length} new cells of one batch, in their groups.`);
    else notices.say('The server cannot be reached, or no pack is chosen; nothing was changed.');
  }
  async function labels(): Promise<void> {
    if (!(await build.settled())) return notices.say('The last changes are not saved yet.');
    await tray.download('Labels for the cells', () =>
      api.POST('/api/builds/{id}/cells/labels', { params: { path: { id: build.id } } }),
    );
  }
  async function away(): Promise<void> {
    if (await build.settled()) window.location.href = `/api/builds/${build.id}/cells.csv`;
    else notices.say('The last changes are not saved yet.');
  }
  const sortedAlready = $derived(
    report?.sorted != null && page.cells.every((c) => (c.group ?? null) === (report.sorted?.[c.id] ?? null)),
  );
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-4 pb-24 sm:px-6">
  <div class="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
    <h1 class="text-xl">Cells</h1>
    <p class="remark text-sm">Measure each cell; they are sorted so that the groups are alike.</p>
    {#if page.cells.length}
      <span class="ml-auto flex flex-wrap gap-2">
        <Button onclick={() => (bringing = true)}>Import cells</Button>
        <Button onclick={labels}>Labels on A4</Button>
        <Button onclick={away}>CSV</Button>
      </span>
    {/if}
  </div>
  {#if page.asked.failed && !report}
    <p class="py-8 text-short" role="alert">
      The cells cannot be checked at the moment; what you entered is saved.
      <button class="link" onclick={() => page.asked.again()}>Try again</button>
    </p>
  {:else if !page.cells.length && report?.bought}
    <BoughtPack bought={report.bought}>{@render begin()}</BoughtPack>
  {:else if !page.cells.length}
    {@render begin()}
  {:else if report}
    <div class="grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_310px]">
      <section class="min-w-0" aria-label="Groups">
        <div class="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
          {#if report.sorted && !sortedAlready}
            <Button main class="min-h-11 sm:min-h-[34px]" onclick={() => page.sort()}
              >{page.cells.some((c) => c.group) ? 'Sort them anew' : 'Sort into groups'}</Button
            >
            {#if report.sorted_weakest_ah}
              <span class="text-sm text-ink2"
                >the smallest group would have {ah(report.sorted_weakest_ah)}</span
              >
            {/if}
          {:else if report.whole && report.weakest_ah}
            <p class="text-base" data-testid="sum">
              Smallest group: {report.weakest}, with <b>{ah(report.weakest_ah)}</b>.
              {#if report.bound_ah}<span class="text-ink2">The best possible is {ah(report.bound_ah)}.</span
                >{/if}
            </p>
          {/if}
        </div>
        {#if report.cannot}
          <p class="mb-2 rounded border-2 border-short bg-sheet p-2" role="alert" data-testid="cannot">
            {say(report.cannot)}
            {#if report.usable < report.needed}
              <a class="link" href={`${addressOf(build.id, 'design')}?at=parts.pack.parallel`}
                >Change the pack</a
              >
            {/if}
          </p>
        {/if}
        <Groups {page} {report} />
        <p class="mt-2 text-xs text-ink2">
          Select a cell, then a second one, to see what swapping them would cost.
        </p>
      </section>
      <aside class="lg:sticky lg:top-2 lg:self-start" aria-label="The bag">
        <dl class="grid grid-cols-2 gap-x-4 gap-y-1 text-sm">
          <dt class="text-ink2">in stock</dt>
          <dd class="text-right">{page.cells.length}</dd>
          <dt class="text-ink2">usable</dt>
          <dd class="text-right">{report.usable} of {report.needed} needed</dd>
          {#if report.spread_pct != null}
            <dt class="text-ink2">groups differ by</dt>
            <dd class="text-right">{report.spread_pct.toFixed(2)} %</dd>
          {/if}
          {#if report.resistance_spread_pct != null}
            <dt class="text-ink2">resistance by</dt>
            <dd class="text-right">{report.resistance_spread_pct.toFixed(1)} %</dd>
          {/if}
        </dl>
        {#if page.cells.some((c) => c.resistance_mohm)}
          <div class="mt-2">
            <Figure
              path="pack_assembly.resistance_by"
              value={build.file.pack_assembly?.resistance_by}
              onchange={(v) => build.change({ 'pack_assembly.resistance_by': v })}
            />
          </div>
        {/if}
        {#if report.spare.length}
          <h2 class="mt-3 text-base">Spare</h2>
          <p class="flex flex-wrap gap-1">
            {#each report.spare as id (id)}
              <button
                class="min-h-7 rounded border border-rule bg-sheet px-1.5 text-sm"
                class:border-acting={page.picked === id || page.other === id}
                class:font-semibold={page.picked === id || page.other === id}
                aria-pressed={page.picked === id || page.other === id}
                onclick={() => page.pick(id)}>{id}</button
              >
            {/each}
          </p>
        {/if}
        {#if report.rejected.length}
          <h2 class="mt-3 text-base text-short">Rejected, and why</h2>
          <ul class="m-0 list-none p-0">
            {#each report.rejected as r (r.id)}
              <li class="border-t border-line py-1 text-sm" data-testid="rejected">
                <button class="link font-semibold" onclick={() => page.pick(r.id)}>{r.id}</button>
                {say(r.message)}
              </li>
            {/each}
          </ul>
        {/if}
        <p class="remark mt-3 border-t border-line pt-2 text-sm">
          {say(report.before)}
        </p>
      </aside>
    </div>
    <Bag {page} {report} />
  {:else}
    <p class="remark py-8">Counting…</p>
  {/if}
</main>
<Picked {page} />
<BringIn {page} open={bringing} onclose={() => (bringing = false)} />

{#snippet begin()}
  <section class="max-w-2xl rounded border border-line bg-sheet p-5" aria-label="Begin">
    <h2 class="text-lg">No cells yet</h2>
    <p class="mt-1">
      A pack is as good as its smallest group. Enter for each cell its voltage as found, its capacity from
      full to empty, and its voltage after a week of rest; the groups are made from that.
    </p>
    {#if !pack?.series}
      <p class="mt-2 border-l-2 border-unsure pl-2 text-sm">
        Choose on the Design page how many are in series and in parallel.
        <a class="link" href={`${addressOf(build.id, 'design')}?at=parts.pack.series`}>Open Design</a>
      </p>
    {/if}
    <div class="mt-3 flex flex-wrap gap-2">
      <Button main class="min-h-11 sm:min-h-[34px]" onclick={() => (bringing = true)}
        >Import measured cells</Button
      >
      {#if pack?.series && pack.cell?.origin !== 'salvaged'}
        <Button class="min-h-11 sm:min-h-[34px]" onclick={lot}>New cells of one batch</Button>
      {/if}
    </div>
    {#if report}<p class="remark mt-3 text-sm">{say(report.begin)}</p>{/if}
  </section>
  <Example title="four salvaged cells, three of them sorted into groups.">
    <ul class="m-0 list-none p-0 text-sm">
      {#each EXAMPLE as cell (cell.id)}
        <li class="flex flex-wrap gap-x-3 border-t border-line py-1.5">
          <b class="w-8">{cell.id}</b>
          <span>{written(cell.volts, 'cell_voltage', reader.units)}</span>
          <span>{ah(cell.capacity)}</span>
          <span class={['ml-auto', cell.group ? 'text-ink2' : 'text-short']}
            >{cell.group
              ? `group ${cell.group}`
              : 'rejected: its voltage fell at rest, so it discharges itself'}</span
          >
        </li>
      {/each}
    </ul>
  </Example>
{/snippet}
