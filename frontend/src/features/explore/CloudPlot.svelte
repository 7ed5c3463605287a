<!-- All boards by two outcomes: how sure the surest of each place is by its shade, and the front on top, to be picked. -->
<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import Axis from '$lib/ui/Axis.svelte';
  import { reader } from '$lib/reader.svelte';
  import { currencySign, shownUnit, toShown, written } from '$lib/units';
  import { OUTCOME_TITLES as TITLES } from '$lib/api/tables.gen';
  import type { Explored, Wish, Wishes } from './explore.svelte';

  interface Props {
    explored: Explored;
    wishes: Wishes;
    currency?: string | null;
    chosen?: number;
    onpick: (number: number) => void;
    onaxes: (across: Wish, up: Wish) => void;
  }
  let { explored, wishes, currency, chosen, onpick, onaxes }: Props = $props();

  let across = $state(0);
  const width = $derived(Math.max(across || 520, 280));
  const height = $derived(Math.min(Math.max(width * 0.62, 240), 400));
  const PAD = { left: 46, right: 24, top: 10, bottom: 34 };
  const cloud = $derived(explored.cloud);
  const quantity = (w: Wish) => explored.spreads.find((s) => s.name === w)?.quantity ?? 'count';
  const unit = (w: Wish) =>
    w === 'money' ? currencySign(currency) : shownUnit(quantity(w), reader.units).unit;
  const show = (w: Wish, v: number) => toShown(v, quantity(w), reader.units);
  const span = (w: Wish) => {
    const s = explored.spreads.find((one) => one.name === w)!;
    const wish = wishes[w];
    return [Math.min(s.low, wish ?? s.low), Math.max(s.high, wish ?? s.high)].map((v) => show(w, v)) as [
      number,
      number,
    ];
  };
  const x = $derived(
    scaleLinear()
      .domain(span(cloud.across))
      .range([PAD.left, width - PAD.right])
      .nice(),
  );
  const y = $derived(
    scaleLinear()
      .domain(span(cloud.up))
      .range([height - PAD.bottom, PAD.top])
      .nice(),
  );
  const mid = (board: Explored['front'][number], w: Wish) =>
    board.outcomes.find((p) => p.name === w)?.mid ?? 0;
  const TONE = {
    likely: 'var(--color-holds)',
    uncertain: 'var(--color-unsure)',
    unlikely: 'var(--color-rule)',
  } as const;
  const CHOICES = Object.keys(TITLES) as Wish[];
</script>

<div class="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
  <label
    >Up <select
      class="entry"
      value={cloud.up}
      onchange={(e) => onaxes(cloud.across, e.currentTarget.value as Wish)}
      >{#each CHOICES as w (w)}<option value={w} disabled={w === cloud.across}>{TITLES[w]}</option
        >{/each}</select
    ></label
  >
  <label
    >Across <select
      class="entry"
      value={cloud.across}
      onchange={(e) => onaxes(e.currentTarget.value as Wish, cloud.up)}
      >{#each CHOICES as w (w)}<option value={w} disabled={w === cloud.up}>{TITLES[w]}</option>{/each}</select
    ></label
  >
  <span class="ml-auto flex flex-wrap gap-x-3 text-xs text-ink2">
    <span><span class="mr-1 inline-block size-[10px] bg-holds"></span>likely</span>
    <span><span class="mr-1 inline-block size-[10px] bg-unsure"></span>uncertain</span>
    <span><span class="mr-1 inline-block size-[10px] bg-rule"></span>unlikely</span>
    <span>○ best trade-offs</span>
  </span>
</div>
<div bind:clientWidth={across} class="min-w-0" data-testid="cloud" data-cells={cloud.cells.length}>
  <svg
    {width}
    {height}
    class="block max-w-full"
    role="group"
    aria-label={`${explored.looked_at} boards: ${TITLES[cloud.up]} over ${TITLES[cloud.across]}`}
  >
    <Axis scale={x} side="bottom" at={height - PAD.bottom} across={PAD.top} ticks={Math.max(width / 90, 3)} />
    <Axis scale={y} side="left" at={PAD.left} across={width - PAD.right} ticks={6} />
    {#each cloud.cells as c (`${c.x}:${c.y}`)}
      {@const left = x(show(cloud.across, c.x))}
      {@const bottom = y(show(cloud.up, c.y))}
      <rect
        x={left}
        y={y(show(cloud.up, c.y + cloud.high))}
        width={Math.max(x(show(cloud.across, c.x + cloud.wide)) - left - 0.5, 1)}
        height={Math.max(bottom - y(show(cloud.up, c.y + cloud.high)) - 0.5, 1)}
        fill={TONE[c.likelihood]}
        opacity={0.25 + 0.55 * Math.min(c.boards / 40, 1)}
      />
    {/each}
    {#each [cloud.across, cloud.up] as w, i (w)}
      {#if wishes[w] != null}
        {@const at = i ? y(show(w, wishes[w]!)) : x(show(w, wishes[w]!))}
        {#if i}<line
            x1={PAD.left}
            x2={width - PAD.right}
            y1={at}
            y2={at}
            stroke="var(--color-ink)"
            stroke-dasharray="5 3"
          />
        {:else}<line
            x1={at}
            x2={at}
            y1={PAD.top}
            y2={height - PAD.bottom}
            stroke="var(--color-ink)"
            stroke-dasharray="5 3"
          />{/if}
      {/if}
    {/each}
    {#each explored.front as board (board.number)}
      {@const cx = x(show(cloud.across, mid(board, cloud.across)))}
      {@const cy = y(show(cloud.up, mid(board, cloud.up)))}
      <g
        role="button"
        tabindex="0"
        class="cursor-pointer"
        data-testid="front-board"
        aria-label={`${board.chosen.map((c) => c.label).join(', ')}: meets every target, ${board.chance_in_words}; ${board.outcomes
          .filter((p) => p.mid != null)
          .map((p) => written(p.mid!, p.quantity, reader.units, currency))
          .join(', ')}`}
        onclick={() => onpick(board.number)}
        onkeydown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), onpick(board.number))}
      >
        <circle {cx} {cy} r="12" fill="transparent" />
        <circle
          {cx}
          {cy}
          r={board.number === chosen ? 8 : 5}
          fill={board.number === chosen ? 'var(--color-ink)' : 'var(--color-sheet)'}
          stroke={TONE[board.likelihood]}
          stroke-width="2.5"
        />
      </g>
    {/each}
    <text x={width - PAD.right} y={height - 3} font-size="12" text-anchor="end" fill="var(--color-ink)"
      >{TITLES[cloud.across]}, {unit(cloud.across)}</text
    >
    <text x={PAD.left + 6} y={PAD.top + 10} font-size="12" fill="var(--color-ink)"
      >{TITLES[cloud.up]}, {unit(cloud.up)}</text
    >
  </svg>
</div>
