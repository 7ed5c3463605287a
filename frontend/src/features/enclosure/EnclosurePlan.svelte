<!-- The box from the deck's side, to scale: rim, inside, bolts, holes, and how many layers of foam lie where. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { reader } from '$lib/reader.svelte';
  import { written } from '$lib/units';

  let { report }: { report: Schemas['EnclosureReport'] } = $props();
  const length = $derived((report.outer_mm?.[0] ?? 0) - 2 * (report.ends_mm ?? 0));
  const width = $derived((report.outer_mm?.[1] ?? 0) - 2 * (report.sides_mm ?? 0));
  const sides = $derived(report.sides_mm ?? 0);
  const ends = $derived(report.ends_mm ?? 0);
  const wall = $derived(report.wall_mm ?? 0);
  let pixels = $state(560);
  // A short box is no taller on the page than a long one.
  const TALLEST = 300;
  const text = $derived(
    Math.max((length + 2 * ends + 60) / Math.max(pixels, 200), (width + 2 * sides + 62) / TALLEST),
  );
  const mm = (value: number) => written(value, 'length', reader.units);
  const strips = $derived((report.foam ?? []).filter((f) => f.side === 'each long side'));
</script>

<div bind:clientWidth={pixels}>
  <svg
    viewBox={`${-ends - 30} ${-width / 2 - sides - 26} ${length + 2 * ends + 60} ${width + 2 * sides + 62}`}
    class="mx-auto block w-full"
    style:max-height={`${TALLEST}px`}
    role="img"
    aria-label={`The rim from above: ${mm(length + 2 * ends)} by ${mm(width + 2 * sides)}, ${report.bolts?.length} bolts.`}
  >
    <rect
      x={-ends}
      y={-width / 2 - sides}
      width={length + 2 * ends}
      height={width + 2 * sides}
      rx="8"
      fill="var(--color-sand)"
      stroke="var(--color-ink2)"
      stroke-width="0.8"
    />
    {#each strips as strip (strip.start)}
      {#if strip.layers > 1}
        {#each [-1, 1] as side (side)}
          <rect
            x={strip.start}
            y={side < 0 ? -width / 2 - sides : width / 2}
            width={strip.end - strip.start}
            height={sides}
            fill="var(--color-wet-sand)"
            fill-opacity={Math.min(0.18 * (strip.layers - 1), 0.7)}
          />
        {/each}
      {/if}
    {/each}
    <rect
      x={wall}
      y={-width / 2 + wall}
      width={length - 2 * wall}
      height={width - 2 * wall}
      fill="var(--color-paper)"
      stroke="var(--color-ink2)"
      stroke-width="0.8"
    />
    <rect
      x="0"
      y={-width / 2}
      width={length}
      height={width}
      fill="none"
      stroke="var(--color-line)"
      stroke-width="0.6"
    />
    {#each report.ribs ?? [] as rib (rib)}
      <line
        x1={rib}
        x2={rib}
        y1={-width / 2 - sides}
        y2={-width / 2}
        stroke="var(--color-ink2)"
        stroke-width={wall}
      />
      <line
        x1={rib}
        x2={rib}
        y1={width / 2}
        y2={width / 2 + sides}
        stroke="var(--color-ink2)"
        stroke-width={wall}
      />
    {/each}
    {#each report.bolts ?? [] as [bx, by] (`${bx},${by}`)}
      <circle cx={bx} cy={by} r="2.8" fill="var(--color-sheet)" stroke="var(--color-ink)" stroke-width="1" />
    {/each}
    {#each report.holes ?? [] as hole, i (i)}
      {#if hole.wall === 'side'}
        <rect
          x={hole.at_mm - hole.diameter_mm / 2}
          y={width / 2 - wall}
          width={hole.diameter_mm}
          height={wall}
          fill="var(--color-acting)"
        />
      {:else}
        <rect
          x={hole.wall === 'rear' ? length - wall : 0}
          y={hole.at_mm - hole.diameter_mm / 2}
          width={wall}
          height={hole.diameter_mm}
          fill="var(--color-acting)"
        />
      {/if}
    {/each}
    <text
      x={length / 2}
      y={width / 2 + sides + 12 * text + 6}
      text-anchor="middle"
      font-size={12 * text}
      fill="var(--color-ink2)"
      >{mm(length + 2 * ends)} over the rim; inside {mm(length - 2 * wall)} by {mm(width - 2 * wall)}</text
    >
    <text x={-ends} y={-width / 2 - sides - 7} font-size={12 * text} fill="var(--color-ink2)">front</text>
    <text
      x={length + ends}
      y={-width / 2 - sides - 7}
      text-anchor="end"
      font-size={12 * text}
      fill="var(--color-ink2)">rear</text
    >
  </svg>
</div>
