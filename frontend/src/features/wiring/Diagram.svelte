<!-- The wiring as the core draws it; every kind of line tells what it is without colour. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';

  let { diagram, shown }: { diagram: Schemas['Diagram']; shown: string | null } = $props();
  const WIDTHS = {
    thick: 5,
    hollow: 5,
    three: 6,
    thin: 2,
    thin_hollow: 3,
    dotted: 1.6,
    dashed: 1.4,
  } as const;
  const CORES = { hollow: 2.6, thin_hollow: 1.2, three: 3.6 } as Record<string, number>;
  const DASHES = { dotted: '1.5 4', dashed: '7 4' } as Record<string, string>;
  const points = (line: Schemas['Line']) =>
    Array.from(
      { length: line.points.length / 2 },
      (_, i) => `${line.points[2 * i]},${line.points[2 * i + 1]}`,
    ).join(' ');
  const lit = $derived(new Set((shown ?? '').split(' ')));
  const tone = (line: Schemas['Line']) =>
    line.warn ? 'var(--color-short)' : lit.has(line.id) ? 'var(--color-acting)' : 'var(--color-ink)';
</script>

<!-- Wider than a phone it is scrolled, by the keyboard too. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="overflow-x-auto rounded border border-line bg-sheet"
  data-testid="wiring-drawing"
  role="region"
  aria-label="The drawing"
  tabindex="0"
>
  <svg
    viewBox={`0 0 ${diagram.width} ${diagram.height}`}
    class="block min-w-[1130px]"
    role="img"
    aria-label={diagram.words}
  >
    {#each diagram.lines as line (line.id)}
      <g data-wire={line.id}>
        <polyline
          points={points(line)}
          fill="none"
          stroke={tone(line)}
          stroke-width={WIDTHS[line.stroke]}
          stroke-dasharray={DASHES[line.stroke]}
        />
        {#if CORES[line.stroke]}
          <polyline
            points={points(line)}
            fill="none"
            stroke="var(--color-sheet)"
            stroke-width={CORES[line.stroke]}
          />
          {#if line.stroke === 'three'}
            <polyline points={points(line)} fill="none" stroke={tone(line)} stroke-width="1.2" />
          {/if}
        {/if}
      </g>
    {/each}
    {#each diagram.boxes as box (box.id)}
      <g>
        <rect
          x={box.x}
          y={box.y}
          width={box.width}
          height={box.height}
          rx="3"
          fill="var(--color-paper)"
          stroke="var(--color-ink)"
          stroke-width="1.4"
        />
        <text x={box.x + 8} y={box.y + 19} font-size="14" font-weight="650" fill="var(--color-ink)"
          >{box.title}</text
        >
        {#each box.lines as text, i (i)}
          <text x={box.x + 8} y={box.y + 36 + 16 * i} font-size="13" fill="var(--color-ink2)">{text}</text>
        {/each}
        {#if box.id === 'pack'}
          <text x={box.x + box.width - 20} y="77" font-size="20" font-weight="700" fill="var(--color-ink)"
            >+</text
          >
          <text x={box.x + box.width - 20} y="337" font-size="20" font-weight="700" fill="var(--color-ink)"
            >−</text
          >
        {/if}
      </g>
    {/each}
    {#each diagram.lines as line (line.id)}
      {#each line.label as text, i (i)}
        <text
          x={line.at[0]}
          y={line.at[1]! + 14 * i}
          font-size="13"
          fill={line.warn ? 'var(--color-short)' : 'var(--color-ink)'}
          stroke="var(--color-sheet)"
          stroke-width="3"
          paint-order="stroke">{text}</text
        >
      {/each}
    {/each}
  </svg>
</div>
<p class="mt-1 flex flex-wrap gap-x-4 text-xs text-ink2" aria-hidden="true">
  <span>thick: plus</span><span>hollow: minus</span><span>threefold: phases</span><span
    >thin: charging, lights</span
  ><span>dotted: balance</span><span>dashed: signals</span>
</p>
