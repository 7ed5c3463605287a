<!-- Rides: written down in five seconds, brought in as tracks, judged; tests; what they came to; claims. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { onDestroy } from 'svelte';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { dayText, reader } from '$lib/reader.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Example from '$lib/ui/Example.svelte';
  import TwoVersions from '$lib/ui/TwoVersions.svelte';
  import { written } from '$lib/units';
  import BringIn from './BringIn.svelte';
  import ClaimCheck from './ClaimCheck.svelte';
  import Entry from './Entry.svelte';
  import Months from './Months.svelte';
  import RideCard from './RideCard.svelte';
  import { api } from '$lib/api/client';
  import { Query } from '$lib/sync/query.svelte';
  import HowFar from './HowFar.svelte';
  import { Rides, type RideLine } from './rides.svelte';
  import Tests from './Tests.svelte';

  const build = getBuildContext();
  const rides = new Rides(build);
  onDestroy(() => rides.close());
  /** What is left at each reading; asked before it is needed, so that it is here where there is no network. */
  const left = new Query(
    () => build.board,
    (document, signal) => api.POST('/api/how-far', { body: { document, board: build.id }, signal }),
    { pause: 250, cacheKey: () => `how-far:${build.id}` },
  );
  const VIEWS = [
    ['rides', 'Rides'],
    ['how-far', 'How far?'],
    ['tests', 'Tests'],
    ['claim', 'A claim'],
  ] as const;
  const asked = new URLSearchParams(location.search);
  let view = $state<(typeof VIEWS)[number][0]>(VIEWS.find(([v]) => v === asked.get('view'))?.[0] ?? 'rides');
  let open = $state(asked.get('at') ?? '');
  let many = $state(40);
  const lines = $derived(rides.lines);
  const say = (v: number, q: string) => written(v, q, reader.units);

  function go(id: string): void {
    view = 'rides';
    open = id;
    many = Math.max(many, lines.findIndex((l) => l.id === id) + 1);
    requestAnimationFrame(() => document.getElementById(`ride-${id}`)?.scrollIntoView({ block: 'nearest' }));
  }
  const EXAMPLE = [
    {
      title: 'to work and back',
      km: 9.4,
      start: 41.8,
      end: 37.9,
      verdict: '✓ as expected',
      tone: 'text-holds',
    },
    {
      title: 'against the wind',
      km: 7.1,
      start: 41.7,
      end: 37.2,
      verdict: '✓ as expected',
      tone: 'text-holds',
    },
    {
      title: 'soft tyres',
      km: 6.8,
      start: 41.8,
      end: 36.4,
      verdict: '~ outside its range',
      tone: 'text-unsure',
    },
  ];
  const verdict = (line: RideLine): [string, string] | null => {
    if (line.ride.left_out) return ['left out', 'text-ink2'];
    const judged = rides.judged(line.id);
    if (!judged?.figures.length) return null;
    if (judged.figures.some((f) => f.contradicts)) return ['✕ contradicts the rest', 'text-short'];
    return judged.figures.every((f) => f.inside)
      ? ['✓ as expected', 'text-holds']
      : ['~ outside its range', 'text-unsure'];
  };
</script>

<svelte:window ononline={() => rides.retry()} onfocus={() => rides.retry()} />

<TwoVersions
  title={rides.clash ? `The ride of ${dayText(rides.clash.ride.day)} was changed elsewhere` : ''}
  mine={rides.clash?.ride}
  theirs={rides.clash?.theirs}
  of="ride"
>
  {#snippet actions()}
    <Button onclick={() => rides.settle('theirs')}>Use the other</Button>
    <Button main onclick={() => rides.settle('mine')}>Keep mine</Button>
  {/snippet}
</TwoVersions>

<main class="mx-auto w-full max-w-[1240px] px-4 py-3 sm:px-6">
  <div class="mb-2 flex flex-wrap items-center gap-x-5 gap-y-1">
    <h1 class="text-xl max-sm:sr-only">Rides</h1>
    <nav class="flex flex-wrap gap-x-4" aria-label="Views of the rides">
      {#each VIEWS as [slug, name] (slug)}
        <button class="tab min-h-[44px]" aria-pressed={view === slug} onclick={() => (view = slug)}
          >{name}</button
        >
      {/each}
    </nav>
    <p class="ml-auto text-sm">
      <a class="link mr-4" href={addressOf(build.id, 'calibration')}>Open Calibration</a>
      <a class="link" href={`/api/builds/${build.id}/rides/file`} download target="_self">Export all rides</a>
    </p>
  </div>
  {#if rides.offline || rides.count}
    <p class="mb-2 text-sm text-unsure" role="status" data-testid="rides-waiting">
      {#if rides.offline}The server cannot be reached.{/if}
      {#if rides.count}{plural(rides.count, [
          'One entry waits for the network; saved on this device.',
          '# entries wait for the network; saved on this device.',
        ])}{/if}
    </p>
  {/if}
  {#each rides.answer?.unreadable ?? [] as ride (ride.id)}
    <p class="mb-2 text-sm text-short" data-testid="unreadable-ride">
      A saved ride cannot be read: {ride.faults[0]?.reason}. It does not count; it stays in the export of your
      data.
    </p>
  {/each}
  {#if rides.notice}
    <p class="mb-2 text-sm text-short" role="alert">
      {rides.notice} <button class="link min-h-6" onclick={() => (rides.notice = '')}>Read</button>
    </p>
  {/if}
  {#if view === 'how-far'}
    <HowFar {build} asked={left} />
  {:else if view === 'tests'}
    <Tests {rides} onkept={go} />
  {:else if view === 'claim'}
    <ClaimCheck {build} />
  {:else}
    <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_320px]">
      <div class="min-w-0">
        <Entry {rides} onkept={(id) => (open = id)} />
        <BringIn {rides} onkept={go} />
        {#if !rides.answer && !lines.length}
          <Awaiting
            asked={rides.asked}
            waiting="Loading the rides…"
            lost="The rides cannot be loaded at the moment; what you record is saved on this device."
          />
        {:else if !lines.length}
          <p class="mt-6 max-w-[34rem]">
            <b>No rides yet.</b> Kilometres and the pack’s volts before and after are enough: each ride narrows
            the prediction of this board, and shows how you ride. That also counts for your next board.
          </p>
          <Example
            title="three rides of another board. Each is compared with what was predicted for that day."
          >
            <ul class="m-0 list-none p-0 text-sm">
              {#each EXAMPLE as line (line.title)}
                <li class="flex flex-wrap gap-x-3 border-t border-line py-1.5">
                  <b>{say(line.km, 'distance')}</b>
                  <span>{say(line.start, 'voltage')} to {say(line.end, 'voltage')}</span>
                  <span class="text-ink2">{line.title}</span>
                  <span class={['ml-auto', line.tone]}>{line.verdict}</span>
                </li>
              {/each}
            </ul>
          </Example>
        {:else}
          <ol class="mt-4" aria-label="Rides, the latest first">
            {#each lines.slice(0, many) as line (line.id)}
              {@const said = verdict(line)}
              <li class="border-b border-line" id={`ride-${line.id}`} data-testid="ride-line">
                <button
                  class="grid min-h-[44px] w-full grid-cols-[auto_1fr_auto] items-center gap-x-3 py-1 text-left"
                  aria-expanded={open === line.id}
                  onclick={() => (open = open === line.id ? '' : line.id)}
                >
                  <span class="whitespace-nowrap">{dayText(line.ride.day)}</span>
                  <span class="min-w-0">
                    <b
                      >{line.ride.way?.distance_km != null
                        ? say(line.ride.way.distance_km, 'distance')
                        : (line.ride.title ?? 'a test')}</b
                    >
                    {#if line.ride.pack?.start_v != null && line.ride.pack.end_v != null}
                      <span class="text-ink2"
                        >{say(line.ride.pack.start_v, 'voltage')} to {say(
                          line.ride.pack.end_v,
                          'voltage',
                        )}</span
                      >
                    {/if}
                    {#if line.ride.way?.distance_km != null && line.ride.title}<span class="text-ink2"
                        >{line.ride.title}</span
                      >{/if}
                    {#if line.track}<span class="text-ink2">track</span>{/if}
                    {#if line.unsent}<span class="text-unsure">waits</span>{/if}
                  </span>
                  {#if said}<span class={['text-sm whitespace-nowrap', said[1]]}>{said[0]}</span>{/if}
                </button>
                {#if open === line.id}<RideCard {rides} {line} onaway={() => (open = '')} />{/if}
              </li>
            {/each}
          </ol>
          {#if lines.length > many}
            <button class="link mt-2 min-h-[44px]" onclick={() => (many += 200)}
              >Show more of {lines.length}</button
            >
          {/if}
        {/if}
      </div>
      {#if rides.answer && rides.answer.sums.rides}
        <Months
          sums={rides.answer.sums}
          currency={rides.answer.currency}
          {lines}
          all={rides.answer.rides}
          {go}
        />
      {/if}
    </div>
  {/if}
</main>
