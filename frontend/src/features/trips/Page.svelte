<!-- Trips: days and legs, and how far the charge carries. -->
<script lang="ts">
  import { api } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { tray } from '$lib/jobs/tray.svelte';
  import { reader } from '$lib/reader.svelte';
  import { download } from '$lib/download';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Example from '$lib/ui/Example.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import { formatMessage } from '$lib/units';
  import CoursePlot from './CoursePlot.svelte';
  import Direction from './Direction.svelte';
  import { EXAMPLE } from './example';
  import LegEntry from './LegEntry.svelte';
  import TripResult from './TripResult.svelte';
  import { Trips } from './trips.svelte';

  const build = getBuildContext();
  const trips = new Trips(build);
  const trip = $derived(trips.trip);
  const report = $derived(trip ? trips.asked.answer : null);
  const gpx = $derived((trip?.days ?? []).some((d) => (d.legs ?? []).some((l) => l.profile)));
  let pickers = $state<(FilePicker | undefined)[]>([]);
  let trouble = $state('');
  let reading = $state(-1);

  async function bring(day: number, file: File): Promise<void> {
    reading = day;
    trouble = await trips.bring(day, file);
    reading = -1;
  }
  async function file(form: 'json' | 'gpx'): Promise<void> {
    if (!trip) return;
    const { data } = await api
      .POST('/api/trip/file', { params: { query: { form } }, body: { trip }, parseAs: 'text' })
      .catch(() => ({ data: undefined }));
    if (data) download(String(data), 'application/octet-stream', `${trip.name}.${form}`);
    else trouble = 'The server cannot be reached; the trip is kept.';
  }
  const card = () =>
    tray.download('The card of the trip', () =>
      api.POST('/api/trip/card', {
        body: { document: build.board, board: build.id, trip: trip! },
      }),
    );
  const OF_TRIP = ['carried_kg', 'start_pct', 'swap_packs', 'packs_beside'];
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-3 sm:px-6">
  <div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Trips</h1>
    <p class="remark text-sm">
      Legs, charging and weather: the charge at every point, and the chance to finish.
    </p>
    <span class="ml-auto flex flex-wrap gap-2">
      {#if trips.all.length > 1}
        <label class="flex items-center gap-2 text-sm"
          >Trip<select
            class="entry"
            value={trip?.id}
            onchange={(e) => (trips.chosen = e.currentTarget.value)}
          >
            {#each trips.all as t (t.id)}<option value={t.id}>{t.name}</option>{/each}
          </select></label
        >
      {/if}
      <Button main={!trip} onclick={() => trips.add()}>Plan a trip</Button>
    </span>
  </div>
  {#if !trip}
    <p class="max-w-[36rem] text-base">
      <b>No trips yet.</b> A trip has days and legs: distance, climb and direction, or a track from another program;
      and at the end of each leg a charge, a fresh pack or a night. You see the charge on arrival, with its range,
      and where the pack may be empty.
    </p>
    <Example
      title="10 km out, an hour of charging at the café, 11 km home. The strip at the bottom is the reserve."
    >
      <CoursePlot report={EXAMPLE} reserve={EXAMPLE.reserve_pct ?? 0} />
    </Example>
  {:else}
    <div class="grid grid-cols-1 gap-x-8 gap-y-5 lg:grid-cols-[minmax(0,27rem)_minmax(0,1fr)]">
      <div class="min-w-0">
        <div class="grid grid-cols-4 gap-x-3 gap-y-2">
          <div class="col-span-4">
            <Figure path={trips.path('name')} value={trip.name} onchange={(v) => v && trips.set('name', v)} />
          </div>
          {#each OF_TRIP as key (key)}
            <Figure path={trips.path(key)} value={trips.value(key)} onchange={(v) => trips.set(key, v)} />
          {/each}
        </div>
        {#each trip.days ?? [] as day, d (d)}
          <section class="mt-4" aria-label={`Day ${d + 1}`} data-testid="trip-day">
            <div class="flex items-baseline gap-3 border-b border-ink">
              <h2 class="text-base">{(trip.days ?? []).length > 1 ? `Day ${d + 1}` : 'The way'}</h2>
              {#if (trip.days ?? []).length > 1}
                <button class="link ml-auto min-h-[32px] text-sm" onclick={() => trips.removeDay(d)}
                  >Remove day</button
                >
              {/if}
            </div>
            <div class="grid grid-cols-2 gap-x-3 gap-y-2 py-2 sm:grid-cols-3">
              <Figure
                path={trips.path(`days.${d}.on`)}
                value={day.on}
                onchange={(v) => trips.set(`days.${d}.on`, v)}
              />
              <label class="block text-xs text-ink2"
                >Start time<input
                  type="time"
                  class="entry block text-sm text-ink"
                  value={day.start ?? '09:00'}
                  onchange={(e) => trips.set(`days.${d}.start`, e.currentTarget.value || null)}
                /></label
              >
              {#each ['temperature_c', 'wind_ms'] as const as key (key)}
                <Figure
                  path={trips.path(`days.${d}.weather.${key}`)}
                  value={day.weather?.[key]}
                  onchange={(v) => trips.set(`days.${d}.weather.${key}`, v)}
                />
              {/each}
              <Direction
                label="Wind from the"
                value={day.weather?.wind_from_deg}
                none="anywhere"
                onchange={(v) => trips.set(`days.${d}.weather.wind_from_deg`, v)}
              />
            </div>
            {#each day.legs ?? [] as _, n (n)}<LegEntry {trips} day={d} leg={n} />{/each}
            <div class="flex flex-wrap gap-2 border-t border-line pt-2">
              <Button onclick={() => trips.legs(d, (legs) => [...legs, {}])}>Add a leg</Button>
              <Button onclick={() => pickers[d]?.pick()} disabled={reading === d}
                >{reading === d ? 'Reading…' : 'Import a track'}</Button
              >
              <FilePicker
                bind:this={pickers[d]}
                accept=".gpx,.csv,.json"
                label={`Track for day ${d + 1}`}
                testid="bring-way"
                onpick={(f) => void bring(d, f)}
              />
            </div>
          </section>
        {/each}
        {#if trouble}<p class="mt-1 text-sm text-short" role="alert">{trouble}</p>{/if}
        <div class="mt-4 flex flex-wrap gap-x-4 gap-y-1 border-t border-ink pt-2 text-sm">
          <button class="link min-h-[44px]" onclick={() => trips.addDay()}>Another day</button>
          <button class="link min-h-[44px]" onclick={() => void card()}>Card for the pocket</button>
          <button class="link min-h-[44px]" onclick={() => void file('json')}>JSON</button>
          {#if gpx}<button class="link min-h-[44px]" onclick={() => void file('gpx')}>GPX</button>{/if}
          <button class="link ml-auto min-h-[44px]" onclick={() => trips.remove()}>Delete trip</button>
        </div>
      </div>
      <div class="min-w-0">
        {#if report?.needs?.length}
          {#each report.needs as n, i (i)}<p class="border-l-2 border-unsure pl-3">
              {formatMessage(n, reader.units)}
            </p>{/each}
          {#if !build.file.parts?.motors}<a class="link" href={addressOf(build.id, 'design')}>Open Design</a
            >{/if}
        {:else if report?.points?.length}
          {#if trips.asked.refused}<p class="mb-1 text-sm text-short" role="alert">
              {trips.asked.refused}
            </p>{/if}
          <TripResult {trips} {report} />
        {:else if trips.asked.refused}
          <p class="text-short" role="alert">
            {Object.values(trips.asked.faults).join(' ') || trips.asked.refused}
          </p>
        {:else}
          <Awaiting
            asked={trips.asked}
            waiting="Calculating the trip…"
            lost="The trip cannot be calculated at the moment; it is saved."
          />
        {/if}
      </div>
    </div>
  {/if}
</main>
