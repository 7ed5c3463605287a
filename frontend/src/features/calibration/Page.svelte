<!-- What the rides taught: every outcome and every input before and after, which ride gave what, trends, what goes along. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import BandRuler from '$lib/charts/BandRuler.svelte';
  import { addressOf } from '$lib/navigation';
  import { reader, shortDay } from '$lib/reader.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import Example from '$lib/ui/Example.svelte';
  import { formatMessage, written } from '$lib/units';

  const build = getBuildContext();
  const asked = new Query(
    () => `${build.id}:${build.revision}`,
    (_, signal) => api.GET('/api/builds/{id}/calibration', { params: { path: { id: build.id } }, signal }),
    { cacheKey: () => `calibration:${build.id}` },
  );
  const report = $derived(asked.answer);
  const say = (v: number, q: string) => written(v, q, reader.units);
  type Pair = { before: Schemas['Interval']; after: Schemas['Interval'] };
  const narrower = (p: Pair) =>
    Math.round((1 - (p.after.high - p.after.low) / Math.max(p.before.high - p.before.low, 1e-12)) * 100);
  const half = (b: Schemas['Interval']) => Math.round(((b.high - b.low) / 2 / Math.abs(b.mid || 1)) * 100);
  let every = $state(false);
  const told = $derived(
    (report?.inputs ?? []).filter(
      (i) =>
        every ||
        narrower(i) >= 4 ||
        Math.abs(i.after.mid - i.before.mid) > 0.25 * (i.before.high - i.before.low),
    ),
  );
  const whose = { rider: 'You', day: 'The way', machine: 'The board' } as const;
  const nameOf = (ride: number) => {
    const of = report?.of[ride];
    return of ? `${shortDay(of.day)}${of.title ? `, ${of.title.toLowerCase()}` : ''}` : '';
  };
  const rideLink = (ride: number) => addressOf(build.id, 'rides', report?.of[ride]?.id);
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-3 sm:px-6">
  <div class="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Calibration</h1>
    <p class="remark text-sm">What your rides changed in the prediction: outlined before, filled now.</p>
    <a class="link ml-auto text-sm" href={addressOf(build.id, 'rides')}>Open Rides</a>
  </div>
  {#if !report}
    <Awaiting
      {asked}
      waiting="Calculating from the rides…"
      lost="This cannot be calculated at the moment; the rides are saved."
    />
  {:else if report.needs?.length}
    <p class="border-l-2 border-unsure pl-3">
      {report.needs[0]} <a class="link" href={addressOf(build.id, 'design')}>Open Design</a>
    </p>
  {:else if !report.rides}
    <p class="max-w-[38rem] text-base">
      <b>No calibration yet.</b>
      {#if report.left_out}All rides are excluded.{:else if report.cannot}The rides have no distance, volts or
        speed to compare with the prediction.{:else}
        One ride to the cut-off halves the uncertainty of the range; volts before and after do nearly as well.{/if}
      {#if report.boards.length}Your own riding is known from {report.boards.join(' and ')}.{/if}
      <a class="link" href={addressOf(build.id, 'rides')}>Record a ride</a>
    </p>
    <Example title="the range of another board, before its rides (outlined) and after five of them (filled).">
      <BandRuler
        bands={[
          { low: 15.2, mid: 19.4, high: 23.9, hollow: true },
          { low: 16.4, mid: 17.6, high: 18.9, tone: 'holds' },
        ]}
        quantity="distance"
        label="Range"
      />
    </Example>
  {:else}
    <p class="mb-3" data-testid="calibrated-from">
      {plural(report.rides, ['From one ride', 'From # rides'])}{report.left_out
        ? `, ${report.left_out} excluded`
        : ''}{report.cannot ? `; ${report.cannot} measure nothing that is predicted` : ''}.{report.boards
        .length
        ? ` Your own riding is known from ${report.boards.join(' and ')}.`
        : ''}
      {#each report.trends as trend (trend.of)}<span class="block" data-testid={`trend-${trend.of}`}
          >{formatMessage(trend.message, reader.units)}
          <span class="text-ink2"
            >({trend.low.toFixed(0)} to {trend.high.toFixed(0)} % in a hundred days, over {trend.days} days)</span
          ></span
        >{/each}
      {#each report.odd as ride (ride)}<span class="block text-short"
          >✕ <a class="link" href={rideLink(ride)}>{nameOf(ride)}</a> contradicts the other rides and counts for
          little.</span
        >{/each}
    </p>
    <div class="grid gap-x-10 gap-y-6 lg:grid-cols-2">
      <section aria-label="Outcomes">
        <h2 class="border-b border-ink text-lg">What it will do</h2>
        {#each report.outcomes as p (p.result)}
          <div
            class="grid gap-x-4 border-b border-line py-2 sm:grid-cols-[11rem_minmax(0,1fr)]"
            data-testid="calibrated-outcome"
            data-result={p.result}
          >
            <p class="leading-tight">
              {p.title}<b class="block text-lg">{say(p.after.mid, p.quantity)}</b>
              <span class="block text-sm text-ink2">± {half(p.before)} % before, ± {half(p.after)} % now</span
              >
            </p>
            <BandRuler
              bands={[
                { ...p.before, hollow: true },
                { ...p.after, tone: 'holds' },
              ]}
              quantity={p.quantity}
              label={p.title}
            />
          </div>
        {/each}
      </section>
      <section aria-label="Inputs">
        <h2 class="border-b border-ink text-lg">Which inputs changed</h2>
        {#each told as i (i.input)}
          <div
            class="grid gap-x-4 border-b border-line py-2 sm:grid-cols-[11rem_minmax(0,1fr)]"
            data-testid="calibrated-input"
            data-input={i.input}
          >
            <p class="leading-tight">
              <span class="block first-letter:uppercase">{i.title}</span>
              <b class="block">{say(i.after.mid, i.quantity)}</b>
              <span class="block text-sm text-ink2"
                >{whose[i.owner]}; {narrower(i) > 0 ? `${narrower(i)} % surer` : 'moved'}{i.carried_over
                  ? '; also counts for your next board'
                  : ''}</span
              >
            </p>
            <div class="min-w-0">
              <BandRuler
                bands={[
                  { ...i.before, hollow: true },
                  { ...i.after, tone: 'holds' },
                ]}
                quantity={i.quantity}
                label={i.title}
              />
              <p class="text-sm text-ink2">
                {#if i.shares.length}By {#each i.shares.slice(0, 4) as s, n (s.ride)}{n ? ', ' : ''}<a
                      class="link"
                      href={rideLink(s.ride)}>{nameOf(s.ride)}</a
                    >
                    ({Math.round(s.share * 100)} %){/each}{:else}A little from every ride{/if}.
              </p>
            </div>
          </div>
        {/each}
        {#if told.length < report.inputs.length || every}
          <button class="link mt-2 min-h-[44px]" onclick={() => (every = !every)}
            >{every ? 'Only large changes' : `All ${report.inputs.length} that changed`}</button
          >
        {/if}
      </section>
    </div>
    <p class="mt-4 text-sm text-ink2">
      To undo it, exclude or delete the ride: the calibration is made again from those that remain. Wind,
      temperature and hurry of a single day are not used.
    </p>
  {/if}
</main>
