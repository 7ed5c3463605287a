<!-- What the rides came to: sums, kilometres by month, the days on which it was ridden, records. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import type { Schemas } from '$lib/api/client';
  import { dayText, reader } from '$lib/reader.svelte';
  import { written } from '$lib/units';
  import type { RideLine } from './rides.svelte';

  interface Props {
    sums: Schemas['Sums'];
    currency?: string | null;
    lines: RideLine[];
    all: Schemas['RideLine'][];
    go: (id: string) => void;
  }
  let { sums, currency, lines, all, go }: Props = $props();
  const say = (v: number, q: string) => written(v, q, reader.units, currency);
  const shown = $derived(sums.months.slice(-14));
  const most = $derived(Math.max(...shown.map((m) => m.km), 1));
  const MONTH = new Intl.DateTimeFormat(reader.locale, { month: 'short', timeZone: 'UTC' });
  const name = (month: string) => MONTH.format(new Date(`${month}-15T00:00:00Z`));
  /** The last months as a calendar: a square a day, darker the farther it was ridden. */
  const days = $derived.by(() => {
    const km: Record<string, number> = {};
    for (const line of lines)
      km[line.ride.day] = (km[line.ride.day] ?? 0) + (line.ride.way?.distance_km ?? 0.1);
    return km;
  });
  let month = $state('');
  const open = $derived(month || sums.months.at(-1)?.month || '');
  const squares = $derived.by(() => {
    if (!open) return [];
    const [year, m] = open.split('-').map(Number) as [number, number];
    const first = new Date(Date.UTC(year, m - 1, 1));
    const before = (first.getUTCDay() + 6) % 7;
    const count = new Date(Date.UTC(year, m, 0)).getUTCDate();
    return [
      ...Array.from({ length: before }, () => null),
      ...Array.from({ length: count }, (_, i) => `${open}-${String(i + 1).padStart(2, '0')}`),
    ];
  });
  const farthest = $derived(Math.max(...Object.values(days), 1));
</script>

<section aria-label="Totals">
  <dl class="grid grid-cols-2 gap-x-4 gap-y-1 text-sm [&_dd]:text-right">
    <dt>Ridden</dt>
    <dd><b class="text-lg">{say(sums.km, 'distance')}</b></dd>
    <dt>Rides, on days</dt>
    <dd>{sums.rides}, {sums.days}</dd>
    {#if sums.hours}<dt>Moving</dt>
      <dd>{say(sums.hours, 'hours')}</dd>{/if}
    {#if sums.ascent_m}<dt>Climbed</dt>
      <dd>{say(sums.ascent_m, 'way')}</dd>{/if}
    {#if sums.wet}<dt>In the wet</dt>
      <dd>{sums.wet}</dd>{/if}
    {#if sums.cost_per_km != null}<dt>Cost of the board per km so far</dt>
      <dd>{say(sums.cost_per_km, 'money')}</dd>{/if}
  </dl>
  {#if shown.length}
    <h2 class="mt-4 text-base">By month</h2>
    <div class="mt-1 flex h-[100px] items-end gap-1" role="group" aria-label="Kilometres by month">
      {#each shown as m (m.month)}
        <button
          class="flex h-full max-w-[56px] min-w-0 grow basis-0 flex-col justify-end text-xs"
          aria-pressed={open === m.month}
          aria-label={`${name(m.month)} ${m.month.slice(0, 4)}: ${say(m.km, 'distance')} in ${plural(m.rides, ['# ride', '# rides'])}`}
          onclick={() => (month = m.month)}
        >
          <span class="text-ink2">{m.km ? Math.round(m.km) : ''}</span>
          <span
            class={['block border', open === m.month ? 'border-ink bg-wet' : 'border-wet bg-sand']}
            style:height={`${Math.max((m.km / most) * 58, m.km ? 2 : 0)}px`}
          ></span>
          <span class="truncate">{name(m.month)}</span>
        </button>
      {/each}
    </div>
    <div class="mt-3 grid max-w-[280px] grid-cols-7 gap-1 text-center text-xs" data-testid="calendar">
      {#each squares as day, i (day ?? `-${i}`)}
        {#if !day}<span></span>
        {:else if days[day]}
          <button
            class="aspect-square rounded-sm border border-wet text-ink"
            style:background={`color-mix(in srgb, var(--color-sand) ${Math.round(35 + (days[day] / farthest) * 65)}%, var(--color-sheet))`}
            aria-label={`${dayText(day)}: ${say(days[day], 'distance')}`}
            onclick={() => go(lines.find((l) => l.ride.day === day)!.id)}>{Number(day.slice(8))}</button
          >
        {:else}<span class="grid aspect-square place-items-center text-ink2">{Number(day.slice(8))}</span
          >{/if}
      {/each}
    </div>
  {/if}
  {#if sums.records.length}
    <h2 class="mt-4 text-base">Records</h2>
    <ul class="text-sm">
      {#each sums.records as record (record.title)}
        <li class="flex items-baseline gap-2 border-b border-line py-1">
          {record.title}<b class="ml-auto">{say(record.value, record.quantity)}</b>
          <button class="link min-h-6" onclick={() => go(all[record.ride]!.id)}
            >{dayText(all[record.ride]?.ride.day)}</button
          >
        </li>
      {/each}
    </ul>
  {/if}
</section>
