<!-- The wiring as the core draws it; every kind of line tells what it is without colour. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import Scrolled from '$lib/ui/Scrolled.svelte';

  let { diagram, shown }: { diagram: Schemas['Diagram']; shown: string | null } = $props();
  const points = (line: Schemas['Line']) =>
    Array.from(
      { length: line.points.length / 2 },
      (_, i) => `${line.points[2 * i]},${line.points[2 * i + 1]}`,
    ).join(' ');
  const lit = $derived(new Set((shown ?? '').split(' ')));
  const tone = (line: Schemas['Line']) =>
    line.warn ? 'var(--color-short)' : lit.has(line.id) ? 'var(--color-acting)' : 'var(--color-ink)';
</script>

<Scrolled
  label="The drawing"
  class="overflow-x-auto rounded border border-line bg-sheet"
  data-testid="wiring-drawing"
>
  <svg
    viewBox={`0 0 ${diagram.width} ${diagram.height}`}
    class="block min-w-[1130px]"
    role="img"
    aria-label={diagram.words}
  >
    {#each diagram.lines as line (line.id)}
      <g data-wire={line.id}>
        {#each line.stripes as stripe, i (i)}
          <polyline
            points={points(line)}
            fill="none"
            stroke={stripe.ink === false ? 'var(--color-sheet)' : tone(line)}
            stroke-width={stripe.width}
            stroke-dasharray={stripe.dash?.join(' ') || undefined}
          />
        {/each}
      </g>
    {/each}
    {#each diagram.boxes as box (box.id)}
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
    {/each}
    {#each diagram.signs ?? [] as sign (sign.text)}
      <text x={sign.x} y={sign.y} font-size="20" font-weight="700" fill="var(--color-ink)">{sign.text}</text>
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
</Scrolled>
<p class="mt-1 flex flex-wrap gap-x-4 text-xs text-ink2" aria-hidden="true">
  {#each diagram.legend ?? [] as word (word)}<span>{word}</span>{/each}
</p>
