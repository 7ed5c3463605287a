<!-- The cells of one box to scale, from above and from the end: groups, polarity, links; groups change places by dragging. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { written } from '$lib/units';

  interface Props {
    block: Schemas['Block'];
    links: Schemas['PackLink'][];
    onexchange: (one: number, other: number) => void;
  }
  let { block, links, onexchange }: Props = $props();
  type Cell = Schemas['PlacedCell'];
  let pixels = $state(700);
  let held = $state<number | null>(null);
  let over = $state<number | null>(null);
  let svg = $state<SVGSVGElement>();

  const groups = $derived([...new Set(block.cells.map((c) => c.group))]);
  const long = $derived(Math.max(block.inner[0]!, block.needed_mm));
  const wide = $derived(block.inner[1]!);
  const deep = $derived(block.inner[2]!);
  const GAP = 46;
  const EDGE = 14;
  const width = $derived(long + GAP + wide + 2 * EDGE);
  const stacked = $derived(pixels < 560);
  const box = $derived(stacked ? long + 2 * EDGE : width);
  const tall = $derived(stacked ? wide + deep + GAP + 4 * EDGE : Math.max(wide, deep) + 2 * EDGE);
  const unit = $derived(box / Math.max(pixels - 12, 300));
  const endX = $derived(stacked ? 0 : long + GAP);
  const endY = $derived(stacked ? wide / 2 + GAP : -deep / 2);
  const mm = (v: number) => written(v, 'length', reader.units);

  /** From above only the layer next to the deck is seen; each cell behind it has the same group or is told in the end view. */
  const top = $derived(block.cells.filter((c) => c.axis === 'standing' || c.z[0]! < 1));
  const end = $derived.by(() => {
    const nearest = new Map<string, Cell>();
    for (const c of block.cells) {
      const key = `${c.y[0]},${c.z[0]}`;
      const before = nearest.get(key);
      if (!before || c.x[0]! < before.x[0]!) nearest.set(key, c);
    }
    return [...nearest.values()];
  });
  const centre = $derived.by(() => {
    const found = new Map<number, { x: number; y: number }>();
    for (const g of groups) {
      const mine = top.filter((c) => c.group === g);
      if (!mine.length) continue;
      found.set(g, {
        x: mine.reduce((s, c) => s + (c.x[0]! + c.x[1]!) / 2, 0) / mine.length,
        y: mine.reduce((s, c) => s + (c.y[0]! + c.y[1]!) / 2, 0) / mine.length,
      });
    }
    return found;
  });
  const drawn = $derived(
    links.flatMap((l) => {
      const a = centre.get(l.between[0]!);
      const b = centre.get(l.between[1]!);
      return a && b ? [{ link: l, a, b }] : [];
    }),
  );
  const tone = (g: number) => (g % 2 ? 'var(--color-sand)' : 'var(--color-sheet)');

  function groupAt(event: PointerEvent): number | null {
    const hit = document.elementFromPoint(event.clientX, event.clientY)?.closest('[data-group]');
    return hit && svg?.contains(hit) ? Number((hit as SVGElement).dataset.group) : null;
  }
  function take(event: PointerEvent, group: number): void {
    svg?.setPointerCapture(event.pointerId);
    if (held !== null && held !== group) {
      onexchange(held, group);
      held = null;
      return;
    }
    held = held === group ? null : group;
    over = null;
  }
  function drag(event: PointerEvent): void {
    if (held !== null && event.buttons) over = groupAt(event);
  }
  function drop(event: PointerEvent): void {
    const to = over;
    over = null;
    svg?.releasePointerCapture(event.pointerId);
    if (held !== null && to !== null && to !== held) {
      onexchange(held, to);
      held = null;
    }
  }
  const before = $derived(held === null ? null : groups[groups.indexOf(held) - 1]);
  const after = $derived(held === null ? null : groups[groups.indexOf(held) + 1]);
  const words = $derived(
    `${block.cells.length} cells in ${groups.length} groups from above and from the end, ${mm(block.block_mm)} long${
      block.left_mm != null
        ? block.left_mm < 0
          ? `, ${mm(-block.left_mm)} too long for the box`
          : `, ${mm(block.left_mm)} left in the box`
        : ''
    }. Groups as they lie: ${groups.join(', ')}.`,
  );
</script>

{#snippet cell(c: Cell, x: number, y: number, w: number, h: number, round: boolean, plus: number | null)}
  <g data-group={c.group} class:held={held === c.group} class:over={over === c.group}>
    {#if round}
      <circle cx={x + w / 2} cy={y + h / 2} r={w / 2 - 0.6} fill={tone(c.group)} class="can" />
    {:else}
      <rect x={x + 0.5} y={y + 0.5} width={w - 1} height={h - 1} rx="2" fill={tone(c.group)} class="can" />
      {#if plus !== null}
        <!-- The button of the positive end. -->
        {#if w > h}
          <rect
            x={plus ? x + w - 3.5 : x + 0.5}
            y={y + h * 0.28}
            width="3"
            height={h * 0.44}
            fill="var(--color-ink)"
          />
        {:else}
          <rect
            x={x + w * 0.28}
            y={plus ? y + h - 3.5 : y + 0.5}
            width={w * 0.44}
            height="3"
            fill="var(--color-ink)"
          />
        {/if}
      {/if}
    {/if}
    {#if c.out}
      <rect {x} {y} width={w} height={h} fill="url(#pack-hatch)" />
    {/if}
    {#if round && plus}
      <circle cx={x + w / 2} cy={y + h / 2} r={w * 0.2} fill="var(--color-ink)" />
    {/if}
  </g>
{/snippet}

<div bind:clientWidth={pixels} class="rounded border border-line bg-sheet p-1">
  <svg
    bind:this={svg}
    viewBox={`${-EDGE} ${-Math.max(wide, stacked ? wide : deep) / 2 - EDGE} ${box} ${tall}`}
    class="block w-full touch-none select-none"
    style:max-height="440px"
    role="img"
    aria-label={words}
    data-testid="pack-drawing"
    onpointermove={drag}
    onpointerup={drop}
  >
    <defs>
      <pattern
        id="pack-hatch"
        width="5"
        height="5"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="2" height="5" fill="var(--color-short)" />
      </pattern>
    </defs>
    {#if block.box}
      <rect x="0" y={-wide / 2} width={block.inner[0]} height={wide} class="box" />
      <rect x={endX} y={endY} width={wide} height={deep} class="box" />
    {/if}
    {#each block.beside ?? [] as thing, i (i)}
      <rect
        x={thing.x[0]}
        y={thing.y[0]}
        width={thing.x[1]! - thing.x[0]!}
        height={thing.y[1]! - thing.y[0]!}
        class="beside"
      />
      {#if (block.beside ?? []).findIndex((b) => b.what === thing.what) === i && thing.x[1]! - thing.x[0]! > 70 * unit}
        <text
          x={(thing.x[0]! + thing.x[1]!) / 2}
          y={(thing.y[0]! + thing.y[1]!) / 2}
          class="sign"
          font-size={12 * unit}>{thing.what}</text
        >
      {/if}
    {/each}
    <!-- svelte-ignore a11y_no_static_element_interactions -->
    {#each top as c, i (i)}
      <g onpointerdown={(e) => take(e, c.group)} style:cursor="grab">
        {@render cell(
          c,
          c.x[0]!,
          c.y[0]!,
          c.x[1]! - c.x[0]!,
          c.y[1]! - c.y[0]!,
          c.axis === 'standing',
          c.axis === 'standing' ? (c.turned ? 1 : 0) : c.turned ? 0 : 1,
        )}
      </g>
    {/each}
    {#each drawn as { link, a, b } (link.between[0])}
      <line
        x1={a.x}
        y1={a.y}
        x2={b.x}
        y2={b.y}
        stroke={link.holds ? 'var(--color-ink2)' : 'var(--color-short)'}
        stroke-width={link.strips ? 2.5 * unit : 1.5 * unit}
        stroke-dasharray={link.half
          ? `${6 * unit} ${4 * unit}`
          : link.strips
            ? undefined
            : `${2 * unit} ${3 * unit}`}
        pointer-events="none"
      />
    {/each}
    {#each [...centre] as [g, at] (g)}
      <g pointer-events="none">
        <circle
          cx={at.x}
          cy={at.y}
          r={11 * unit}
          fill="var(--color-sheet)"
          stroke="var(--color-ink)"
          stroke-width={unit}
        />
        <text x={at.x} y={at.y} class="number" font-size={13 * unit}>{g}</text>
      </g>
    {/each}
    {#each end as c, i (i)}
      {@render cell(
        c,
        endX + wide / 2 + c.y[0]!,
        endY + c.z[0]!,
        c.y[1]! - c.y[0]!,
        c.z[1]! - c.z[0]!,
        c.axis === 'along',
        c.axis === 'along'
          ? c.turned
            ? 1
            : 0
          : c.axis === 'standing'
            ? c.turned
              ? 0
              : 1
            : c.turned
              ? 0
              : 1,
      )}
    {/each}
    <text x={endX + wide / 2} y={endY + deep + 14 * unit} class="sign" font-size={12 * unit}
      >from the front end</text
    >
    <text x="0" y={wide / 2 + 12 * unit} font-size={12 * unit} fill="var(--color-ink2)"
      >front, from the deck’s side · {mm(block.block_mm)} long{block.left_mm != null && block.left_mm >= 0
        ? `; ${mm(block.left_mm)} of the box left`
        : ''}</text
    >
  </svg>
</div>
<p class="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm" aria-live="polite">
  {#if held !== null}
    <b>Group {held}</b>
    <Button disabled={!before} onclick={() => before && onexchange(held!, before)}>move forward</Button>
    <Button disabled={!after} onclick={() => after && onexchange(held!, after)}>move back</Button>
    <button class="link" onclick={() => (held = null)}>deselect</button>
  {:else}
    <span class="text-ink2"
      >The dark end is positive. Drag a group onto another one to swap them, or
      <label
        >pick one: <select
          class="entry !w-16"
          value=""
          aria-label="Pick a group"
          onchange={(e) => {
            held = Number(e.currentTarget.value) || null;
            e.currentTarget.value = '';
          }}
        >
          <option value="">–</option>
          {#each groups as g (g)}<option value={g}>{g}</option>{/each}
        </select></label
      ></span
    >
  {/if}
</p>
{#if block.spread}
  <p class="text-sm text-unsure">A group is split over two banks: its cells share no strip.</p>
{/if}

<style>
  .can {
    stroke: var(--color-ink2);
    stroke-width: 0.7;
  }
  .held .can {
    fill: var(--color-chosen);
    stroke: var(--color-acting);
    stroke-width: 2;
  }
  .over .can {
    stroke: var(--color-acting);
    stroke-width: 2.5;
  }
  .box {
    fill: none;
    stroke: var(--color-rule);
    stroke-width: 1;
  }
  .beside {
    fill: none;
    stroke: var(--color-rule);
    stroke-width: 1;
    stroke-dasharray: 4 3;
  }
  .sign,
  .number {
    text-anchor: middle;
    dominant-baseline: central;
    fill: var(--color-ink);
  }
  .number {
    font-weight: 700;
  }
</style>
