<!-- A build's curves, and the results that are too many for the bench. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import { addressOf } from '$lib/navigation';
  import { reader } from '$lib/reader.svelte';
  import { api } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import Plot from '$lib/charts/Plot.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import { written } from '$lib/units';

  const build = getBuildContext();
  const asked = new Query(
    () => build.board,
    async (document, signal) => {
      const [curves, whole] = await Promise.all([
        api.POST('/api/curves', { body: { document, board: build.id }, signal }),
        api.POST('/api/predict', { body: { document, board: build.id }, signal }),
      ]);
      return curves.data && whole.data
        ? { data: { plots: curves.data, prediction: whole.data } }
        : { error: curves.error ?? whole.error };
    },
    { cacheKey: () => `curves:${build.id}` },
  );
  const plots = $derived(asked.answer?.plots);
  const prediction = $derived(asked.answer?.prediction);

  const say = (value: number | null | undefined, quantity: string) =>
    value == null ? '–' : written(value, quantity, reader.units, build.file.currency);
  const band = (
    r: { low?: number | null; mid: number; high?: number | null } | null | undefined,
    quantity: string,
  ) =>
    r == null
      ? '–'
      : r.low != null
        ? `${say(r.mid, quantity)} (${say(r.low, quantity)} to ${say(r.high, quantity)})`
        : say(r.mid, quantity);

  type Row = [string, string, string?];
  const groups = $derived.by((): { title: string; rows: Row[] }[] => {
    const p = prediction;
    if (!p?.hill) return [];
    return [
      {
        title: 'Hills',
        rows: [
          ['starts on', band(p.hill.start_grade_pct, 'grade'), p.hill.start_grade_pct.limit ?? ''],
          [
            `holds over ${say(p.hill.climb_m, 'way')}`,
            band(p.hill.held_grade_pct, 'grade'),
            p.hill.held_grade_pct.limit ?? '',
          ],
          [
            'holds continuously',
            band(p.hill.for_ever_grade_pct, 'grade'),
            p.hill.for_ever_grade_pct.limit ?? '',
          ],
          ['driven wheels slip at', say(p.hill.slip_grade_pct, 'grade')],
          ...p.hill.speeds.map((s): Row => [
            `speed on ${say(s.grade_pct, 'grade')}`,
            say(s.speed_kmh, 'speed'),
            s.holds_m == null || s.speed_kmh <= 0
              ? s.limit
              : `${s.limit}; too hot after ${say(s.holds_m, 'way')}`,
          ]),
        ],
      },
      {
        title: 'Range',
        rows: [
          ['home with the reserve left', band(p.range_km, 'distance'), p.range_km?.limit ?? ''],
          ['until the controller cuts off', band(p.range_to_cutoff_km, 'distance'), ''],
          [
            'on the worst day',
            band(p.range_worst_day_km, 'distance'),
            'cold, into the wind, pack aged to four fifths',
          ],
          ['mean of such a ride', say(p.range_km?.mean_kmh, 'speed')],
          ...(p.range_by_profile ?? []).map((r): Row => [`on the ${r.profile} profile`, band(r, 'distance')]),
          ...(p.range_when ?? []).map((r): Row => [r.when, say(r.km, 'distance')]),
          ['consumption', band(p.consumption_wh_per_km, 'energy_per_distance')],
          ['usable of the pack', `${say(p.usable_wh, 'energy')} of ${say(p.pack_wh, 'energy')}`],
        ],
      },
      {
        title: 'Starting and stopping',
        rows: [
          ['first second', say(p.acceleration?.first_second_g, 'g')],
          [`to ${say(15, 'speed')}`, say(p.acceleration?.to_15_kmh_s, 'seconds')],
          [`to ${say(25, 'speed')}`, say(p.acceleration?.to_25_kmh_s, 'seconds')],
          ['motors brake, full pack', say(p.braking?.full_pack_ms2, 'acceleration'), p.braking?.limit ?? ''],
          ['motors brake, 80 % charge', say(p.braking?.at_80_pct_ms2, 'acceleration')],
          ['hold back downhill, full pack', say(p.braking?.full_pack_grade_pct, 'grade')],
          ['hold back downhill, 80 % charge', say(p.braking?.at_80_pct_grade_pct, 'grade')],
        ],
      },
      {
        title: 'Charging and life',
        rows: [
          ['to 80 %', say(p.charge_h?.to_80_pct, 'hours')],
          ['to 90 %', say(p.charge_h?.to_90_pct, 'hours')],
          ['to full', say(p.charge_h?.to_full, 'hours')],
          [
            'until the pack is at 80 %',
            p.life ? say(Math.round(p.life.km / 100) * 100, 'distance') : '–',
            p.life ? `${p.life.years.toFixed(1)} years at ${say(p.life.day_km, 'distance')} a day` : '',
          ],
          [
            'pack cost of 100 km',
            p.life?.pack_cost_per_km != null ? say(p.life.pack_cost_per_km * 100, 'money') : '–',
          ],
          ['ridden of the top speed', say(p.comfort_pct, 'share')],
        ],
      },
    ];
  });
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-4 sm:px-6">
  <h1 class="sr-only">Curves of {build.file.name ?? 'the build'}</h1>
  {#if asked.failed && !plots}
    <p class="py-8 text-short" role="alert">
      The curves cannot be loaded at the moment; your board is saved.
      <button class="link" onclick={() => asked.again()}>Try again</button>
    </p>
  {:else if !plots}
    <p class="remark py-8">Loading the curves…</p>
  {:else if plots.length === 0}
    <p class="font-serif text-xl text-ink2">No curves yet.</p>
    <ul class="mt-2">
      {#each prediction?.needs ?? [] as need (need.field)}<li>{need.reason}</li>{/each}
    </ul>
    <Button href={addressOf(build.id, 'design')} class="mt-4">Open Design</Button>
  {:else}
    <div class="grid gap-x-8 gap-y-6 lg:grid-cols-2">
      {#each plots as plot (plot.id)}<Plot
          {plot}
          name={(build.file.name ?? 'board').replaceAll(/\W+/g, '-').toLowerCase()}
        />{/each}
    </div>
    <h2 class="mt-8 border-t border-line pt-4 text-lg">Every result</h2>
    <p class="remark mb-2 text-sm">In brackets the 10th and 90th percentile; then the limit.</p>
    <div class="grid gap-x-10 gap-y-4 md:grid-cols-2">
      {#each groups as group (group.title)}
        <table class="h-fit w-full border-collapse text-sm">
          <caption class="py-1 text-left font-serif text-base font-semibold">{group.title}</caption>
          <tbody>
            {#each group.rows as [label, value, limit] (label)}
              <tr class="border-t border-line align-top">
                <th class="py-1 text-left font-normal text-ink2" scope="row">{label}</th>
                <td class="px-2 py-1 text-right font-semibold">{value}</td>
                <td class="remark w-32 py-1 text-sm">{limit ?? ''}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      {/each}
    </div>
  {/if}
</main>
