<!-- A figure: lines with bands over named axes, values under the pointer, words for it, SVG and CSV to take away. -->
<script lang="ts">
  import Axis from '$lib/ui/Axis.svelte';
  import { reader } from '$lib/reader.svelte';
  import { scaleLinear } from 'd3-scale';
  import { area, line } from 'd3-shape';
  import type { Curve } from '$lib/api/client';
  import { svgText, download } from '$lib/download';
  import { shownUnit, toShown } from '$lib/units';

  interface Props {
    plot: Curve;
    name: string;
    /** Where the upright axis begins, in the build file's unit, where that is not at nothing. */
    floor?: number;
  }
  let { plot, name, floor = 0 }: Props = $props();

  // As many units as pixels, so that text keeps its size on a phone.
  let pixels = $state(560);
  const WIDTH = $derived(Math.min(Math.max(pixels, 300), 720));
  const HEIGHT = $derived(Math.max(Math.round(WIDTH * 0.53), 230));
  const PAD = { left: 46, right: 14, top: 26, bottom: 38 };
  const STYLES: Record<string, { stroke: string; fill: string; dash?: string }> = {
    can: { stroke: 'var(--color-holds)', fill: 'var(--color-holds-wash)' },
    second: { stroke: 'var(--color-acting)', fill: 'var(--color-chosen)' },
    first: { stroke: 'var(--color-holds)', fill: 'var(--color-holds-wash)' },
    'second-board': { stroke: 'var(--color-acting)', fill: 'var(--color-chosen)', dash: '7 3' },
    third: { stroke: 'var(--color-wet)', fill: 'var(--color-sand)', dash: '2 3' },
    fourth: { stroke: 'var(--color-short)', fill: 'var(--color-short-wash)', dash: '9 3 2 3' },
    need: { stroke: 'var(--color-ink2)', fill: 'none', dash: '1 0' },
    hill: { stroke: 'var(--color-short)', fill: 'none' },
    wind: { stroke: 'var(--color-unsure)', fill: 'none', dash: '5 3' },
    limit: { stroke: 'var(--color-short)', fill: 'none', dash: '3 3' },
  };

  let svg = $state<SVGSVGElement>();
  let hovered = $state<number | null>(null);

  /** Bands of several boards lie over each other and must let each other through. */
  const overlaid = $derived(plot.lines.filter((l) => l.low).length > 2);
  const xUnit = $derived(shownUnit(plot.x_quantity, reader.units).unit);
  const yUnit = $derived(shownUnit(plot.y_quantity, reader.units).unit);
  const lines = $derived(
    plot.lines.map((l) => ({
      ...l,
      x: l.x.map((v) => toShown(v, plot.x_quantity, reader.units)),
      mid: l.mid.map((v) => toShown(v, plot.y_quantity, reader.units)),
      low: l.low?.map((v) => toShown(v, plot.y_quantity, reader.units)),
      high: l.high?.map((v) => toShown(v, plot.y_quantity, reader.units)),
    })),
  );
  const xEnd = $derived(Math.max(...lines.flatMap((l) => l.x)));
  const xStart = $derived(Math.min(...lines.flatMap((l) => l.x)));
  const yFrom = $derived(floor ? toShown(floor, plot.y_quantity, reader.units) : 0);
  const yTop = $derived(Math.max(...lines.flatMap((l) => l.high ?? l.mid)));
  const x = $derived(
    scaleLinear()
      .domain([Math.min(xStart, 0), xEnd])
      .range([PAD.left, WIDTH - PAD.right]),
  );
  const y = $derived(
    scaleLinear()
      .domain([yFrom, yTop + (yTop - yFrom) * 0.06])
      .nice()
      .range([HEIGHT - PAD.bottom, PAD.top]),
  );

  const path = (l: (typeof lines)[number]) =>
    line<number>(
      (_, i) => x(l.x[i]!),
      (v) => y(v),
    )(l.mid) ?? '';
  // Names at the lines' ends, pushed apart where two lines end close together.
  const LABEL = 14;
  const labelY = $derived.by(() => {
    const placed: Record<string, number> = {};
    let above = HEIGHT - PAD.bottom - 4 + LABEL;
    const named = lines.filter((l) => l.short).map((l) => ({ name: l.name, y: y(l.mid.at(-1)!) - 5 }));
    for (const { name, y } of named.sort((a, b) => b.y - a.y)) {
      above = placed[name] = Math.min(y, above - LABEL);
    }
    return placed;
  });
  const bandOf = (l: (typeof lines)[number]) =>
    l.low && l.high
      ? (area<number>(
          (_, i) => x(l.x[i]!),
          (_, i) => y(l.low![i]!),
          (v) => y(v),
        )(l.high) ?? '')
      : '';

  const at = (l: (typeof lines)[number], where: number) => {
    const i = l.x.findIndex((v) => v >= where);
    if (i <= 0) return i === 0 ? l.mid[0]! : l.mid.at(-1)!;
    const part = (where - l.x[i - 1]!) / (l.x[i]! - l.x[i - 1]! || 1);
    return l.mid[i - 1]! + part * (l.mid[i]! - l.mid[i - 1]!);
  };
  const short = (v: number) => Number(v.toPrecision(3)).toLocaleString('en');

  function point(event: PointerEvent): void {
    const box = svg!.getBoundingClientRect();
    const where = x.invert(((event.clientX - box.left) / box.width) * WIDTH);
    hovered = Math.min(Math.max(where, x.domain()[0]!), x.domain()[1]!);
  }
  function onkeydown(event: KeyboardEvent): void {
    const [start, end] = x.domain() as [number, number];
    const step = ((end - start) / 40) * (event.key === 'ArrowLeft' ? -1 : 1);
    if (event.key !== 'ArrowLeft' && event.key !== 'ArrowRight') return;
    event.preventDefault();
    hovered = Math.min(Math.max((hovered ?? start) + step, start), end);
  }

  const fileName = (ending: string) => `${name}-${plot.id}.${ending}`;
  const asSvg = () => download(svgText(svg!, WIDTH, HEIGHT), 'image/svg+xml', fileName('svg'));
  function asCsv(): void {
    const head = ['line', `${plot.x_title} (${xUnit})`, `${plot.y_title} (${yUnit})`, 'low', 'high'];
    const rows = lines.flatMap((l) =>
      l.x.map((v, i) => [l.name, v, l.mid[i], l.low?.[i] ?? '', l.high?.[i] ?? '']),
    );
    const cell = (v: unknown) =>
      typeof v === 'number' ? String(Number(v.toFixed(4))) : `"${String(v).replaceAll('"', '""')}"`;
    download(
      [head, ...rows].map((r) => r.map(cell).join(',')).join('\r\n') + '\r\n',
      'text/csv',
      fileName('csv'),
    );
  }
</script>

<figure class="m-0" data-testid={`plot-${plot.id}`}>
  <div class="flex items-baseline gap-3">
    <h2 class="text-base">{plot.title}</h2>
    <span class="ml-auto flex gap-3 text-sm">
      <button class="link" onclick={asSvg} aria-label={`${plot.title} as SVG`}>SVG</button>
      <button class="link" onclick={asCsv} aria-label={`${plot.title} as CSV`}>CSV</button>
    </span>
  </div>
  <div class="mt-1 rounded border border-line bg-sheet" bind:clientWidth={pixels}>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
    <svg
      bind:this={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      class="block w-full touch-pan-y"
      role="img"
      aria-label={`${plot.title}. ${plot.text}`}
      tabindex="0"
      onpointermove={point}
      onpointerleave={() => (hovered = null)}
      {onkeydown}
      onblur={() => (hovered = null)}
    >
      <Axis scale={y} side="left" at={PAD.left} across={WIDTH - PAD.right} ticks={5} />
      <Axis
        scale={x}
        side="bottom"
        at={HEIGHT - PAD.bottom}
        reach={4}
        drawn
        ticks={WIDTH > 450 ? 8 : 5}
        ink="var(--color-ink)"
      />
      <text x={WIDTH - PAD.right} y={HEIGHT - 4} text-anchor="end" font-size="12" fill="var(--color-ink)"
        >{plot.x_title}, {xUnit}</text
      >
      <text x="8" y="15" font-size="12" fill="var(--color-ink)">{plot.y_title}, {yUnit}</text>
      {#each plot.marks as m (m.name)}
        {@const mx = x(toShown(m.x, plot.x_quantity, reader.units))}
        {#if mx <= WIDTH - PAD.right + 1}
          <line
            x1={mx}
            x2={mx}
            y1={PAD.top}
            y2={HEIGHT - PAD.bottom}
            stroke="var(--color-ink)"
            stroke-width="1"
            stroke-dasharray="2 3"
          />
          <text
            x={mx > WIDTH / 2 ? mx - 4 : mx + 4}
            y={HEIGHT - PAD.bottom - 6}
            text-anchor={mx > WIDTH / 2 ? 'end' : 'start'}
            font-size="12"
            font-style="italic"
            fill="var(--color-ink2)"
            stroke="var(--color-sheet)"
            stroke-width="3"
            paint-order="stroke">{m.name}</text
          >
        {/if}
      {/each}
      {#each lines as l (l.name)}
        {@const style = STYLES[l.role] ?? STYLES.need!}
        {#if l.low}<path d={bandOf(l)} fill={style.fill} opacity={overlaid ? 0.35 : 0.7} />{/if}
      {/each}
      {#each lines as l (l.name)}
        {@const style = STYLES[l.role] ?? STYLES.need!}
        <path
          d={path(l)}
          fill="none"
          stroke={style.stroke}
          stroke-width={l.low ? 2.4 : 1.5}
          stroke-dasharray={style.dash}
        />
      {/each}
      {#each lines as l (l.name)}
        {#if l.short}
          <text
            x={x(l.x.at(-1)!) - 4}
            y={labelY[l.name]}
            text-anchor="end"
            font-size="12"
            fill={(STYLES[l.role] ?? STYLES.need!).stroke}
            stroke="var(--color-sheet)"
            stroke-width="3"
            paint-order="stroke">{l.short}</text
          >
        {/if}
      {/each}
      {#if hovered !== null}
        <g data-pointer pointer-events="none">
          <line
            x1={x(hovered)}
            x2={x(hovered)}
            y1={PAD.top}
            y2={HEIGHT - PAD.bottom}
            stroke="var(--color-acting)"
          />
          {#each lines as l (l.name)}
            <circle
              cx={x(hovered)}
              cy={y(at(l, hovered))}
              r="3"
              fill={(STYLES[l.role] ?? STYLES.need!).stroke}
            />
          {/each}
        </g>
      {/if}
    </svg>
    <ul class="m-0 flex list-none flex-wrap gap-x-4 gap-y-0.5 px-3 pb-2 text-sm">
      {#if hovered !== null}
        <li class="font-semibold">{short(hovered)} {xUnit}</li>
      {/if}
      {#each lines as l (l.name)}
        {@const style = STYLES[l.role] ?? STYLES.need!}
        <li class="flex items-center gap-1.5">
          <svg width="18" height="6" aria-hidden="true"
            ><line
              x1="0"
              x2="18"
              y1="3"
              y2="3"
              stroke={style.stroke}
              stroke-width={l.low ? 3 : 1.6}
              stroke-dasharray={style.dash}
            /></svg
          >
          {l.name}{#if hovered !== null}<span class="font-semibold">{short(at(l, hovered))} {yUnit}</span
            >{/if}
        </li>
      {/each}
    </ul>
  </div>
  <figcaption class="remark mt-1 text-sm">{plot.text}</figcaption>
</figure>
