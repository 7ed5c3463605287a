<!-- The box to make: what it will be for this deck and what goes into it, and the files to make it from. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { reader } from '$lib/reader.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import { formatMessage, written } from '$lib/units';
  import EnclosureFigures from './EnclosureFigures.svelte';
  import EnclosurePicture from './EnclosurePicture.svelte';
  import EnclosurePlan from './EnclosurePlan.svelte';
  import Making from './Making.svelte';

  const build = getBuildContext();
  const asked = new Query(
    () => build.board,
    (document, signal) => api.POST('/api/enclosure', { body: { document }, signal }),
    { cacheKey: () => `box:${build.id}` },
  );
  const reports = $derived(asked.answer);
  const second = $derived(reports?.find((r) => r.second)?.second);
  const two = $derived(Boolean(build.file.parts?.second_enclosure));

  /** A box of one's own instead of the one that was chosen; what was bought is left over. */
  async function take(enclosure: Schemas['Enclosure']): Promise<void> {
    if (!(await build.takeParts({ ...build.file.parts, enclosure })))
      notices.say('The server cannot be reached; nothing was changed.');
  }
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-4 sm:px-6">
  <div class="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Enclosure</h1>
    <p class="remark text-sm">
      Made to your deck and its contents: print, fold or laminate it, or drill a bought one by its pattern.
    </p>
    {#if second && !two}
      <Button class="ml-auto" onclick={() => build.change({ 'parts.second_enclosure': second })}
        >Two enclosures instead of one</Button
      >
    {/if}
  </div>
  {#if !reports}
    <Awaiting
      {asked}
      waiting="Drawing…"
      lost="The enclosure cannot be loaded at the moment; your board is saved."
    />
  {:else}
    {#each reports as report (report.which)}
      {@const name = report.which === 'enclosure' ? (two ? 'The first box' : 'The box') : 'The second box'}
      <section
        class="mb-8 grid gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]"
        aria-label={name}
        data-testid={`box-${report.which}`}
      >
        <h2 class={two ? 'text-lg lg:col-span-2' : 'sr-only'}>{name}</h2>
        {#if report.cannot}
          <div class="rounded border border-short bg-short-wash p-3 lg:col-span-2" role="alert">
            <p class="font-semibold">
              {build.file.parts?.[report.which]
                ? 'It cannot be made like that yet.'
                : 'There is no enclosure yet.'}
            </p>
            <p>{formatMessage(report.cannot, reader.units)}</p>
            {#if report.suggested}
              {@const better = report.suggested}
              <p class="mt-2">
                <Button main onclick={() => void take(better)}
                  >Make it {[better.length_mm, better.width_mm, better.depth_mm]
                    .map((mm) => written(mm ?? 0, 'length', reader.units))
                    .join(' × ')}</Button
                >
                <span class="ml-2 text-sm">the shallowest that fits the contents</span>
              </p>
            {/if}
            <p class="mt-2 text-sm">
              <a class="link" href={`${addressOf(build.id, 'design')}?at=${report.field}`}
                >Change it on the Design page</a
              >, or here below.
            </p>
          </div>
        {:else}
          <div class="min-w-0">
            <div class="h-56 rounded border border-line bg-sheet p-2 sm:h-72">
              {#if report.picture}<EnclosurePicture
                  picture={report.picture}
                  words={`${name} seen into from above, in ${report.pieces?.length === 2 ? 'two halves' : 'one piece'}.`}
                />{/if}
            </div>
            <div class="mt-3 rounded border border-line bg-sheet p-2"><EnclosurePlan {report} /></div>
          </div>
          <Making {report} id={build.id} />
        {/if}
        <div class="lg:col-span-2"><EnclosureFigures {build} which={report.which} /></div>
      </section>
    {/each}
  {/if}
</main>
