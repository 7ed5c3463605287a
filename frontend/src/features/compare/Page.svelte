<!-- Two to four builds or revisions side by side: gauges on one scale, what differs and nothing else, curves laid over each other. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { reader } from '$lib/reader.svelte';
  import { changeText } from '$lib/changes';
  import { untrack } from 'svelte';
  import { go, param, addressOf } from '$lib/navigation';
  import { api, faultsOf, type Schemas } from '$lib/api/client';
  import Plot from '$lib/charts/Plot.svelte';
  import Changes from '$lib/ui/Changes.svelte';
  import Gauge from '$lib/ui/Gauge.svelte';
  import { formatMessage, write } from '$lib/units';

  let found = $state.raw<Schemas['CompareOut'] | null>(null);
  let trouble = $state('');
  let names = $state.raw<Schemas['BuildName'][]>([]);

  const MOST = 4;
  const refs = $derived(decodeURIComponent(param('refs')).split(',').filter(Boolean));

  $effect(() => {
    const of = refs;
    untrack(() => void load(of));
  });

  async function load(of: string[]): Promise<void> {
    trouble = '';
    const answer = await api.GET('/api/compare', { params: { query: { of } } }).catch(() => null);
    if (answer?.data) found = answer.data;
    else {
      found = null;
      trouble = answer ? faultsOf(answer.error).message : 'The server cannot be reached.';
    }
    if (!names.length) names = (await api.GET('/api/builds/names').catch(() => null))?.data ?? [];
  }

  const set = (of: string[]) => go(`/compare/${of.join(',')}`);
  const heads = $derived(found?.columns.map((c) => (c.revision ? `${c.name}, ${c.revision}` : c.name)) ?? []);
  const PATTERNS = [undefined, '7 3', '2 3', '9 3 2 3'];
  const TONES = ['var(--color-holds)', 'var(--color-acting)', 'var(--color-wet)', 'var(--color-short)'];

  /** One scale for an outcome in all columns, so that their blocks can be held against each other. */
  function end(i: number): number {
    const all = found?.headlines.map((h) => h.outcomes[i]!) ?? [];
    return Math.max(...all.map((p) => Math.max((p.high ?? p.mid ?? 0) * 1.12, (p.wanted ?? 0) * 1.4)), 1e-6);
  }
  const currencies = $derived(new Set(found?.columns.map((c) => c.currency ?? '')).size);
  const unlikeBriefs = $derived(
    found?.differences.some((d) => d.section === 'brief' || d.section === 'rider') ?? false,
  );
  const left = $derived(names.filter((n) => !refs.includes(n.id)));
</script>

<svelte:head><title>Compare boards – Sand Pocket</title></svelte:head>
<main class="mx-auto w-full max-w-[1240px] px-4 py-4 sm:px-6">
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
    <h1 class="text-xl">Compare boards</h1>
    <p class="remark">
      {unlikeBriefs
        ? 'Each with its own brief: the briefs or riders differ, see below.'
        : 'The same brief, the same scales.'}
    </p>
    {#if found && refs.length < MOST && left.length}
      <select
        class="entry ml-auto w-64"
        aria-label="Add another board"
        value=""
        onchange={(e) => set([...refs, e.currentTarget.value])}
      >
        <option value="">add another board…</option>
        {#each left as n (n.id)}<option value={n.id}>{n.name}</option>{/each}
      </select>
    {/if}
  </div>
  {#if found}
    <div
      class="mt-3 grid gap-x-8 gap-y-6"
      style={`grid-template-columns: repeat(auto-fit, minmax(min(100%, ${found.columns.length > 2 ? 270 : 340}px), 1fr))`}
    >
      {#each found.columns as column, c (c)}
        {@const headline = found.headlines[c]!}
        <section
          class="min-w-0 border-t-2 pt-2"
          style:border-color={TONES[c]}
          data-testid="column"
          data-ref={column.ref}
        >
          <div class="flex items-baseline gap-2">
            <svg width="22" height="8" aria-hidden="true"
              ><line
                x1="0"
                x2="22"
                y1="4"
                y2="4"
                stroke={TONES[c]}
                stroke-width="3"
                stroke-dasharray={PATTERNS[c]}
              /></svg
            >
            <h2 class="min-w-0 text-base">
              <a
                class="hover:underline"
                href={column.revision
                  ? addressOf(column.build, 'revisions')
                  : addressOf(column.build, 'design')}>{column.name}</a
              >
            </h2>
            {#if found.columns.length > 2}
              <button
                class="ml-auto px-1 text-ink2 hover:text-short"
                aria-label={`Remove ${heads[c]} from the comparison`}
                onclick={() => set(refs.filter((r) => r !== column.ref))}>✕</button
              >
            {/if}
          </div>
          <p class="remark text-sm">{column.revision ?? 'as it is now'}</p>
          {#if headline.needs.length}
            <p class="text-sm text-unsure">
              {plural(headline.needs.length, [
                'No prediction yet: one choice is missing.',
                'No prediction yet: # choices are missing.',
              ])}
            </p>
          {/if}
          <div class="mt-2 grid grid-cols-[repeat(5,minmax(0,76px))] justify-between gap-2">
            {#each headline.outcomes as outcome, i (outcome.name)}
              <div class="min-w-0">
                <p class="mb-1 text-xs text-ink2">{outcome.title}</p>
                <Gauge
                  {outcome}
                  units={reader.units}
                  currency={column.currency}
                  compact={found.columns.length > 2}
                  height={170}
                  width={56}
                  end={outcome.name === 'money' && currencies > 1 ? undefined : end(i)}
                />
              </div>
            {/each}
          </div>
          {#if c > 0}
            <p class="mt-1 text-sm" data-testid="against-first">
              Compared with the first, with the same rider on the same days:
              {#each found.changes[c]!.filter((x) => x.change != null && x.better != null) as change (change.name)}
                {@const told = changeText(change, reader.units)}
                <span class="mr-2 inline-block whitespace-nowrap"
                  >{change.name}
                  <span class={told.tone}>{told.text}</span>{#if told.unsure}<span
                      class="ml-0.5 text-xs text-ink2">{told.unsure}</span
                    >{/if}
                  <span class="text-xs text-ink2"
                    >{write(change.change!, change.quantity, reader.units, column.currency).unit}</span
                  ></span
                >
              {:else}<span class="text-ink2">no measurable difference.</span>{/each}
            </p>
          {/if}
          <p class="remark mt-1 text-sm">
            {#if headline.outcomes[0]?.message}{formatMessage(
                headline.outcomes[0].message,
                reader.units,
                column.currency,
              )}{/if}
          </p>
        </section>
      {/each}
    </div>

    <h2 class="mt-6 text-base">What differs</h2>
    {#if found.differences.length}
      <Changes changes={found.differences} {heads} currency={found.columns[0]?.currency} />
    {:else}
      <p class="remark">Nothing: same parts, same settings, same brief.</p>
    {/if}

    {#if found.plots.length}
      <div class="mt-6 grid gap-x-8 gap-y-6 lg:grid-cols-2">
        {#each found.plots as plot (plot.id)}<Plot {plot} name="side-by-side" />{/each}
      </div>
    {/if}
  {:else if trouble}
    <p class="py-8 text-short" role="alert">
      {trouble} <button class="link" onclick={() => load(refs)}>Try again</button>
    </p>
    <p class="remark">
      Tick two to four boards on the page <a class="link" href="/">Your boards</a>, or revisions on a board’s
      revisions.
    </p>
  {:else}
    <p class="remark py-8">Comparing…</p>
  {/if}
</main>
