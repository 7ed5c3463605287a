<!-- The pack as it will be built: cells to scale, links with what they bear, what lies between cells and metal. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { reader } from '$lib/reader.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import FindingItem from '$lib/ui/FindingItem.svelte';
  import { formatMessage, written } from '$lib/units';
  import BoughtPack from '$lib/build/BoughtPack.svelte';
  import Block from './Block.svelte';
  import Links from './Links.svelte';

  const build = getBuildContext();
  const asked = new Query(
    () => build.board,
    (document, signal) => api.POST('/api/pack', { body: { document }, signal }),
    { cacheKey: () => `pack:${build.id}`, pause: 60 },
  );
  const report = $derived(asked.answer);
  const plan = $derived(build.file.pack_assembly?.plan ?? {});
  const say = (s: Schemas['Message']) => formatMessage(s, reader.units);
  const volts = (v: number) => written(v, 'voltage', reader.units);
  const set = (key: string, value: unknown) => build.change({ [`pack_assembly.plan.${key}`]: value });
  /** The bricks of each set in parallel. */
  const sets = $derived.by(() => {
    const found: Schemas['Brick'][][] = [];
    for (const brick of report?.bricks ?? []) (found[brick.set - 1] ??= []).push(brick);
    return found;
  });
  const LAYING = ['lie', 'layers', 'halves'] as const;
  const JOINING = ['strip', 'strip_width_mm', 'strip_thickness_mm', 'strip_layers', 'bridges'] as const;

  /** Two groups change places; the order that the pack would have anyway is no order of its own. */
  function exchange(one: number, other: number): void {
    if (!report || one === other) return;
    const order = report.order!.map((g) => (g === one ? other : g === other ? one : g));
    set('order', order.every((g, i) => g === i + 1) ? null : order);
  }
  function tick(key: Schemas['InsulationStep']['key'], done: boolean): void {
    const kept = (plan.insulated ?? []).filter((k) => k !== key);
    set('insulated', done ? [...kept, key] : kept.length ? kept : null);
  }
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-4 sm:px-6">
  <div class="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Pack</h1>
    <p class="remark text-sm">
      Position and direction of each cell, the links between groups, and the current they bear.
    </p>
  </div>
  {#if !report}
    <Awaiting
      {asked}
      waiting="Loading the pack…"
      lost="The plan cannot be loaded at the moment; your board is saved."
    />
  {:else}
    {#if report.needs}
      <p class="mb-4 rounded border border-line bg-sheet p-3" data-testid="pack-needs">
        {say(report.needs)}
        <a class="link" href={`${addressOf(build.id, 'design')}?at=parts.pack.series`}>Open Design</a>
      </p>
    {/if}
    {#if report.findings?.length}<h2 class="sr-only">Findings</h2>{/if}
    {#each report.findings ?? [] as finding (finding.id)}
      <FindingItem {finding} fixes={finding.fixes ?? []} onfix={(fix) => build.change(fix.changes)} />
    {/each}
    {#if report.bought}<BoughtPack bought={report.bought} />{/if}
    {#if report.kind === 'cells'}
      <div class="mt-2 grid gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,1fr)_320px]">
        <div class="min-w-0">
          {#each report.blocks ?? [] as block (block.box)}
            {#if block.cannot}
              <p
                class="mb-2 rounded border-2 border-short bg-sheet p-2"
                role="alert"
                data-testid="pack-cannot"
              >
                {say(block.cannot)}
                <a class="link" href={addressOf(build.id, 'enclosure')}>Open Enclosure</a>, or choose another
                layout.
              </p>
            {/if}
            {#if block.cells.length}<Block {block} links={report.links ?? []} onexchange={exchange} />{/if}
          {/each}
          {#if plan.order}
            <p class="mt-1 text-sm">
              The groups have your own order.
              <button class="link" onclick={() => set('order', null)}>Restore the default order</button>
            </p>
          {/if}
          <Links {report} />
        </div>
        <aside aria-label="How it is made">
          <h2 class="text-base">Layout</h2>
          <div class="grid grid-cols-2 gap-x-3 gap-y-2">
            {#each LAYING as key (key)}
              <Figure path={`pack_assembly.plan.${key}`} value={plan[key]} onchange={(v) => set(key, v)} />
            {/each}
          </div>
          <h2 class="mt-4 text-base">Links</h2>
          <div class="grid grid-cols-2 gap-x-3 gap-y-2">
            {#each JOINING as key (key)}
              <Figure path={`pack_assembly.plan.${key}`} value={plan[key]} onchange={(v) => set(key, v)} />
            {/each}
          </div>
          <dl class="mt-3 grid grid-cols-[1fr_auto] gap-x-3 gap-y-1 text-sm" data-testid="pack-sums">
            <dt class="text-ink2">current through every link</dt>
            <dd>{written(report.current_a ?? 0, 'current', reader.units)}</dd>
            {#if report.sized_for}<dd class="col-span-2 m-0 text-xs text-ink2">
                {say(report.sized_for)}
              </dd>{/if}
            <dt class="text-ink2">loss in all links</dt>
            <dd>
              {written(report.volts ?? 0, 'cell_voltage', reader.units)}, {written(
                report.loss_w ?? 0,
                'power',
                reader.units,
              )}
            </dd>
            <dt class="text-ink2">strip and wire</dt>
            <dd>{written(report.strip_mass_g ?? 0, 'mass', reader.units)}</dd>
            <dt class="text-ink2">on the bench, in one piece</dt>
            <dd>{volts(report.full_v ?? 0)}</dd>
            {#if plan.halves}
              <dt class="text-ink2">in halves</dt>
              <dd>{volts(report.half_v ?? 0)}</dd>
            {/if}
          </dl>
        </aside>
      </div>
    {:else if report.kind === 'bricks'}
      <section class="mt-2 max-w-3xl" aria-label="Bricks">
        {#each sets as set, s (s)}
          <div class="mb-2 flex flex-wrap items-center gap-1" data-testid="bricks">
            {#if sets.length > 1}<span class="w-full text-sm sm:w-12">Set {s + 1}</span>{/if}
            {#each set as brick, n (brick.number)}
              {#if n}<span class="text-sm text-ink2" aria-label="series lead">+ → −</span>{/if}
              <span class="rounded border border-ink bg-sand px-4 py-3 text-sm"
                ><b>Brick {brick.number}</b><br />{brick.series} in series, {volts(brick.full_v)}<br /><span
                  class="text-ink2">− at {volts(brick.from_v)}, + at {volts(brick.to_v)}</span
                ></span
              >
            {/each}
          </div>
        {/each}
        {#if sets.length > 1}<p class="text-sm text-ink2">
            All first negatives together, all last positives together: the parallel lead.
          </p>{/if}
        {#each report.words ?? [] as words, i (i)}<p class="mt-2">{say(words)}</p>{/each}
      </section>
    {/if}
    {#if report.work?.length}
      <div class="mt-6 grid gap-x-8 gap-y-5 border-t border-ink pt-3 lg:grid-cols-2">
        <section aria-label="Order of work">
          <h2 class="text-lg">Order of work</h2>
          <ol class="m-0 list-none p-0">
            {#each report.work as step, n (step.title)}
              <li class="border-t border-line py-2">
                <b>{n + 1}. {step.title}</b>
                <p>{say(step.text)}</p>
                {#if step.caution}<p class="mt-1 border-l-[3px] border-short pl-2 text-sm">
                    {step.caution}
                  </p>{/if}
              </li>
            {/each}
          </ol>
        </section>
        <section aria-label="Between cells and metal">
          <h2 class="text-lg">Between cells and metal</h2>
          <ul class="m-0 list-none p-0">
            {#each report.insulation ?? [] as step (step.key)}
              <li class="border-t border-line">
                <label class="flex min-h-11 items-center gap-3 py-1 sm:min-h-9">
                  <input
                    type="checkbox"
                    class="size-5 accent-holds"
                    checked={step.done}
                    onchange={(e) => tick(step.key, e.currentTarget.checked)}
                  />
                  <span>{step.title}<span class="block text-sm text-ink2">{step.why}</span></span>
                </label>
              </li>
            {/each}
          </ul>
        </section>
      </div>
      <p class="mt-3 text-sm">
        <a class="link" href={addressOf(build.id, 'balance-leads')}>Open Balance leads</a>
      </p>
    {/if}
  {/if}
</main>
