<!-- The board to scale in every view, the belts that would suit, and the template to drill by. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import BoardView from '$lib/drawings/BoardView.svelte';
  import { Room, Shown } from '$lib/room.svelte';
  import { session } from '$lib/session.svelte';
  import { svgText, takeAway } from '$lib/take-away';
  import BuildNav from '$lib/ui/BuildNav.svelte';
  import Header from '$lib/ui/Header.svelte';
  import NoBuild from '$lib/ui/NoBuild.svelte';
  import { spoken, written } from '$lib/units';
  import { partNames } from '../stations/stations';

  let { params }: { params: { id: string } } = $props();
  const room = new Room(
    () => params.id,
    (build) =>
      new Shown(
        build,
        async ({ document }) => (await api.POST('/api/drawings', { body: { document } })).data,
      ),
  );
  const shown = $derived(room.laid);
  const build = $derived(shown?.build);
  const drawings = $derived(shown?.found);

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
    takeAway(text, 'image/svg+xml', `${build?.document.name ?? 'board'}-${view}.svg`);
  }
  const collisions = (drawing: Schemas['Drawing']) =>
    [...new Set(drawing.clashes.map((c) => spoken(c.saying, session.units)))].join('; ');
  const length = (mm: number) => written(mm, 'length', session.units);
</script>

<svelte:head><title>Drawings of {build?.document.name ?? 'a build'} – Sand Pocket</title></svelte:head>
{#if shown && build}
  <Header>
    <span class="font-semibold">{build.document.name ?? 'Board'}</span>
    <BuildNav id={params.id} current="drawings" />
  </Header>
  <main class="mx-auto max-w-[1240px] px-4 py-4 sm:px-6">
    <div class="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1">
      <h1 class="text-xl">Drawn to scale</h1>
      <p class="remark text-[13.5px]">Dashed is a full turn, or drawn as usual because nothing says it.</p>
      <a class="button ml-auto" href={`/api/builds/${params.id}/template.pdf`} download
        >Template 1:1, PDF for drilling and box</a
      >
    </div>
    {#if shown.failed}
      <p class="py-8 text-short" role="alert">
        The drawings cannot be reached just now; your build is kept.
        <button class="link" onclick={() => shown.look()}>Try again</button>
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
                class="link ml-auto text-[13px]"
                onclick={() => asSvg(drawing.view)}
                aria-label={`${TITLES[drawing.view]} as SVG`}>SVG</button
              >
            </div>
            <div class={`mt-1 rounded border border-line bg-sheet p-2 ${SIZES[drawing.view]}`}>
              <BoardView {drawing} units={session.units} names={partNames(build.document)} />
            </div>
            <figcaption class="remark mt-1 text-[13.5px]">
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
          <h2 id="belts" class="text-base">Stock belts that would suit</h2>
          <p class="remark mb-2 text-[13.5px]">
            Can, hanger and flanges need {length(drawings.least_centre_distance_mm)} between the shafts. Lengths
            are from memory: sellers differ.
          </p>
          <table class="w-full border-collapse text-[13.5px]">
            <thead>
              <tr class="text-right text-xs text-ink2">
                <th class="border-b border-ink py-1 text-left font-normal">belt</th>
                <th class="border-b border-ink px-2 py-1 font-normal">length</th>
                <th class="border-b border-ink px-2 py-1 font-normal">shafts apart</th>
                <th class="border-b border-ink px-2 py-1 font-normal">in mesh</th>
              </tr>
            </thead>
            <tbody>
              {#each drawings.belts as belt (belt.teeth)}
                <tr class="border-b border-line text-right" class:bg-chosen={belt.chosen}>
                  <td class="py-1 text-left font-semibold"
                    >{belt.teeth} teeth
                    <span class="remark font-normal">{belt.chosen ? 'chosen' : ''}</span></td
                  >
                  <td class="px-2 py-1">{length(belt.length_mm)}</td>
                  <td class="px-2 py-1">{length(belt.centre_distance_mm)}</td>
                  <td class="px-2 py-1">{written(belt.teeth_in_mesh, 'teeth', session.units)}</td>
                </tr>
              {/each}
            </tbody>
          </table>
        </section>
      {/if}
    {/if}
  </main>
{:else}
  <NoBuild trouble={room.trouble} again={() => room.open()} />
{/if}
