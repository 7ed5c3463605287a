<!-- An outcome as a ruled gauge: the brief's target, the predicted range as a block, its middle as a line. -->
<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import Axis from './Axis.svelte';
  import type { Outcome } from '$lib/api/client';
  import { currencySign, shownUnit, formatMessage, toShown, write, type UnitChoice } from '$lib/units';

  interface Props {
    outcome: Outcome;
    units: UnitChoice;
    currency?: string | null;
    height?: number;
    width?: number;
    compact?: boolean;
    /** The end of the scale in the build file's unit, where several gauges stand beside each other. */
    end?: number;
  }
  let { outcome, units, currency, height = 220, width = 52, compact = false, end }: Props = $props();

  // Drawn in the screen's own pixels, so that its figures keep their size however narrow the column.
  let across = $state(0);
  const ruler = $derived(Math.max(across || width, 40) - 10);

  const shown = (value: number | null | undefined) =>
    value === null || value === undefined ? null : toShown(value, outcome.quantity, units);
  const wanted = $derived(shown(outcome.wanted));
  const mid = $derived(shown(outcome.mid));
  const low = $derived(shown(outcome.low) ?? mid);
  const high = $derived(shown(outcome.high) ?? mid);
  const unit = $derived(
    outcome.quantity === 'money' ? currencySign(currency) : shownUnit(outcome.quantity, units).unit,
  );

  // The scale follows the brief, so that the block moves along the gauge and not the gauge under the block.
  const top = $derived.by(() => {
    if (end) return Math.max(shown(end) ?? 0, 1e-6);
    const asked = wanted ? wanted * 1.65 : 0;
    const most = Math.max(high ?? 0, shown(outcome.next_high) ?? 0);
    const needed = most ? most * 1.12 : 0;
    return needed > asked ? Math.max(needed, 1e-6) : Math.max(asked, 1e-6);
  });
  const scale = $derived(
    scaleLinear()
      .domain([0, top])
      .range([height - 4, 4]),
  );
  // With neither brief nor prediction there is nothing to rule the gauge by.
  const ruled = $derived(wanted !== null || mid !== null);
  const block = $derived(
    mid === null || low === null || high === null
      ? null
      : { y: Math.min(scale(high), scale(mid) - 1.5), end: Math.max(scale(low), scale(mid) + 1.5) },
  );
  /** Of the next ride, which the verdict is about: from its high to its low end. */
  const next = $derived.by(() => {
    const [least, most] = [shown(outcome.next_low), shown(outcome.next_high)];
    return block && least !== null && most !== null ? { y: scale(most), end: scale(least) } : null;
  });
  const tone = $derived(
    outcome.verdict === 'on target'
      ? ['var(--color-holds)', 'var(--color-holds-wash)']
      : outcome.verdict === 'uncertain'
        ? ['var(--color-unsure)', 'var(--color-unsure-wash)']
        : outcome.verdict === 'short' || outcome.verdict === 'over'
          ? ['var(--color-short)', 'var(--color-short-wash)']
          : ['var(--color-ink2)', 'var(--color-line)'],
  );
  // No more digits than the band deserves.
  const big = $derived(
    mid === null ? null : mid.toFixed(outcome.name === 'carry' || Math.abs(mid) < 10 ? 1 : 0),
  );
  const free = (t: number) =>
    scale(t) > 12 &&
    // The notch's number stands just above its line.
    (wanted === null || Math.abs(scale(t) - (scale(wanted) - 6)) > 14) &&
    (block === null || scale(t) < block.y - 5 || scale(t) > block.end + 5);
  const words = $derived.by(() => {
    const say = (v: number | null | undefined) => {
      if (v === null || v === undefined) return '';
      const w = write(v, outcome.quantity, units, currency);
      return `${w.number} ${w.unit}`;
    };
    if (outcome.mid == null) return `${outcome.title}: not predicted yet.`;
    const band = outcome.low != null ? `, between ${say(outcome.low)} and ${say(outcome.high)}` : '';
    const next =
      outcome.next_low != null
        ? ` On your next ride ${say(outcome.next_low)} to ${say(outcome.next_high)}.`
        : '';
    const brief = outcome.wanted != null ? ` Target ${say(outcome.wanted)}: ${outcome.verdict}.` : '';
    const chance = outcome.chance_in_words ? ` ${outcome.chance_in_words}.` : '';
    const why = outcome.message ? ` ${formatMessage(outcome.message, units, currency)}` : '';
    return `${outcome.title}: ${say(outcome.mid)}${band}.${next}${brief}${chance}${why}`;
  });
</script>

<figure
  class="m-0 min-w-0"
  bind:clientWidth={across}
  data-testid={`gauge-${outcome.name}`}
  data-mid={outcome.mid ?? ''}
  data-low={outcome.low ?? ''}
  data-high={outcome.high ?? ''}
  data-verdict={outcome.verdict}
>
  <svg width={ruler + 10} {height} role="img" aria-label={words} class="block max-w-full overflow-visible">
    <rect
      x="0.5"
      y="0.5"
      width={ruler - 8}
      height={height - 1}
      fill="var(--color-sheet)"
      stroke="var(--color-line)"
    />
    <Axis
      {scale}
      side="right"
      at={1}
      reach={10}
      minor={ruled ? (compact ? 8 : 24) : 0}
      ticks={ruled ? (compact ? 4 : 6) : 0}
      ink="var(--color-ink)"
      text={(t) => (t > 0 && free(t) ? (t >= 1000 ? `${t / 1000}k` : String(t)) : null)}
    />
    {#if next}
      <path
        d={`M ${ruler / 2 + 4} ${next.y} V ${next.end} M ${ruler / 2} ${next.y} h 9 M ${ruler / 2} ${next.end} h 9`}
        stroke={tone[0]}
        stroke-width="1.2"
        fill="none"
      />
    {/if}
    {#if block}
      <g class="block-on-gauge" style:transform={`translateY(${block.y}px)`}>
        <rect
          x="18"
          y="0"
          width={ruler - 27}
          height={block.end - block.y}
          fill={tone[1]}
          stroke={tone[0]}
          stroke-width="1.2"
        />
        <line
          x1="18"
          x2={ruler - 9}
          y1={scale(mid!) - block.y}
          y2={scale(mid!) - block.y}
          stroke={tone[0]}
          stroke-width="2.6"
        />
      </g>
    {/if}
    {#if wanted !== null}
      <line
        x1="1"
        x2={ruler - 2}
        y1={scale(wanted)}
        y2={scale(wanted)}
        stroke="var(--color-ink)"
        stroke-width="1.2"
        stroke-dasharray="2 2"
      />
      <path d={`M ${ruler + 8} ${scale(wanted) - 5} v 10 l -9 -5 z`} fill="var(--color-ink)" />
      <text
        x="13"
        y={scale(wanted) - 3}
        font-size="12"
        font-weight="700"
        fill="var(--color-ink)"
        stroke="var(--color-sheet)"
        stroke-width="2.5"
        paint-order="stroke">{Number(wanted.toFixed(1))}</text
      >
    {/if}
  </svg>
  <figcaption class="mt-1 leading-tight" aria-hidden="true">
    {#if big}
      <span class="whitespace-nowrap"
        ><span class="font-semibold" class:text-lg={!compact}>{big}</span><span class="text-xs text-ink2"
          >&thinsp;{unit}</span
        ></span
      >
    {:else}
      <span class="font-semibold text-ink2" class:text-lg={!compact}>–</span>
    {/if}
    <span class="block text-xs leading-tight" style:color={tone[0]}>{outcome.verdict}</span>
    {#if outcome.verdict !== 'no target' && outcome.verdict !== 'not predicted'}
      <span class="flex items-center gap-1 text-xs whitespace-nowrap text-ink2">
        <svg
          width="12"
          height="12"
          viewBox="0 0 12 12"
          fill="none"
          stroke={tone[0]}
          stroke-width="2"
          class="shrink-0"
        >
          {#if outcome.verdict === 'on target'}<path d="M1.5 6.5 4.5 9.5 10.5 2.5" />
          {:else if outcome.verdict === 'uncertain'}<path d="M1 7.5C3 3.5 5 3.5 6 6s3 2.5 5-1.5" />
          {:else}<path d="M2 2l8 8M10 2l-8 8" />{/if}
        </svg>
        {#if outcome.chance_in_short && !compact}{outcome.chance_in_short}{/if}
      </span>
    {/if}
  </figcaption>
</figure>

<style>
  .block-on-gauge {
    transition: transform 180ms ease-out;
  }
</style>
