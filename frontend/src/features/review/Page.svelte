<!-- What it came to: money, hours, kilometres, outcomes kept, what would be changed, and the page to hand on. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import BandRuler from '$lib/charts/BandRuler.svelte';
  import { addressOf } from '$lib/navigation';
  import { tray } from '$lib/jobs/tray.svelte';
  import { reader } from '$lib/reader.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { billed, formatMessage, sectionTitle, written } from '$lib/units';

  const build = getBuildContext();
  const asked = new Query(
    () => build.file,
    (document, signal) =>
      api.POST('/api/builds/{id}/review', {
        params: { path: { id: build.id } },
        body: { document },
        signal,
      }),
    { pause: 200, cacheKey: () => `review:${build.id}` },
  );
  const report = $derived(asked.answer);
  const money = $derived(report?.currency ?? build.file.currency);
  const sum = (v: number) => billed(v, money);
  const km = (v: number) => written(v, 'distance', reader.units);
  const perKm = (v: number | null | undefined) => (v == null ? '–' : `${sum(v)} a km`);
  const most = $derived(Math.max(...(report?.lines ?? []).map((l) => l.amount), 1));
  const ASKED = ['hours', 'tools', 'consumables', 'kwh_price', 'fare', 'fare_km'] as const;
  const band = (p: Schemas['Outcome']) => ({ low: p.low ?? p.mid!, mid: p.mid!, high: p.high ?? p.mid! });
  const hand = (form: 'html' | 'pdf') =>
    tray.download(form === 'html' ? 'The summary page' : 'The page on A4', () =>
      api.POST('/api/builds/{id}/review/page', { params: { path: { id: build.id }, query: { form } } }),
    );
  const set = (key: string, value: unknown) => build.set(`review.${key}` as string, value);
  const value = (key: string) => build.value(`review.${key}` as string);
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-3 sm:px-6">
  <div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Review</h1>
    {#if report}{#each report.says.slice(0, 1) as s, i (i)}<p class="text-base" data-testid="came-to">
          {formatMessage(s, reader.units, money)}
        </p>{/each}{/if}
  </div>
  {#if !report}
    <Awaiting {asked} waiting="Loading…" lost="This cannot be calculated at the moment; nothing is lost." />
  {:else}
    <div class="grid gap-x-10 gap-y-6 lg:grid-cols-2">
      <section aria-labelledby="money" class="min-w-0">
        <h2 class="border-b border-ink text-lg" id="money">Cost</h2>
        <table class="w-full text-sm" data-testid="cost-lines">
          <tbody>
            {#each report.lines as line (line.of)}
              <tr class="border-b border-line">
                <th scope="row" class="py-1 text-left font-normal"
                  >{line.title}{#if line.why}<span class="block text-xs text-ink2"
                      >{formatMessage(line.why, reader.units, money)}</span
                    >{/if}</th
                >
                <td class="w-[38%] px-3"
                  ><span class="block h-[10px] bg-line"
                    ><span class="block h-full bg-sand" style:width={`${(line.amount / most) * 100}%`}
                    ></span></span
                  ></td
                >
                <td class="tabular text-right whitespace-nowrap">{sum(line.amount)}</td>
              </tr>
            {/each}
            <tr class="border-t border-ink font-semibold">
              <th scope="row" class="py-1 text-left">Total</th>
              <td></td>
              <td class="tabular text-right" data-testid="total">{sum(report.total)}</td>
            </tr>
          </tbody>
        </table>
        <p class="mt-1 text-sm text-ink2">
          {#if report.owned}{sum(report.owned)} of it you owned before; it is not counted.{/if}
          {#if report.unpriced}{plural(report.unpriced, [
              '# part has no price, and is not counted.',
              '# parts have no price, and are not counted.',
            ])}
            <a class="link" href={addressOf(build.id, 'parts-list')}>Open Parts list</a>{/if}
          {#each report.says.slice(1) as s, i (i)}{formatMessage(s, reader.units, money)}
          {/each}
        </p>
        <div class="mt-3 grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3">
          {#each ASKED as key (key)}
            <Figure
              path={`review.${key}`}
              value={value(key)}
              currency={money}
              onchange={(v) => set(key, v)}
            />
          {/each}
        </div>
        {#if report.hours != null}
          <p class="mt-2 text-sm" data-testid="hours">
            {written(report.hours, 'hours', reader.units)} of work{report.hours_by === 'log'
              ? ', from the work log'
              : ''}.
          </p>
        {/if}
      </section>
      <section aria-labelledby="riding" class="min-w-0">
        <h2 class="border-b border-ink text-lg" id="riding">Per kilometre</h2>
        {#if report.km > 0}
          <p class="text-base">
            <b>{perKm(report.per_km)}</b> over {km(report.km)}; {#if report.running_per_km}a further one costs {perKm(
                report.running_per_km,
              )}.{:else}enter what a kilowatt-hour costs to see the cost of a further one.{/if}
          </p>
          <table class="mt-2 w-full text-sm" data-testid="years">
            <thead>
              <tr class="text-left text-ink2">
                <th scope="col" class="font-normal">Year</th>
                <th scope="col" class="text-right font-normal">Ridden</th>
                <th scope="col" class="text-right font-normal">Spent</th>
                <th scope="col" class="text-right font-normal">A km so far</th>
              </tr>
            </thead>
            <tbody>
              {#each report.years as y (y.year)}
                <tr class="border-t border-line">
                  <th scope="row" class="text-left font-normal">{y.year}</th>
                  <td class="tabular text-right">{km(y.km)}</td>
                  <td class="tabular text-right">{sum(y.spent)}</td>
                  <td class="tabular text-right">{y.per_km == null ? '–' : sum(y.per_km)}</td>
                </tr>
              {/each}
            </tbody>
          </table>
        {:else}
          <p>
            No rides recorded yet. <a class="link" href={addressOf(build.id, 'rides')}>Record a ride</a>
          </p>
        {/if}
        {#each report.against as a (a.what)}
          <p class="mt-3 border-t border-line pt-1 text-sm" data-testid={`against-${a.what}`}>
            <b>{a.title}</b>: {sum(a.amount)}{a.per_km == null ? '' : `, ${perKm(a.per_km)}`}. {formatMessage(
              a.message,
              reader.units,
              money,
            )}
          </p>
        {:else}
          <p class="mt-3 text-sm text-ink2">
            Enter what a fare costs and how far it takes you, or describe a ready-made board on the parts
            list, to compare the cost.
          </p>
        {/each}
      </section>
    </div>
    {#if report.outcomes.length}
      <section class="mt-6" aria-labelledby="outcome">
        <h2 class="border-b border-ink text-lg" id="predicted">What was predicted, what it does</h2>
        <p class="remark text-sm">
          Outlined: predicted for the board as it is built. Filled: with your rides.
          {#if report.planned_as && report.changed.length}
            Changed since “{report.planned_as}”: {report.changed.map(sectionTitle).join(', ')}.
          {/if}
        </p>
        <div class="grid gap-x-10 sm:grid-cols-2">
          {#each report.outcomes.filter((p) => p.name !== 'money') as p (p.name)}
            <div
              class="grid gap-x-4 border-b border-line py-2 sm:grid-cols-[10rem_minmax(0,1fr)]"
              data-testid="outcome-kept"
            >
              <p class="leading-tight">
                {p.title}<b class="block">{written(p.now.mid!, p.quantity, reader.units)}</b>
              </p>
              <div class="min-w-0">
                <BandRuler
                  bands={[
                    { ...band(p.predicted), hollow: true },
                    { ...band(p.now), tone: 'holds' },
                  ]}
                  quantity={p.quantity}
                  label={p.title}
                />
                <p class="mt-1 text-sm text-ink2">{formatMessage(p.message, reader.units, money)}</p>
              </div>
            </div>
          {/each}
        </div>
      </section>
    {:else}
      <p class="mt-6 text-sm text-ink2">
        Once a ride is recorded, this shows what was predicted and what the board does. <a
          class="link"
          href={addressOf(build.id, 'rides')}>Record a ride</a
        >
      </p>
    {/if}
    <div class="mt-6 grid gap-x-10 gap-y-6 lg:grid-cols-2">
      <section aria-labelledby="change">
        <h2 class="border-b border-ink text-lg" id="change">What I would change</h2>
        {#each [['would_change', 'What I would change'], ['to_say', 'To whoever builds it next']] as const as [key, label] (key)}
          <label class="mt-2 block text-xs text-ink2"
            >{label}<textarea
              class="entry mt-1 block min-h-[90px] w-full text-sm text-ink"
              maxlength="4000"
              value={(value(key) as string) ?? ''}
              onchange={(e) => set(key, e.currentTarget.value.trim() || null)}></textarea></label
          >
        {/each}
        {#each report.would_change.slice(value('would_change') ? 1 : 0) as w, i (i)}
          <p class="border-b border-line py-1 text-sm">While building: {w}</p>
        {/each}
      </section>
      <section aria-labelledby="hand-on">
        <h2 class="border-b border-ink text-lg" id="hand-on">Share a summary</h2>
        <p class="mt-1 text-sm">
          One page with the drawing, what it does, what it cost, the parts and what you would change: a file
          that opens without a network, and that another builder can import. Not included: shops, orders,
          days, notes, rides, trips, your name; your weight only to the nearest five kilograms.
        </p>
        <div class="mt-3 flex flex-wrap gap-2">
          <Button main onclick={() => void hand('html')}>Summary page</Button>
          <Button onclick={() => void hand('pdf')}>On A4</Button>
        </div>
      </section>
    </div>
  {/if}
</main>
