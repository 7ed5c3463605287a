<!-- The board to scale in one of its views; shapes, dimensions and clashes are the core's. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { kindName } from '$lib/parts';
  import { formatMessage, shownUnit, toShown, type UnitChoice } from '$lib/units';
  import { scaleLinear } from 'd3-scale';

  interface Props {
    drawing: Schemas['Drawing'];
    units: UnitChoice;
    chosen?: string[];
    /** What the parts are called in this build. */
    names?: Record<string, string>;
    /** Without ruler and dimensions. */
    plain?: boolean;
    /** Called with a part that was clicked or entered. */
    onpart?: (part: string) => void;
  }
  let { drawing, units, chosen = [], names = {}, plain = false, onpart }: Props = $props();
  const uid = $props.id();

  const FILLS: Record<string, string> = {
    deck: 'var(--color-sand)',
    trucks: 'var(--color-line)',
    wheels: 'var(--color-sheet)',
    motors: 'var(--color-line)',
    drive: 'var(--color-paper)',
    pack: 'var(--color-sand)',
    controller: 'var(--color-holds-wash)',
    protection: 'var(--color-unsure-wash)',
    enclosure: 'var(--color-paper)',
    second_enclosure: 'var(--color-paper)',
    risers: 'var(--color-fog)',
    spreaders: 'var(--color-fog)',
    mount: 'var(--color-fog)',
  };
  const usualName = (part: string) => (part === 'drive' ? 'Pulleys and belt' : kindName(part));

  // Text keeps its size on the screen however large the board is drawn.
  let pixels = $state(690);
  let tall = $state(180);
  const height = $derived(drawing.top - drawing.bottom);
  const bare = $derived(drawing.right - drawing.left);
  const perPixel = (across: number) =>
    1 / Math.min(Math.max(pixels, 150) / across, Math.max(tall, 60) / height);
  // Room for what stands written beside upright dimensions, however small the drawing.
  const LABEL = 84;
  const room = $derived.by(() => {
    const upright = plain ? [] : drawing.dimensions.filter((d) => Math.abs(d.start.x - d.end.x) < 1);
    const needed = LABEL * perPixel(bare) * 1.25;
    const ends = upright.map((d) => d.start.x);
    const right = ends.filter((e) => e > drawing.left + bare * 0.8).map((e) => e + needed - drawing.right);
    const left = ends.filter((e) => e < drawing.left + bare * 0.2).map((e) => drawing.left - (e - needed));
    return { left: Math.max(0, ...left), right: Math.max(0, ...right) };
  });
  const width = $derived(bare + room.left + room.right);
  const text = $derived(perPixel(width));
  // y grows upwards on the bench and downwards on the screen.
  const y = (mm: number) => drawing.top - mm;
  const x = (mm: number) => mm - drawing.left + room.left;
  const outline = (points: { x: number; y: number }[]) => points.map((p) => `${x(p.x)},${y(p.y)}`).join(' ');
  const along = $derived(drawing.view === 'side' || drawing.view === 'under');
  const ruler = $derived.by(() => {
    if (plain || !along) return [];
    const { unit, how } = shownUnit('length', units);
    const most = toShown(drawing.right - 30, 'length', units);
    const marks = scaleLinear()
      .domain([0, most])
      .ticks(pixels > 500 ? 10 : 5);
    return marks.map((m) => ({ at: m * how.factor, text: m === 0 ? unit : String(m) }));
  });

  const parts = $derived([...new Set(drawing.shapes.map((s) => s.part))]);
  let named = $state<string | null>(null);
  const nameOf = (part: string) => names[part] ?? usualName(part);

  function onkeydown(event: KeyboardEvent): void {
    const at = named ? parts.indexOf(named as (typeof parts)[number]) : -1;
    if (event.key === 'ArrowRight') named = parts[(at + 1) % parts.length]!;
    else if (event.key === 'ArrowLeft') named = parts[(at - 1 + parts.length) % parts.length]!;
    else if (event.key === 'Enter' && named) onpart?.(named);
    else if (event.key === 'Escape') named = null;
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  const words = $derived(
    [
      drawing.description,
      ...new Set(drawing.clashes.map((c) => `Collides: ${formatMessage(c.message, units)}.`)),
    ].join(' '),
  );
</script>

<div class="relative h-full w-full" bind:clientWidth={pixels} bind:clientHeight={tall}>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <svg
    viewBox={`0 0 ${width} ${height}`}
    class="block h-full w-full"
    role="img"
    aria-label={words}
    tabindex={plain ? undefined : 0}
    preserveAspectRatio="xMidYMid meet"
    onkeydown={plain ? undefined : onkeydown}
    onblur={() => (named = null)}
  >
    <defs>
      <marker
        id={`${uid}-arrow`}
        viewBox="0 0 8 8"
        refX="4"
        refY="4"
        markerWidth="7"
        markerHeight="7"
        orient="auto-start-reverse"
      >
        <path d="M1,1 L4,4 L1,7" fill="none" stroke="var(--color-ink2)" />
      </marker>
      <pattern
        id={`${uid}-hatch`}
        width={text * 6}
        height={text * 6}
        patternTransform="rotate(45)"
        patternUnits="userSpaceOnUse"
      >
        <rect width={text * 6} height={text * 6} fill="var(--color-short-wash)" fill-opacity="0.6" />
        <line x1="0" y1="0" x2="0" y2={text * 6} stroke="var(--color-short)" stroke-width={text * 2.4} />
      </pattern>
    </defs>
    {#each ruler as mark (mark.at)}
      <line
        x1={x(mark.at)}
        x2={x(mark.at)}
        y1="6"
        y2={drawing.ground ? y(0) : height - 14}
        stroke="var(--color-line)"
        stroke-width="0.8"
      />
      <text x={x(mark.at) + 3} y={height - 8} font-size={text * 12} fill="var(--color-ink2)">{mark.text}</text
      >
    {/each}
    {#if drawing.ground}
      <line x1="0" x2={width} y1={y(0)} y2={y(0)} stroke="var(--color-ink)" stroke-width={text * 1.3} />
    {/if}
    {#each drawing.shapes as shape, i (i)}
      {@const lit = named ? named === shape.part : chosen.includes(shape.part)}
      {@const stroke = lit ? 'var(--color-acting)' : 'var(--color-ink)'}
      {@const hollow = shape.role === 'outline' || shape.role === 'belt' || shape.role === 'turned'}
      {@const fill = hollow ? 'none' : (FILLS[shape.part] ?? 'none')}
      <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
      <g
        stroke-dasharray={shape.guessed || shape.role === 'turned' ? `${text * 4} ${text * 3}` : undefined}
        {stroke}
        stroke-width={text * (lit ? 2 : shape.role === 'inside' || shape.role === 'turned' ? 0.7 : 1.15)}
        stroke-opacity={shape.role === 'turned' && !lit ? 0.7 : 1}
        pointer-events={plain ? 'none' : hollow ? 'stroke' : 'all'}
        class:cursor-pointer={Boolean(onpart)}
        onpointerenter={plain ? undefined : () => (named = shape.part)}
        onpointerleave={plain ? undefined : () => (named = null)}
        onclick={onpart ? () => onpart?.(shape.part) : undefined}
        data-part={shape.part}
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
    {#each drawing.clashes as clash, i (i)}
      <polygon
        points={outline(clash.points)}
        fill={`url(#${uid}-hatch)`}
        stroke="var(--color-short)"
        stroke-width={text * 1.6}
        pointer-events="none"
        data-clash={clash.message.text}
      />
    {/each}
    {#each plain ? [] : drawing.dimensions as d, i (i)}
      {@const [ax, ay] = [x(d.start.x), y(d.start.y)]}
      {@const [bx, by] = [x(d.end.x), y(d.end.y)]}
      {@const level = Math.abs(ay - by) < 1}
      {@const upright = Math.abs(ax - bx) < 1}
      {@const outside = upright && d.start.x > drawing.left + bare * 0.8}
      <g pointer-events="none">
        <line
          x1={ax}
          y1={ay}
          x2={bx}
          y2={by}
          stroke="var(--color-ink2)"
          stroke-width={text * 0.9}
          marker-start={`url(#${uid}-arrow)`}
          marker-end={`url(#${uid}-arrow)`}
        />
        <text
          x={upright ? ax + text * (outside ? 6 : -6) : (ax + bx) / 2}
          y={level ? ay - text * 4 : (ay + by) / 2 + (upright ? text * 4 : -text * 8)}
          text-anchor={outside ? 'start' : upright ? 'end' : 'middle'}
          font-size={text * 12}
          fill="var(--color-ink)"
          stroke="var(--color-sheet)"
          stroke-width={text * 4}
          paint-order="stroke">{formatMessage(d.message, units)}</text
        >
      </g>
    {/each}
  </svg>
  {#if !plain}
    <p
      class="pointer-events-none absolute top-0 left-0 m-0 rounded-br bg-sheet/90 pr-2 text-sm"
      aria-live="polite"
      data-testid="part-name"
    >
      {#if named}<span class="font-semibold">{nameOf(named)}</span>
      {:else if drawing.clashes.length}
        <span class="text-short max-sm:hidden"
          >{[...new Set(drawing.clashes.map((c) => formatMessage(c.message, units)))].join('; ')}</span
        >
      {/if}
    </p>
  {/if}
</div>
