<!-- One leg: typed, or from a track; and what happens at its end. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { written } from '$lib/units';
  import Direction from './Direction.svelte';
  import { metresOf, type Trips } from './trips.svelte';

  let { trips, day, leg: at }: { trips: Trips; day: number; leg: number } = $props();
  const path = (key: string) => `days.${day}.legs.${at}.${key}`;
  const leg = $derived(trips.trip?.days?.[day]?.legs?.[at]);
  const fault = (key: string) => trips.asked.faults[`trip.${path(key)}`];
  const rises = $derived(
    (leg?.profile?.heights ?? []).reduce((sum, h, i, all) => sum + Math.max(i ? h - all[i - 1]! : 0, 0), 0),
  );
  const STOPS = { charge: 'charge at a plug', swap: 'swap the pack', rest: 'rest', night: 'stay the night' };
  const further = ['speed_kmh', 'surface', 'stops'];
  let more = $state(false);
  const opened = $derived(more || further.some((k) => trips.value(path(k)) != null));

  function stop(kind: string): void {
    const now = leg?.then;
    trips.set(path('then'), kind ? { ...now, kind } : null);
  }
</script>

{#if leg}
  <div class="border-t border-line py-2" data-testid="leg" data-leg={at}>
    <div
      class="grid grid-cols-2 gap-x-3 gap-y-2 sm:grid-cols-[minmax(0,1.2fr)_minmax(0,0.85fr)_minmax(0,0.8fr)_minmax(0,1.2fr)]"
    >
      <div class="col-span-2 sm:col-span-1">
        <Figure
          path={trips.path(path('name'))}
          value={leg.name}
          onchange={(v) => trips.set(path('name'), v)}
        />
      </div>
      {#if leg.profile}
        <p class="col-span-2 self-end pb-2 sm:col-span-3" data-testid="from-track">
          From a track: {written(metresOf(leg) / 1000, 'distance', reader.units)}{leg.profile.unknown_heights
            ? ', heights unknown: taken as level'
            : `, ${written(rises, 'way', reader.units)} up`}.
          <button class="link" onclick={() => trips.set(path('profile'), null)}>Type it instead</button>
        </p>
      {:else}
        <Figure
          path={trips.path(path('distance_km'))}
          value={leg.distance_km}
          fault={fault('distance_km')}
          onchange={(v) => trips.set(path('distance_km'), v)}
        />
        <Figure
          path={trips.path(path('ascent_m'))}
          value={leg.ascent_m}
          fault={fault('ascent_m')}
          onchange={(v) => trips.set(path('ascent_m'), v)}
        />
        <Direction
          label="Direction"
          value={leg.bearing_deg}
          none="nobody knows"
          onchange={(v) => trips.set(path('bearing_deg'), v)}
        />
      {/if}
    </div>
    <div class="mt-1 flex flex-wrap items-end gap-x-3 gap-y-1">
      <label class="block text-xs text-ink2"
        >Stop at the end<select
          class="entry block text-sm text-ink"
          value={leg.then?.kind ?? ''}
          onchange={(e) => stop(e.currentTarget.value)}
        >
          <option value="">no stop</option>
          {#each Object.entries(STOPS) as [kind, words] (kind)}<option value={kind}>{words}</option>{/each}
        </select></label
      >
      {#if leg.then}
        <div class="w-24">
          <Figure
            path={trips.path(path('then.minutes'))}
            value={leg.then.minutes}
            onchange={(v) => trips.set(path('then.minutes'), v)}
          />
        </div>
        {#if leg.then.kind === 'charge' || leg.then.kind === 'night'}
          <div class="w-24">
            <Figure
              path={trips.path(path('then.charger_a'))}
              value={leg.then.charger_a}
              onchange={(v) => trips.set(path('then.charger_a'), v)}
            />
          </div>
          <div class="w-24">
            <Figure
              path={trips.path(path('then.until_pct'))}
              value={leg.then.until_pct}
              onchange={(v) => trips.set(path('then.until_pct'), v)}
            />
          </div>
        {/if}
        <div class="w-36">
          <Figure
            path={trips.path(path('then.place'))}
            value={leg.then.place}
            onchange={(v) => trips.set(path('then.place'), v)}
          />
        </div>
      {/if}
      <span class="ml-auto flex gap-x-3 text-sm">
        {#if !leg.profile}
          <label class="flex min-h-[44px] items-center gap-1"
            ><input
              type="checkbox"
              checked={!!leg.there_and_back}
              onchange={(e) => trips.set(path('there_and_back'), e.currentTarget.checked || null)}
            /> there and back</label
          >
        {/if}
        {#if !opened}<button class="link min-h-[44px]" onclick={() => (more = true)}>More</button>{/if}
        <button
          class="link min-h-[44px]"
          aria-label={`Remove leg ${at + 1}`}
          onclick={() => trips.legs(day, (legs) => legs.filter((_, i) => i !== at))}>Remove</button
        >
      </span>
    </div>
    {#if opened}
      <div class="mt-1 grid grid-cols-3 gap-3">
        {#each further as key (key)}
          <Figure
            path={trips.path(path(key))}
            value={trips.value(path(key))}
            onchange={(v) => trips.set(path(key), v)}
          />
        {/each}
      </div>
    {/if}
  </div>
{/if}
