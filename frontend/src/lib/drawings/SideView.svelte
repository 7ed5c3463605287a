<!-- The board from the side, to scale; shapes and dimensions are the core's. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { spoken, shownUnit, toShown, type UnitChoice } from '$lib/units';
  import { scaleLinear } from 'd3-scale';

  interface Props {
    drawing: Schemas['Drawing'];
    units: UnitChoice;
    chosen?: string[];
    /** Without ruler and dimensions. */
    plain?: boolean;
  }
  let { drawing, units, chosen = [], plain = false }: Props = $props();

  const FILLS: Record<string, string> = {
    deck: 'var(--color-sand)',
    trucks: 'var(--color-line)',
    wheels: 'var(--color-sheet)',
    motors: 'var(--color-line)',
    pack: 'var(--color-sand)',
    controller: 'var(--color-holds-wash)',
    enclosure: 'var(--color-paper)',
    risers: 'var(--color-fog)',
  };

  // Text keeps its size on the screen however large the board is drawn.
  let pixels = $state(690);
  const text = $derived((drawing.right - drawing.left) / Math.max(pixels, 200));
  const width = $derived(drawing.right - drawing.left);
  const height = $derived(drawing.top - drawing.bottom);
  // y grows upwards on the bench and downwards on the screen.
  const y = (mm: number) => drawing.top - mm;
  const x = (mm: number) => mm - drawing.left;
  const outline = (points: { x: number; y: number }[]) => points.map((p) => `${x(p.x)},${y(p.y)}`).join(' ');
  const ruler = $derived.by(() => {
    const { unit, how } = shownUnit('length', units);
    const most = toShown(drawing.right - 30, 'length', units);
    const marks = scaleLinear()
      .domain([0, most])
      .ticks(pixels > 500 ? 10 : 5);
    return marks.map((m) => ({ at: m * how.factor, text: m === 0 ? unit : String(m) }));
  });
</script>

<div class="h-full w-full" bind:clientWidth={pixels}>
  <svg
    viewBox={`0 0 ${width} ${height}`}
    class="block h-full w-full"
    role="img"
    aria-label={drawing.description}
    preserveAspectRatio="xMidYMid meet"
  >
    <defs>
      <marker
        id="arrow"
        viewBox="0 0 8 8"
        refX="4"
        refY="4"
        markerWidth="7"
        markerHeight="7"
        orient="auto-start-reverse"
      >
        <path d="M1,1 L4,4 L1,7" fill="none" stroke="var(--color-ink2)" />
      </marker>
    </defs>
    {#each plain ? [] : ruler as mark (mark.at)}
      <line x1={x(mark.at)} x2={x(mark.at)} y1="6" y2={y(0)} stroke="var(--color-line)" stroke-width="0.8" />
      <text x={x(mark.at) + 3} y={height - 8} font-size={text * 10} fill="var(--color-ink2)">{mark.text}</text
      >
    {/each}
    <line x1="0" x2={width} y1={y(0)} y2={y(0)} stroke="var(--color-ink)" stroke-width="1.5" />
    {#each drawing.shapes as shape, i (i)}
      {@const lit = chosen.includes(shape.part)}
      {@const stroke = lit ? 'var(--color-acting)' : 'var(--color-ink)'}
      {@const fill =
        shape.role === 'outline' || shape.role === 'belt' ? 'none' : (FILLS[shape.part] ?? 'none')}
      <g
        stroke-dasharray={shape.guessed ? '5 4' : undefined}
        {stroke}
        stroke-width={lit ? 2.6 : shape.role === 'inside' ? 0.9 : 1.5}
      >
        {#if shape.radius != null}
          <circle
            cx={x(shape.points[0]!.x)}
            cy={y(shape.points[0]!.y)}
            r={shape.radius}
            {fill}
            fill-opacity={shape.guessed ? 0.35 : 1}
          />
        {:else if shape.closed}
          <polygon
            points={outline(shape.points)}
            {fill}
            fill-opacity={shape.guessed ? 0.35 : 1}
            stroke-linejoin="round"
          />
        {:else}
          <polyline points={outline(shape.points)} fill="none" />
        {/if}
      </g>
    {/each}
    {#each plain ? [] : drawing.dimensions as d, i (i)}
      {@const [ax, ay] = [x(d.start.x), y(d.start.y)]}
      {@const [bx, by] = [x(d.end.x), y(d.end.y)]}
      {@const level = Math.abs(ay - by) < 1}
      <line
        x1={ax}
        y1={ay}
        x2={bx}
        y2={by}
        stroke="var(--color-ink2)"
        stroke-width="1.1"
        marker-start="url(#arrow)"
        marker-end="url(#arrow)"
      />
      <text
        x={level ? (ax + bx) / 2 : ax - 8}
        y={level ? ay - text * 5 : (ay + by) / 2 + 5}
        text-anchor={level ? 'middle' : 'end'}
        font-size={text * 12}
        fill="var(--color-ink)"
        stroke="var(--color-sheet)"
        stroke-width={text * 4}
        paint-order="stroke">{spoken(d.saying, units)}</text
      >
    {/each}
  </svg>
</div>
