<!-- Maintenance: what is due, what soon, what was done; the drawer, wheels, pack, and the lists of the seasons. -->
<script lang="ts">
  import { api } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { reader, shortDay } from '$lib/reader.svelte';
  import { download } from '$lib/download';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import { formatMessage, written } from '$lib/units';
  import Drawer from './Drawer.svelte';
  import TaskRow from './TaskRow.svelte';
  import { MaintenancePage } from './maintenance.svelte';

  const build = getBuildContext();
  const page = new MaintenancePage(build);
  const report = $derived(page.asked.answer);
  const titles = $derived(
    new Map([...(report?.tasks ?? []), ...(report?.aside ?? [])].map((t) => [t.id, t.title])),
  );
  const km = (v: number) => written(v, 'distance', reader.units);
  const FOUND = { good: 'Good', worn: 'Worn, replaced in time', failed: 'Failed' } as const;
  async function file(form: 'json' | 'csv'): Promise<void> {
    const { data } = await api
      .POST('/api/maintenance/file', {
        params: { query: { form } },
        body: { document: build.file },
        parseAs: 'text',
      })
      .catch(() => ({ data: undefined }));
    if (data) download(String(data), 'application/octet-stream', `${build.name}-maintenance.${form}`);
  }
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-3 sm:px-6">
  <div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Maintenance</h1>
    {#if report}
      <p class="text-sm" data-testid="odometer">
        <b>{km(report.km)}</b> ridden{report.rides ? `, ${km(report.km_a_week)} a week recently` : ''}.
      </p>
    {/if}
    <a class="link ml-auto text-sm" href={addressOf(build.id, 'rides')}>Open Rides</a>
  </div>
  {#if !report}
    <Awaiting
      asked={page.asked}
      waiting="Loading maintenance…"
      lost="Maintenance cannot be calculated at the moment; your entries are saved."
    />
  {:else}
    {#if !report.rides}
      <p class="mb-3 max-w-[38rem]">
        <b>No rides recorded yet.</b> Maintenance counts kilometres, wet ones more, and days. Record your rides,
        and it counts by itself. Until then only done tasks, spares and the seasonal lists are shown here.
      </p>
    {/if}
    <div class="grid gap-x-10 gap-y-6 lg:grid-cols-[minmax(0,1fr)_24rem]">
      <div class="min-w-0">
        <ul class="m-0 list-none border-t border-ink p-0" aria-label="Maintenance tasks">
          {#each report.tasks as task (task.id)}<TaskRow {page} {task} />{/each}
        </ul>
        {#if report.aside.length}
          <p class="mt-2 text-sm text-ink2">
            Not on this board: {#each report.aside as t, i (t.id)}{i ? ', ' : ''}{t.title.toLowerCase()}
              (<button class="link" onclick={() => page.every(t.id, { never: null })}>back</button>){/each}.
          </p>
        {/if}
        <section class="mt-6" aria-labelledby="book" data-testid="book">
          <div class="flex items-baseline border-b border-ink">
            <h2 class="text-base" id="book">Done</h2>
            <span class="ml-auto flex gap-4 text-sm">
              <button class="link min-h-[32px]" onclick={() => void file('csv')}>CSV</button>
              <button class="link min-h-[32px]" onclick={() => void file('json')}>JSON</button>
            </span>
          </div>
          {#each report.book as d (d.id)}
            <div class="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1 text-sm">
              <span class="w-24 whitespace-nowrap text-ink2">{shortDay(d.on)}</span>
              <span class="min-w-0 flex-1"
                >{titles.get(d.task) ?? d.task}{d.found ? `: ${FOUND[d.found]}` : ''}{d.changed
                  ? ', changed'
                  : ''}{d.diameter_mm
                  ? `, ${written(d.diameter_mm, 'length', reader.units)}`
                  : ''}{d.capacity_pct ? `, ${d.capacity_pct} % left` : ''}{d.note ? `. ${d.note}` : ''}</span
              >
              <span class="text-ink2">{d.by ?? ''}</span>
              <button
                class="link min-h-[32px]"
                aria-label={`Undo: ${titles.get(d.task) ?? d.task}, ${shortDay(d.on)}`}
                onclick={() => page.takeBack(d.id)}>Undo</button
              >
            </div>
          {:else}
            <p class="py-1 text-sm text-ink2">No entries yet. Use “Done” beside a task.</p>
          {/each}
        </section>
        <section class="mt-6" aria-labelledby="troubles">
          <h2 class="border-b border-ink text-base" id="troubles">Troubleshooting</h2>
          {#each report.troubles as t (t.sign)}
            <details class="border-b border-line text-sm">
              <summary class="flex min-h-[40px] cursor-pointer items-center gap-2"
                >{t.sign}{#if t.own}<span class="text-short">{t.own}× on this board</span>{/if}</summary
              >
              <p class="pb-2">Mostly: {t.causes.join('; ')}. {t.fix}</p>
            </details>
          {/each}
        </section>
      </div>
      <div class="min-w-0 space-y-6">
        {#if report.wheels}
          <section aria-labelledby="wheels" data-testid="wheels">
            <h2 class="border-b border-ink text-base" id="wheels">Wheels</h2>
            <p class={['text-sm', report.wheels.change && 'text-short']}>
              {formatMessage(report.wheels.message, reader.units)}
            </p>
          </section>
        {/if}
        {#if report.pack?.says.length}
          <section aria-labelledby="pack">
            <h2 class="border-b border-ink text-base" id="pack">Pack</h2>
            {#each report.pack.says as s, i (i)}<p class="text-sm">{formatMessage(s, reader.units)}</p>{/each}
          </section>
        {/if}
        <Drawer {page} {report} />
        {#each report.seasons as s (s.season)}
          <section aria-labelledby={s.season} data-testid="season" data-season={s.season}>
            <h2 class="border-b border-ink text-base" id={s.season}>{s.title}</h2>
            {#if s.begun}<p class="text-xs text-ink2">
                Begun {shortDay(s.begun)}; {s.items.filter((i) => i.ticked).length} of {s.items.length}.
              </p>{/if}
            {#each s.items as item (item.id)}
              <label class="flex min-h-[44px] items-center gap-3 border-b border-line text-sm"
                ><input
                  type="checkbox"
                  class="size-[18px]"
                  checked={item.ticked}
                  disabled={page.asked.busy || page.asked.failed}
                  onchange={() => page.tick(item)}
                />
                {item.title}</label
              >
            {/each}
          </section>
        {/each}
        <p class="text-xs text-ink2">
          Common practice, no source. Mains-side and pack repair work: someone qualified. If the board steers,
          brakes or charges differently than before, do not ride it until you know why.
        </p>
      </div>
    </div>
  {/if}
</main>
