<!-- Where a board stands: what comes next across all pages and why, each with one way in; what is done; what happened lately. -->
<script lang="ts">
  import { PAGES, STAGES } from '$lib/api/tables.gen';
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { messageText, reader, shortDay } from '$lib/reader.svelte';
  import { pagesOf } from '$lib/pages';
  import { Query } from '$lib/sync/query.svelte';
  import Gauge from '$lib/ui/Gauge.svelte';
  import { formatMessage } from '$lib/units';
  import StepRow from './StepRow.svelte';

  const build = getBuildContext();
  const asked = new Query(
    () => build.file,
    (document, signal) =>
      api.POST('/api/builds/{id}/overview', {
        params: { path: { id: build.id } },
        body: { document },
        signal,
      }),
    { cacheKey: () => `overview:${build.id}` },
  );
  const overview = $derived(asked.answer);
  const outcomes = $derived(overview?.outcomes.filter((p) => p.wanted != null) ?? []);
  const pressing = $derived(overview?.steps.filter((s) => s.urgency !== 'better') ?? []);
  const better = $derived(overview?.steps.filter((s) => s.urgency === 'better') ?? []);
  const say = (message: Schemas['Message']) => formatMessage(message, reader.units, build.file.currency);

  const MARKS: Record<Schemas['StageProgress']['progress'], [mark: string, tone: string, word: string]> = {
    done: ['✓', 'bg-holds border-holds text-onink', 'done'],
    'under way': ['', 'border-acting bg-paper ring-4 ring-acting/15', 'under way'],
    trouble: ['!', 'border-short bg-short-wash text-short', 'needs you'],
    open: ['', 'border-fog bg-paper', 'not begun'],
  };
  const title = (slug: string) => STAGES.find((s) => s.slug === slug)!.title;
  const titleOf = (slug: string) => PAGES.find((r) => r.slug === slug)!.title;
</script>

<div class="grid flex-1 lg:grid-cols-[minmax(0,1fr)_392px]">
  <main class="min-w-0 px-4 pt-5 pb-8 sm:px-7">
    <div class="flex flex-wrap items-baseline gap-x-3.5">
      <h1 class="text-2xl">{build.name}</h1>
      <p class="remark">{build.file.stage ?? 'planned'}</p>
    </div>
    {#if asked.fromCache}
      <p class="mt-1 text-sm text-unsure" role="status">
        The server cannot be reached: this is what this device loaded last.
      </p>
    {/if}
    {#if overview}
      <ol
        class="m-0 mt-4 grid list-none p-0"
        style:grid-template-columns={`repeat(${overview.stages.length}, minmax(0, 1fr))`}
        aria-label="The stages"
      >
        {#each overview.stages as stage, i (stage.slug)}
          {@const [mark, tone, word] = MARKS[stage.progress]}
          <li class="relative pr-3" data-testid="stage" data-progress={stage.progress}>
            {#if i < overview.stages.length - 1}<span class="rail" aria-hidden="true"></span>{/if}
            <a class="group block" href={addressOf(build.id, pagesOf(stage.slug)[0]!.slug)}>
              <span
                class={`relative flex size-[22px] items-center justify-center rounded-full border-2 text-sm leading-none font-bold ${tone}`}
                aria-hidden="true">{mark}</span
              >
              <span class="mt-1.5 block text-base font-semibold group-hover:underline"
                >{title(stage.slug)}<span class="sr-only">, {word}</span></span
              >
              <span class="block text-sm leading-snug text-ink2">{say(stage.word)}</span>
            </a>
          </li>
        {/each}
      </ol>

      <h2 class="mt-6 border-b border-line pb-2 text-lg">Next steps</h2>
      {#if pressing.length}
        <ol class="m-0 list-none p-0" data-testid="next">
          {#each pressing as step, i (step.id)}<StepRow {build} {step} number={i + 1} />{/each}
        </ol>
      {:else}
        <p class="border-b border-line py-4">
          Nothing to do right now.
          <span class="text-ink2"
            >{build.file.stage === 'riding'
              ? 'Ride it, and check screws, belts and pack as usual.'
              : 'Continue where you like.'}</span
          >
        </p>
      {/if}
      {#if better.length}
        <h2 class="mt-6 border-b border-line pb-2 text-lg">Worth a few minutes</h2>
        <ul class="m-0 list-none p-0" data-testid="better">
          {#each better as step (step.id)}<StepRow {build} {step} />{/each}
        </ul>
      {/if}
      <p class="remark mt-5 max-w-2xl text-sm">
        Lithium packs burn and brakes fade. An empty list does not mean that the board is safe: ask people who
        know, and find out where you may ride.
      </p>
    {:else if asked.failed}
      <p class="py-8 text-short" role="alert">
        The overview cannot be loaded at the moment; your board is saved.
        <button class="link" onclick={() => asked.again()}>Try again</button>
      </p>
    {:else}
      <p class="remark py-8">Loading the overview…</p>
    {/if}
  </main>

  <aside
    class="border-line px-4 pt-5 pb-8 max-lg:border-t sm:px-6 lg:border-l"
    aria-label="Outcomes and targets"
  >
    {#if overview}
      <h2 class="text-lg">Outcomes and targets</h2>
      {#if outcomes.length}
        <div class="mt-2 grid grid-cols-[repeat(auto-fit,minmax(56px,1fr))] gap-3">
          {#each outcomes as outcome (outcome.name)}
            <div class="min-w-0">
              <p class="mb-1 text-sm text-ink2">{outcome.title}</p>
              <Gauge {outcome} units={reader.units} currency={build.file.currency} height={170} width={56} />
            </div>
          {/each}
        </div>
      {:else}
        <p class="mt-1 text-sm text-ink2">
          No targets yet. <a class="link" href={addressOf(build.id, 'design', 'brief.range_km')}
            >Write the brief</a
          >
        </p>
      {/if}
      <h2 class="mt-6 border-b border-line pb-2 text-lg">Recent</h2>
      {#if overview.recent.length}
        <dl class="m-0" data-testid="recent">
          {#each overview.recent as event (event.on + event.what.text)}
            <div class="flex gap-4 border-b border-line py-2">
              <dt class="w-[4.6rem] shrink-0 text-sm text-ink2">{shortDay(event.on)}</dt>
              <dd class="m-0 min-w-0 text-sm">
                <a class="hover:underline" href={addressOf(build.id, event.page)}
                  >{messageText(event.what)}<span class="sr-only">, to: {titleOf(event.page)}</span></a
                >
              </dd>
            </div>
          {/each}
        </dl>
      {:else}
        <p class="py-2 text-sm text-ink2">
          Nothing has happened yet. Orders, arrivals, settings and tests will be listed here.
        </p>
      {/if}
    {/if}
  </aside>
</div>

<style>
  .rail {
    position: absolute;
    top: 10.5px;
    left: 28px;
    right: 6px;
    height: 1.5px;
    background: var(--color-line);
  }
</style>
