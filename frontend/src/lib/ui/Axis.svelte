<!-- An axis of a chart: the ticks of a scale with their numbers, and lines across the chart where it is ruled. -->
<script lang="ts">
  import type { ScaleLinear } from 'd3-scale';

  interface Props {
    scale: ScaleLinear<number, number>;
    side: 'bottom' | 'left' | 'right';
    /** Where the axis is drawn: the height of a lower one, how far across an upright one. */
    at: number;
    /** About how many ticks have a number, and how many there are between them without one. */
    ticks: number;
    minor?: number;
    /** Pixels that a tick reaches away from the chart; into it where negative. */
    reach?: number;
    /** To where every tick is drawn through as a hairline. */
    across?: number;
    /** Whether the axis itself is drawn, along the whole scale. */
    drawn?: boolean;
    ink?: string;
    /** What is written at a tick; null leaves it without. */
    text?: (value: number) => string | null;
  }
  let {
    scale,
    side,
    at,
    ticks,
    minor,
    reach = 0,
    across,
    drawn = false,
    ink = 'var(--color-rule)',
    text = (value) => Number(value.toPrecision(6)).toLocaleString('en'),
  }: Props = $props();

  const GAP = 5;
  const upright = $derived(side !== 'bottom');
  const outwards = $derived(side === 'left' ? -1 : 1);
  const ends = $derived(scale.range() as [number, number]);
  const left = $derived(Math.min(...ends));
  /** From the axis to `to`, at a value of the scale. */
  const stroke = (value: number, to: number) =>
    upright
      ? { x1: at, x2: to, y1: scale(value), y2: scale(value) }
      : { x1: scale(value), x2: scale(value), y1: at, y2: to };
  const off = $derived(outwards * (Math.max(reach, 0) + GAP));
  const anchor = (value: number) =>
    side === 'left' ? 'end' : side === 'right' || scale(value) - left < 2 ? 'start' : 'middle';
</script>

{#if drawn}
  <line
    {...upright ? { x1: at, x2: at, y1: ends[0], y2: ends[1] } : { x1: ends[0], x2: ends[1], y1: at, y2: at }}
    stroke={ink}
  />
{/if}
{#if minor}
  {#each scale.ticks(minor) as value (value)}
    <line {...stroke(value, at + (outwards * reach) / 2)} stroke={ink} stroke-width="0.7" />
  {/each}
{/if}
{#each scale.ticks(ticks) as value (value)}
  {@const words = text(value)}
  {#if across !== undefined}<line
      {...stroke(value, across)}
      stroke="var(--color-line)"
      stroke-width="0.8"
    />{/if}
  {#if reach}<line {...stroke(value, at + outwards * reach)} stroke={ink} />{/if}
  {#if words !== null}
    <text
      x={upright ? at + off : scale(value)}
      y={upright ? scale(value) + 4 : at + off + 9}
      text-anchor={anchor(value)}
      font-size="12"
      fill="var(--color-ink2)">{words}</text
    >
  {/if}
{/each}
