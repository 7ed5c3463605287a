<!-- A wish as a notch on a ruler, over how the boards lie along it: pulled, the boards that keep all of it follow. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import { toShown, written } from '$lib/units';
  import type { Explored } from './explore.svelte';

  interface Props {
    spread: Explored['spreads'][number];
    title: string;
    wanted: number | null;
    currency?: string | null;
    onpull: (value: number | null) => void;
  }
  let { spread, title, wanted, currency, onpull }: Props = $props();

  const W = 240;
  const H = 40;
  const atMost = $derived(spread.at_most);
  const most = $derived(Math.max(...spread.boards, 1));
  const bar = (n: number) => (n ? Math.max((Math.log1p(n) / Math.log1p(most)) * (H - 6), 2) : 0);
  // The ruler reaches a little beyond the boards, so that a wish that none of them keeps can be pulled too.
  const room = $derived((spread.high - spread.low) * 0.12);
  const low = $derived(Math.max(Math.min(spread.low - room, wanted ?? Infinity), 0));
  const high = $derived(Math.max(spread.high + room, wanted ?? 0));
  const x = (v: number) => ((v - low) / (high - low || 1)) * W;
  const step = $derived(10 ** Math.floor(Math.log10((high - low || 1) / 60)));
  const say = (v: number) => written(v, spread.quantity, reader.units, currency);
  const cell = $derived((spread.high - spread.low) / spread.boards.length);
  const start = $derived(wanted ?? (atMost ? spread.high : spread.low));
</script>

<div class="border-b border-line py-1" data-testid={`wish-${spread.name}`}>
  <p class="flex items-baseline gap-2 leading-tight">
    <span>{title}</span>
    <b class="tabular">{wanted == null ? 'no target' : `${atMost ? '≤' : '≥'} ${say(wanted)}`}</b>
    {#if wanted != null}
      <button
        class="link ml-auto min-h-[28px] text-xs"
        onclick={() => onpull(null)}
        aria-label={`No target for ${title.toLowerCase()}`}>no target</button
      >
    {/if}
  </p>
  <div class="relative">
    <svg
      viewBox={`0 0 ${W} ${H + 14}`}
      class="block w-full"
      preserveAspectRatio="none"
      style="height:54px"
      aria-hidden="true"
    >
      {#each spread.boards as n, i (i)}
        {@const left = x(spread.low + i * cell)}
        <rect
          x={left}
          y={H - bar(n)}
          width={Math.max(x(spread.low + cell) - x(spread.low) - 0.6, 0.8)}
          height={bar(n)}
          fill="var(--color-sand)"
        />
        <rect
          x={left}
          y={H - bar(spread.sure[i] ?? 0)}
          width={Math.max(x(spread.low + cell) - x(spread.low) - 0.6, 0.8)}
          height={bar(spread.sure[i] ?? 0)}
          fill="var(--color-holds)"
        />
      {/each}
      <line x1="0" x2={W} y1={H} y2={H} stroke="var(--color-rule)" vector-effect="non-scaling-stroke" />
      {#if wanted != null}
        <line
          x1={x(wanted)}
          x2={x(wanted)}
          y1="0"
          y2={H + 6}
          stroke="var(--color-ink)"
          stroke-width="2"
          vector-effect="non-scaling-stroke"
        />
      {/if}
    </svg>
    <input
      type="range"
      class="wish absolute inset-x-0 top-0 h-[54px] w-full"
      min={low}
      max={high}
      {step}
      value={start}
      aria-label={`${title}, ${atMost ? 'at most' : 'at least'}`}
      aria-valuetext={wanted == null ? 'no target' : say(wanted)}
      oninput={(e) => onpull(Number(e.currentTarget.value))}
    />
    <p class="flex justify-between text-xs text-ink2" aria-hidden="true">
      <span>{toShown(low, spread.quantity, reader.units).toFixed(0)}</span><span>{say(high)}</span>
    </p>
  </div>
</div>

<style>
  /* The notch itself is drawn; what is grasped lies over it. */
  .wish {
    appearance: none;
    background: transparent;
    cursor: ew-resize;
    touch-action: pan-y;
  }
  .wish::-webkit-slider-thumb {
    appearance: none;
    width: 24px;
    height: 54px;
    background: transparent;
  }
  .wish::-moz-range-thumb {
    width: 24px;
    height: 54px;
    border: 0;
    background: transparent;
  }
</style>
