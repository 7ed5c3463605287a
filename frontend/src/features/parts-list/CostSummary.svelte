<!-- Where the money is: already owned, spent, still to spend, along one ruled gauge with the budget's notch. -->
<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import type { PartsList } from '$lib/api/client';
  import Axis from '$lib/ui/Axis.svelte';
  import { billed } from '$lib/units';

  let { list }: { list: PartsList } = $props();
  const WIDTH = 300;
  const sums = $derived(list.sums);
  const budget = $derived(list.money.wanted ?? null);
  const say = (v: number) => billed(v, sums.currency);
  const outlay = $derived(sums.outlay ?? 0);
  const end = $derived(Math.max(outlay, budget ?? 0, 1) * 1.08);
  const x = $derived(
    scaleLinear()
      .domain([0, end])
      .range([1, WIDTH - 1]),
  );
  const spent = $derived(sums.spent ?? 0);
  const over = $derived(budget !== null && outlay > budget);
  const words = $derived(
    `${say(spent)} spent, ${say(sums.to_spend)} still to spend` +
      (budget !== null ? `, of a budget of ${say(budget)}` : ''),
  );
</script>

<svg
  viewBox={`0 0 ${WIDTH} 58`}
  class="block w-full overflow-visible"
  role="img"
  aria-label={words}
  data-testid="cost-summary"
>
  <rect x="0.5" y="16.5" width={WIDTH - 1} height="24" fill="var(--color-sheet)" stroke="var(--color-line)" />
  <Axis scale={x} side="bottom" at={40} reach={-6} minor={24} ticks={5} ink="var(--color-ink)" />
  <rect
    x={x(0)}
    y="20"
    width={Math.max(x(spent) - x(0), 0)}
    height="12"
    fill={over ? 'var(--color-short-wash)' : 'var(--color-holds-wash)'}
    stroke={over ? 'var(--color-short)' : 'var(--color-holds)'}
  />
  <rect
    x={x(spent)}
    y="20"
    width={Math.max(x(outlay) - x(spent), 0)}
    height="12"
    fill="none"
    stroke={over ? 'var(--color-short)' : 'var(--color-ink2)'}
    stroke-dasharray="3 2"
  />
  {#each [[0, spent, 'spent'], [spent, outlay, 'still to spend']] as const as [from, to, label] (label)}
    {#if x(to) - x(from) > label.length * 5.6}
      <text x={(x(from) + x(to)) / 2} y="29.5" font-size="12" text-anchor="middle" fill="var(--color-ink)"
        >{label}</text
      >
    {/if}
  {/each}
  {#if budget !== null}
    <line
      x1={x(budget)}
      x2={x(budget)}
      y1="13"
      y2="41"
      stroke="var(--color-ink)"
      stroke-dasharray="2 2"
      stroke-width="1.2"
    />
    <path d={`M ${x(budget) - 5} 5 h 10 l -5 9 z`} fill="var(--color-ink)" />
    <text
      x={x(budget) + (x(budget) > WIDTH * 0.7 ? -9 : 9)}
      y="12"
      font-size="12"
      font-weight="700"
      text-anchor={x(budget) > WIDTH * 0.7 ? 'end' : 'start'}
      fill="var(--color-ink)">budget {say(budget)}</text
    >
  {/if}
</svg>
