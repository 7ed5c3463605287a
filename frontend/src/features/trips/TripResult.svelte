<!-- What a trip comes to: the timetable, turning back, what helps, what to carry, and the rides that it became. -->
<script lang="ts">
  import { LIKELIHOOD_MARK, LIKELIHOOD_TONE } from '$lib/likelihood';
  import { reader } from '$lib/reader.svelte';
  import Scrolled from '$lib/ui/Scrolled.svelte';
  import { plain, formatMessage, written } from '$lib/units';
  import CoursePlot from './CoursePlot.svelte';
  import { clock, type TripReport, type Trips } from './trips.svelte';

  let { trips, report }: { trips: Trips; report: TripReport } = $props();
  const say = (v: number, q: string) => written(v, q, reader.units);
  const reserve = $derived(report.reserve_pct ?? 0);
  const several = $derived((trips.trip?.days?.length ?? 0) > 1);
</script>

{#if report.says}
  <p class="text-base" data-testid="trip-says" data-chance={report.chance}>
    <span class={LIKELIHOOD_TONE[report.likelihood ?? 'unlikely']}
      >{LIKELIHOOD_MARK[report.likelihood ?? 'unlikely']}</span
    >
    {formatMessage(report.says, reader.units)}
  </p>
  <p class="text-sm text-ink2">
    {say(report.km ?? 0, 'distance')} in all, {say(report.ascent_m ?? 0, 'way')} of climb.
    {#if report.walking}{formatMessage(report.walking, reader.units)}{/if}
  </p>
  {#each report.remarks ?? [] as r, i (i)}<p class="text-sm text-unsure">
      ! {formatMessage(r, reader.units)}
    </p>{/each}
  {#if report.course}<CoursePlot {report} {reserve} />{/if}
  <Scrolled class="overflow-x-auto" label="Timetable">
    <table class="w-full text-sm" data-testid="timetable">
      <thead>
        <tr class="text-left text-ink2">
          <th scope="col" class="font-normal">Point</th>
          <th scope="col" class="text-right font-normal">Distance</th>
          <th scope="col" class="pl-3 font-normal">Arrival</th>
          <th scope="col" class="text-right font-normal">Charge</th>
          <th scope="col" class="text-right font-normal">Volts at rest</th>
          <th scope="col" class="pl-3 font-normal">Chance so far</th>
          <th scope="col" class="pl-3 font-normal">Then</th>
        </tr>
      </thead>
      <tbody>
        {#each report.points ?? [] as p, i (i)}
          <tr class="border-t border-line align-top" data-testid="trip-point">
            <th scope="row" class="text-left font-semibold"
              >{p.name ||
                (several ? `Setting out, day ${p.day + 1}` : 'Setting out')}{#if several && p.name}<span
                  class="font-normal text-ink2">{`, day ${p.day + 1}`}</span
                >{/if}</th
            >
            <td class="tabular text-right whitespace-nowrap">{say(p.km, 'distance')}</td>
            <td class="tabular pl-3 whitespace-nowrap"
              >{clock(p.clock.mid)}{#if p.clock.high - p.clock.low > 4}<span class="block text-xs text-ink2"
                  >{clock(p.clock.low)} to {clock(p.clock.high)}</span
                >{/if}</td
            >
            <td class="tabular text-right whitespace-nowrap"
              >{say(p.charge.mid, 'share')}<span class="block text-xs text-ink2"
                >{say(p.charge.low, 'share')} to {say(p.charge.high, 'share')}</span
              ></td
            >
            <td class="tabular text-right whitespace-nowrap"
              >{say(p.volts.mid, 'voltage')}<span class="block text-xs text-ink2"
                >{say(p.volts.low, 'voltage')} at the worst</span
              ></td
            >
            <td class={['pl-3', i > 0 && LIKELIHOOD_TONE[p.likelihood]]}
              >{#if i > 0}{LIKELIHOOD_MARK[p.likelihood]} {p.in_words}{/if}</td
            >
            <td class="pl-3"
              >{#if p.stop}{p.stop === 'night' ? 'the night' : plain(p.stop)}{p.place
                  ? `, ${p.place}`
                  : ''}{#if p.leaves_pct && p.leaves}<span class="block text-xs text-ink2"
                    >on with {say(p.leaves_pct.mid, 'share')}{p.stop === 'night'
                      ? ''
                      : ` at ${clock(p.leaves.mid)}`}</span
                  >{/if}{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </Scrolled>
  <div class="mt-4 grid gap-x-8 gap-y-4 sm:grid-cols-2">
    <section>
      <h2 class="border-b border-ink text-base">If it goes worse</h2>
      {#each report.turn_back ?? [] as t (t.from_km)}<p class="text-sm" data-testid="turn-back">
          {formatMessage(t.message, reader.units)}
        </p>{/each}
      {#if report.helps?.length}
        <h3 class="mt-3 text-base">What would help most</h3>
        <ul class="m-0 list-none p-0 text-sm">
          {#each report.helps as h (h.id)}
            <li
              class="flex flex-wrap items-baseline gap-x-2 border-t border-line py-[3px]"
              data-testid="help"
              data-id={h.id}
            >
              <span class="min-w-0 flex-1">{formatMessage(h.message, reader.units)}</span>
              <span class="tabular"
                >{h.in_short}{#if h.gains_pct >= 1}, {say(h.left_pct, 'share')} left{/if}</span
              >
              <button class="link min-h-[32px]" onclick={() => trips.apply(h)}>Apply</button>
            </li>
          {/each}
        </ul>
      {/if}
    </section>
    <section>
      <h2 class="border-b border-ink text-base">What to carry</h2>
      <ul class="m-0 list-none p-0 text-sm" data-testid="carry">
        {#each report.carry ?? [] as c (c.id)}
          <li class="border-b border-line py-[3px]">
            {formatMessage(c.what, reader.units)}.
            <span class="text-ink2">{formatMessage(c.why, reader.units)}</span>
          </li>
        {/each}
      </ul>
    </section>
  </div>
  {#if report.after?.length}
    <section class="mt-4" data-testid="after">
      <h2 class="border-b border-ink text-base">As ridden</h2>
      <ul class="m-0 list-none p-0 text-sm">
        {#each report.after as a, i (i)}
          <li class="flex flex-wrap gap-x-3 border-b border-line py-[3px]">
            <span class="w-40">{several ? `Day ${a.day + 1}: ` : ''}{a.title}</span>
            <b class="tabular">{say(a.ridden, a.quantity)}</b>
            <span class={a.inside ? 'text-holds' : 'text-short'}
              >{a.inside ? '✓ as planned' : '✕ outside'}</span
            >
            <span class="text-ink2"
              >planned {say(a.planned.low, a.quantity)} to {say(a.planned.high, a.quantity)}</span
            >
          </li>
        {/each}
      </ul>
    </section>
  {/if}
{/if}
