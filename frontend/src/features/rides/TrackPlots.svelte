<!-- A track: what was recorded along the route, and the way itself as a line to share. -->
<script lang="ts">
  import { api, type Curve, type Schemas } from '$lib/api/client';
  import Plot from '$lib/charts/Plot.svelte';
  import { reader } from '$lib/reader.svelte';
  import { written } from '$lib/units';

  let { track }: { track: string } = $props();
  let plotted = $state.raw<Schemas['PlotOut'] | null>(null);
  let failed = $state(false);
  let by = $state<'way' | 'time'>('way');
  let cut = $state('200');

  $effect(() => {
    const id = track;
    void api
      .GET('/api/rides/tracks/{track}', { params: { path: { track: id } } })
      .then(({ data }) => {
        if (id === track) [plotted, failed] = [data ?? null, !data];
      })
      .catch(() => (failed = true));
  });

  const KINDS: [string, string, string, number][] = [
    ['speed', 'Speed', 'speed', 3.6],
    ['height', 'Height', 'way', 1],
    ['power', 'Power from the pack', 'power', 1],
    ['voltage', 'Pack voltage', 'voltage', 1],
    ['motor_c', 'Motor', 'temperature', 1],
    ['board_c', 'Controller', 'temperature', 1],
  ];
  const timed = $derived(!!plotted?.columns.time);
  const plots = $derived.by((): { curve: Curve; floor: number }[] => {
    if (!plotted) return [];
    const { columns } = plotted;
    const along =
      by === 'time' && columns.time
        ? columns.time.map((v) => (v ?? 0) / 60)
        : columns.way!.map((v) => (v ?? 0) / 1000);
    return KINDS.filter(([key]) => columns[key]).map(([key, title, quantity, factor]) => {
      const known = columns[key]!.map((v, i) => [along[i]!, v] as const).filter(
        (p): p is readonly [number, number] => p[1] !== null,
      );
      const mid = known.map(([, v]) => v * factor);
      const lowest = Math.min(...mid);
      const curve: Curve = {
        id: `${key}`,
        title,
        text: `From ${written(lowest, quantity, reader.units)} to ${written(Math.max(...mid), quantity, reader.units)}.`,
        x_title: by === 'time' ? 'time' : 'way',
        x_quantity: by === 'time' ? 'minutes' : 'distance',
        y_title: title.toLowerCase(),
        y_quantity: quantity,
        lines: [{ name: title, role: 'can', x: known.map(([x]) => x), mid }],
        marks: [],
      };
      return {
        curve,
        floor: ['height', 'voltage', 'motor_c', 'board_c'].includes(key) ? lowest : Math.min(lowest, 0),
      };
    });
  });
  const line = (form: string) =>
    `/api/rides/tracks/${track}/line?form=${form}&cut_m=${Math.min(Math.max(Number(cut) || 0, 0), 5000)}`;
</script>

{#if failed}
  <p class="text-sm text-short" role="alert">The track cannot be loaded at the moment.</p>
{:else if !plotted}
  <p class="remark text-sm">Loading the track…</p>
{:else}
  <div class="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
    <span class="font-semibold">{plotted.name}</span>
    {#if timed}
      <span class="flex gap-3" role="group" aria-label="Drawn against">
        <button class="tab min-h-[44px]" aria-pressed={by === 'way'} onclick={() => (by = 'way')}
          >along the route</button
        >
        <button class="tab min-h-[44px]" aria-pressed={by === 'time'} onclick={() => (by = 'time')}
          >over time</button
        >
      </span>
    {/if}
    {#if plotted.summary.wind}<span class="text-ink2">{plotted.summary.wind}.</span>{/if}
  </div>
  <div class="mt-1 grid gap-4 sm:grid-cols-2" data-testid="track-plots">
    {#each plots as { curve, floor } (curve.id)}<Plot plot={curve} name="track" {floor} />{/each}
    <figure class="m-0" data-testid="way-line">
      <h2 class="text-base">The route, without a map</h2>
      {#key cut}<img
          class="mt-1 aspect-square w-full max-w-[300px] rounded border border-line bg-sheet"
          src={line('svg')}
          alt="The route as a line; its ends are cut off"
          onerror={(e) => ((e.currentTarget as HTMLElement).style.display = 'none')}
        />{/key}
      <label class="mt-1 block text-xs text-ink2"
        >Cut off at both ends, m<input
          class="entry block w-28 text-sm text-ink"
          inputmode="numeric"
          bind:value={cut}
        /></label
      >
      <p class="mt-1 flex gap-4 text-sm">
        <a class="link min-h-6" href={line('svg')} download target="_self">as SVG</a>
        <a class="link min-h-6" href={line('png')} download target="_self">as PNG</a>
        <a class="link min-h-6" href={line('gpx')} download target="_self">whole, as GPX</a>
      </p>
      <p class="text-xs text-ink2">A shared line shows where you live unless its ends are cut off.</p>
    </figure>
  </div>
{/if}
