<!-- Bands laid on one ruled scale, and a mark: what was expected and what was measured, or what was thought before and after. -->
<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import Axis from '$lib/ui/Axis.svelte';
  import { reader } from '$lib/reader.svelte';
  import { shownUnit, toShown, written } from '$lib/units';

  interface Band {
    low: number;
    mid: number;
    high: number;
    /** Drawn as an outline, as what was thought before. */
    hollow?: boolean;
    tone?: 'ink' | 'holds' | 'short';
  }
  interface Props {
    bands: Band[];
    quantity: string;
    /** What was measured. */
    mark?: number;
    label: string;
    /** The least that the scale spans, where several rulers are read together. */
    span?: [number, number];
  }
  let { bands, quantity, mark, label, span }: Props = $props();

  let across = $state(0);
  const width = $derived(Math.max(across || 220, 140));
  const ROW = 11;
  const high = $derived(bands.length * (ROW + 3) + 22);
  const show = (v: number) => toShown(v, quantity, reader.units);
  const ends = $derived.by(() => {
    const all = [
      ...bands.flatMap((b) => [b.low, b.high]),
      ...(mark === undefined ? [] : [mark]),
      ...(span ?? []),
    ].map(show);
    const [low, top] = [Math.min(...all), Math.max(...all)];
    const room = (top - low || Math.abs(top) || 1) * 0.09;
    return [low - room, top + room] as [number, number];
  });
  const scale = $derived(
    scaleLinear()
      .domain(ends)
      .range([4, width - 4]),
  );
  const say = (v: number) => written(v, quantity, reader.units);
  const words = $derived(
    `${label}: ${bands
      .map((b) => `${b.hollow ? 'before ' : ''}${say(b.mid)}, between ${say(b.low)} and ${say(b.high)}`)
      .join('; ')}${mark === undefined ? '' : `; measured ${say(mark)}`}.`,
  );
  const INK = { ink: 'var(--color-ink)', holds: 'var(--color-holds)', short: 'var(--color-short)' };
  const WASH = {
    ink: 'var(--color-sand)',
    holds: 'var(--color-holds-wash)',
    short: 'var(--color-short-wash)',
  };
</script>

<div bind:clientWidth={across} class="min-w-0">
  <svg {width} height={high} role="img" aria-label={words} class="block max-w-full overflow-visible">
    <Axis {scale} side="bottom" at={high - 17} reach={3} drawn ticks={Math.max(Math.round(width / 70), 2)} />
    {#each bands as b, i (i)}
      {@const y = i * (ROW + 3) + 1}
      {@const tone = b.tone ?? 'ink'}
      <rect
        x={scale(show(b.low))}
        {y}
        width={Math.max(scale(show(b.high)) - scale(show(b.low)), 2)}
        height={ROW}
        fill={b.hollow ? 'none' : WASH[tone]}
        stroke={b.hollow ? 'var(--color-rule)' : INK[tone]}
        stroke-dasharray={b.hollow ? '3 2' : undefined}
      />
      <line
        x1={scale(show(b.mid))}
        x2={scale(show(b.mid))}
        y1={y}
        y2={y + ROW}
        stroke={b.hollow ? 'var(--color-rule)' : INK[tone]}
        stroke-width={b.hollow ? 1 : 2.4}
      />
    {/each}
    {#if mark !== undefined}
      <path
        d={`M ${scale(show(mark))} ${high - 19} l -5 7 h 10 z`}
        fill="var(--color-ink)"
        data-testid="measured-mark"
      />
      <line
        x1={scale(show(mark))}
        x2={scale(show(mark))}
        y1="0"
        y2={high - 17}
        stroke="var(--color-ink)"
        stroke-dasharray="2 2"
      />
    {/if}
  </svg>
  <span class="sr-only">{shownUnit(quantity, reader.units).unit}</span>
</div>
