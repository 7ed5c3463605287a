<!-- The board to scale in every view, the belts that would suit, and the template to drill by. -->
<script lang="ts">
  import DataTable from '$lib/ui/DataTable.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { reader } from '$lib/reader.svelte';
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import BoardView from '$lib/drawings/BoardView.svelte';
  import { tray } from '$lib/jobs/tray.svelte';
  import { svgText, download } from '$lib/download';
  import { Query } from '$lib/sync/query.svelte';
  import { formatMessage, written } from '$lib/units';
  import { partNames } from '$lib/parts';

  const build = getBuildContext();
  const asked = new Query(
    () => build.board,
    (document, signal) => api.POST('/api/drawings', { body: { document }, signal }),
    { cacheKey: () => `drawings:${build.id}` },
  );
  const drawings = $derived(asked.answer);

  const TITLES = {
    side: 'From the side',
    under: 'From underneath',
    behind: 'The drive’s end, from behind',
    drive: 'The drive, from the side',
  } as const;
  const SIZES = {
    side: 'h-36 sm:h-64',
    under: 'h-48 sm:h-72',
    behind: 'h-56 sm:h-64',
    drive: 'h-56 sm:h-64',
  } as const;

  /** To scale in millimetres, so that a drawing program opens it at its real size. */
  function asSvg(view: keyof typeof TITLES): void {
    const svg = document.querySelector<SVGSVGElement>(`[data-view="${view}"] svg`);
    if (!svg) return;
    const [, , width, height] = svg.getAttribute('viewBox')!.split(' ').map(Number);
    const text = svgText(svg, width!, height!, 'mm');
    download(text, 'image/svg+xml', `${build.file.name ?? 'board'}-${view}.svg`);
  }
  const collisions = (drawing: Schemas['Drawing']) =>
    [...new Set(drawing.clashes.map((c) => formatMessage(c.message, reader.units)))].join('; ');
  async function template(): Promise<void> {
    await build.settled();
    const params = { path: { id: build.id } };
    await tray.download('Template 1:1', () => api.POST('/api/builds/{id}/template', { params }));
  }
  const length = (mm: number) => written(mm, 'length', reader.units);
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-4 sm:px-6">
  <div class="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Drawn to scale</h1>
    <p class="remark text-sm">Dashed: a full turn, or a typical size where yours is not known.</p>
    <Button onclick={template} class="ml-auto">Template 1:1 for drilling and enclosure (PDF)</Button>
  </div>
  {#if asked.failed && !drawings}
    <p class="py-8 text-short" role="alert">
      The drawings cannot be loaded at the moment; your board is saved.
      <button class="link" onclick={() => asked.again()}>Try again</button>
    </p>
  {:else if !drawings}
    <p class="remark py-8">Drawing…</p>
  {:else}
    <div class="grid gap-x-8 gap-y-6 lg:grid-cols-2">
      {#each drawings.views as drawing (drawing.view)}
        <figure
          class="m-0 min-w-0"
          class:lg:col-span-2={drawing.view === 'side' || drawing.view === 'under'}
          data-view={drawing.view}
          data-testid={`drawing-${drawing.view}`}
        >
          <div class="flex items-baseline gap-3">
            <h2 class="text-base">{TITLES[drawing.view]}</h2>
            <button
              class="link ml-auto text-sm"
              onclick={() => asSvg(drawing.view)}
              aria-label={`${TITLES[drawing.view]} as SVG`}>SVG</button
            >
          </div>
          <div class={`mt-1 rounded border border-line bg-sheet p-2 ${SIZES[drawing.view]}`}>
            <BoardView {drawing} units={reader.units} names={partNames(build.file)} />
          </div>
          <figcaption class="remark mt-1 text-sm">
            {drawing.description}
            {#if drawing.clashes.length}
              <span class="text-short">Collides: {collisions(drawing)}.</span>
            {/if}
          </figcaption>
        </figure>
      {/each}
    </div>
    {#if drawings.belts.length}
      <section class="mt-6 max-w-2xl" aria-labelledby="belts">
        <h2 id="belts" class="text-base">Stock belts that fit</h2>
        <p class="remark mb-2 text-sm">
          Can, hanger and flanges need {length(drawings.least_centre_distance_mm)} between the shafts. Lengths are
          from memory: sellers differ.
        </p>
        <DataTable
          heads={[
            'Belt',
            { text: 'Length', right: true },
            { text: 'Shafts apart', right: true },
            { text: 'In mesh', right: true },
          ]}
        >
          <tbody>
            {#each drawings.belts as belt (belt.teeth)}
              <tr class="border-b border-line text-right" class:bg-chosen={belt.chosen}>
                <td class="py-1 text-left font-semibold"
                  >{belt.teeth} teeth
                  <span class="remark font-normal">{belt.chosen ? 'chosen' : ''}</span></td
                >
                <td class="px-2 py-1">{length(belt.length_mm)}</td>
                <td class="px-2 py-1">{length(belt.centre_distance_mm)}</td>
                <td class="px-2 py-1">{written(belt.teeth_in_mesh, 'teeth', reader.units)}</td>
              </tr>
            {/each}
          </tbody>
        </DataTable>
      </section>
    {/if}
  {/if}
</main>
