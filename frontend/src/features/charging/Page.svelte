<!-- Charging: the first charge under watch, when to plug in, what a ceiling costs and gives, where a pack is put away. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { reader } from '$lib/reader.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import DataTable from '$lib/ui/DataTable.svelte';
  import FindingItem from '$lib/ui/FindingItem.svelte';
  import { formatMessage, written } from '$lib/units';
  import { clockOf, daysBefore, hoursOf } from './clock';
  import Watch from './Watch.svelte';

  const build = getBuildContext();
  let from = $state<number | null>(null);
  let to = $state(100);
  let ready = $state('07:30');
  const ready_min = $derived(Number(ready.slice(0, 2)) * 60 + Number(ready.slice(3, 5)) || 0);
  const asked = new Query(
    () => ({ document: build.board, board: build.id, from_pct: from, to_pct: to, ready_min }),
    (body, signal) => api.POST('/api/charging', { body, signal }),
    { cacheKey: () => `charging:${build.id}`, pause: 60 },
  );
  const report = $derived(asked.answer);
  const table = $derived(report?.timetable);
  const say = (s: Schemas['Message']) => formatMessage(s, reader.units);
  const mostKm = $derived(Math.max(...(report?.ceilings ?? []).map((c) => c.range_km ?? 0), 1));
  const mostYears = $derived(Math.max(...(report?.ceilings ?? []).map((c) => c.years ?? 0), 1));
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-4 sm:px-6">
  <div class="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Charging</h1>
    <p class="remark text-sm">When to plug in, how full, and watching the first charge.</p>
  </div>
  {#if !report}
    <Awaiting
      {asked}
      waiting="Calculating…"
      lost="This cannot be calculated at the moment; what you entered is saved."
    />
  {:else}
    {#each report.needs as need, i (i)}
      <p class="mb-2 border-l-2 border-unsure pl-2">
        {say(need)} <a class="link" href={addressOf(build.id, 'design')}>Open Design</a>
      </p>
    {/each}
    {#if report.findings.length}<h2 class="sr-only">Findings</h2>{/if}
    {#each report.findings as finding (finding.id)}
      <FindingItem {finding} fixes={finding.fixes ?? []} onfix={(fix) => build.change(fix.changes)} />
    {/each}
    <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_390px]">
      <Watch {build} {report} />
      <div class="min-w-0">
        {#if report.groups?.length}<section aria-label="When to plug in">
            <h2 class="text-lg">When to plug in</h2>
            <div class="mt-1 grid grid-cols-3 gap-2">
              <label class="text-xs text-ink2"
                >From, %<input
                  class="entry text-sm text-ink"
                  type="number"
                  min="0"
                  max="100"
                  value={from ?? Math.round(table?.from_pct ?? 15)}
                  onchange={(e) => (from = Math.min(Math.max(Number(e.currentTarget.value) || 0, 0), 100))}
                /></label
              >
              <label class="text-xs text-ink2"
                >To, %<input
                  class="entry text-sm text-ink"
                  type="number"
                  min="0"
                  max="100"
                  value={Math.round(to)}
                  onchange={(e) => (to = Math.min(Math.max(Number(e.currentTarget.value) || 0, 0), 100))}
                /></label
              >
              <label class="text-xs text-ink2"
                >Ready by<input
                  class="entry text-sm text-ink"
                  type="time"
                  bind:value={ready}
                  required
                /></label
              >
            </div>
            {#if table}
              <p class="mt-2" data-testid="plug-in">
                {#each table.turns as turn, i (i)}
                  <span class="block"
                    >{turn.brick ? `Brick ${turn.brick}: plug` : 'Plug'} in at
                    <b class="font-serif text-2xl">{clockOf(turn.plug_in_min)}</b>{daysBefore(
                      turn.days_before,
                    )}{turn.brick ? `, out by ${clockOf(turn.unplug_min)}` : ''}</span
                  >
                {/each}
                <span class="text-sm text-ink2"
                  >{hoursOf(table.low_min)} to {hoursOf(table.high_min)}, about {hoursOf(
                    table.mid_min,
                  )}{report.charger ? `, with ${say(report.charger)}` : ''} The plan uses the longer time.</span
                >
              </p>
              {#if table.night}
                <p class="mt-1 border-l-[3px] border-short pl-2" data-testid="night">{say(table.night)}</p>
              {/if}
            {/if}
          </section>{/if}
        {#if report.ceilings.length}
          <section class="mt-5" aria-label="How full">
            <h2 class="text-lg">How full</h2>
            <DataTable
              heads={['A cell', 'A day’s ride', 'Until four fifths are left', 'Choose']}
              data-testid="ceilings"
            >
              <tbody>
                {#each report.ceilings as c (c.cell_v)}
                  <tr class={['border-b border-line', c.chosen && 'bg-chosen font-semibold']}>
                    <td class="py-1 whitespace-nowrap"
                      >{written(c.cell_v, 'cell_voltage', reader.units)}<span
                        class="block text-xs font-normal text-ink2"
                        >{written(c.pack_v, 'voltage', reader.units)}</span
                      ></td
                    >
                    <td class="px-2">
                      <span class="bar" style:width={`${(c.range_km / mostKm) * 86}px`}></span>
                      {written(c.range_km, 'distance', reader.units)}
                    </td>
                    <td class="px-2">
                      {#if c.years != null}
                        <span class="bar years" style:width={`${(c.years / mostYears) * 86}px`}></span>
                        {c.years.toFixed(1)} years
                      {:else}–{/if}
                    </td>
                    <td class="text-right">
                      {#if c.chosen}<span class="text-sm">current</span>{:else}<button
                          class="link text-sm"
                          aria-label={`Charge to ${written(c.cell_v, 'cell_voltage', reader.units)} a cell`}
                          onclick={() => build.change({ 'parts.pack.charge_to_v': c.cell_v })}
                          >use this limit</button
                        >{/if}
                    </td>
                  </tr>
                {/each}
              </tbody>
            </DataTable>
            <p class="mt-1 text-sm text-ink2">
              A pack that is not quite full can take braking energy from the start.
            </p>
          </section>
        {/if}
        {#if report.storage}
          <section class="mt-5" aria-label="Storage">
            <h2 class="text-lg">Storage</h2>
            <p>{say(report.storage)}</p>
          </section>
        {/if}
        {#each report.words as words, i (i)}
          <p class="mt-2 border-l-[3px] border-short pl-2 text-sm">{say(words)}</p>
        {/each}
      </div>
    </div>
  {/if}
</main>

<style>
  .bar {
    display: block;
    height: 7px;
    background: var(--color-holds-wash);
    border-right: 2px solid var(--color-holds);
  }
  .years {
    background: var(--color-sand);
    border-right-color: var(--color-wet);
  }
</style>
