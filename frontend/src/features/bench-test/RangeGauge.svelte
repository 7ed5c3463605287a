<!-- A gauge lying down: the predicted band as a block, its middle as a line, what was found as notches above. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import { scaleLinear } from 'd3-scale';
  import Axis from '$lib/ui/Axis.svelte';
  import type { Schemas } from '$lib/api/client';
  import { shownUnit, toShown, written } from '$lib/units';

  interface Props {
    band: Schemas['FigureInterval'];
    title: string;
    found?: { name: string; value: number }[];
    /** The core says that what was found is not as it should be. */
    wrong?: boolean;
  }
  let { band, title, found = [], wrong = false }: Props = $props();

  let width = $state(320);
  const HEIGHT = 52;
  const BASE = 34;
  const unit = $derived(shownUnit(band.quantity, reader.units).unit);
  const shown = (value: number) => toShown(value, band.quantity, reader.units);
  const most = $derived(Math.max(shown(band.high) * 1.35, ...found.map((f) => shown(f.value) * 1.1), 1e-9));
  const x = $derived(
    scaleLinear()
      .domain([0, most])
      .range([1, width - 1]),
  );
  const words = $derived(
    `${title}: predicted ${written(band.low, band.quantity, reader.units)} to ${written(band.high, band.quantity, reader.units)}` +
      found.map((f) => `; ${f.name || 'found'} ${written(f.value, band.quantity, reader.units)}`).join(''),
  );
</script>

<figure class="m-0" bind:clientWidth={width}>
  <figcaption class="flex justify-between text-xs text-ink2">
    <span>{title}, {unit}</span>
    <span
      >predicted {written(band.low, band.quantity, reader.units)} to {written(
        band.high,
        band.quantity,
        reader.units,
      )}</span
    >
  </figcaption>
  <svg role="img" aria-label={words} viewBox={`0 0 ${width} ${HEIGHT}`} {width} height={HEIGHT} class="block">
    <Axis
      scale={x}
      side="bottom"
      at={BASE}
      reach={-7}
      drawn
      minor={width < 420 ? 20 : 36}
      ticks={width < 420 ? 4 : 7}
    />
    <rect
      x={x(shown(band.low))}
      width={Math.max(x(shown(band.high)) - x(shown(band.low)), 2)}
      y={BASE - 16}
      height="12"
      fill="var(--color-holds-wash)"
      stroke="var(--color-holds)"
    />
    <line
      x1={x(shown(band.mid))}
      x2={x(shown(band.mid))}
      y1={BASE - 18}
      y2={BASE - 2}
      stroke="var(--color-holds)"
      stroke-width="2"
    />
    {#each found as f (f.name)}
      {@const at = x(shown(f.value))}
      <path
        d={`M ${at - 5} ${BASE - 26} L ${at + 5} ${BASE - 26} L ${at} ${BASE - 17} Z`}
        fill={wrong ? 'var(--color-short)' : 'var(--color-ink)'}
        data-testid="found-notch"
      />
      {#if f.name}<text x={Math.min(at + 7, width - 10)} y={BASE - 20} font-size="12" fill="var(--color-ink)"
          >{f.name}</text
        >{/if}
    {/each}
  </svg>
</figure>
