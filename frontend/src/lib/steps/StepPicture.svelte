<!-- A step's drawing, to scale; marks and labels are the core's. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { reader } from '$lib/reader.svelte';
  import { written } from '$lib/units';

  let { picture }: { picture: Schemas['Picture'] } = $props();

  const INKS: Record<string, { fill: string; stroke: string }> = {
    metal: { fill: 'var(--color-sand)', stroke: 'var(--color-ink)' },
    wood: { fill: 'var(--color-unsure-wash)', stroke: 'var(--color-ink)' },
    rubber: { fill: 'var(--color-fog)', stroke: 'var(--color-ink)' },
    foam: { fill: 'var(--color-holds-wash)', stroke: 'var(--color-rule)' },
    printed: { fill: 'var(--color-paper)', stroke: 'var(--color-ink)' },
    copper: { fill: 'var(--color-holds-wash)', stroke: 'var(--color-ink)' },
    line: { fill: 'var(--color-sheet)', stroke: 'var(--color-ink)' },
    axis: { fill: 'none', stroke: 'var(--color-acting)' },
    right: { fill: 'none', stroke: 'var(--color-holds)' },
    wrong: { fill: 'none', stroke: 'var(--color-short)' },
  };
  let pixels = $state(340);
  const width = $derived(picture.right - picture.left);
  const height = $derived(picture.top - picture.bottom);
  const tall = $derived(Math.min((height / width) * pixels, 240));
  /** Words keep their size on the screen. */
  const text = $derived(12.5 / Math.min(pixels / width, tall / height));
  const at = ([x, y]: number[]) => `${x! - picture.left},${picture.top - y!}`;
  const points = (ps: number[][]) => ps.map(at).join(' ');
  const told = (label: Schemas['Label']) =>
    [
      label.text,
      label.value != null && label.quantity ? written(label.value, label.quantity, reader.units) : '',
    ]
      .filter(Boolean)
      .join(' ');
</script>

<figure
  class="m-0 mt-3 rounded border border-line bg-sheet px-2 py-2"
  bind:clientWidth={pixels}
  data-testid="step-picture"
>
  <svg
    viewBox={`0 0 ${width} ${height}`}
    class="block w-full"
    style:height={`${tall}px`}
    role="img"
    aria-label={picture.words}
  >
    {#each picture.marks as mark, i (i)}
      {@const ink = INKS[mark.ink]!}
      {#if mark.radius != null}
        {@const [x, y] = at(mark.points[0]!).split(',')}
        <circle cx={x} cy={y} r={mark.radius} fill={ink.fill} stroke={ink.stroke} class="drawn" />
      {:else if mark.closed === false}
        <polyline
          points={points(mark.points)}
          fill="none"
          stroke={ink.stroke}
          stroke-dasharray={mark.ink === 'axis' ? '5 4' : undefined}
          class="drawn"
          class:heavy={mark.ink === 'wrong' || mark.ink === 'right'}
        />
      {:else}
        <polygon points={points(mark.points)} fill={ink.fill} stroke={ink.stroke} class="drawn" />
      {/if}
    {/each}
    {#each picture.labels as label, i (i)}
      <text
        x={label.x - picture.left}
        y={picture.top - label.y}
        font-size={text}
        text-anchor={label.anchor ?? 'start'}
        fill="var(--color-ink)">{told(label)}</text
      >
    {/each}
  </svg>
</figure>

<style>
  .drawn {
    vector-effect: non-scaling-stroke;
    stroke-width: 1.2;
  }
  .heavy {
    stroke-width: 3;
  }
</style>
