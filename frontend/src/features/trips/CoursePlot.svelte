<!-- The charge along the route with its band: where it is charged, where the reserve begins, where walking would. -->
<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import { area, line } from 'd3-shape';
  import Axis from '$lib/ui/Axis.svelte';
  import { reader } from '$lib/reader.svelte';
  import { shownUnit, toShown } from '$lib/units';
  import { clock, type TripReport } from './trips.svelte';

  let { report, reserve }: { report: TripReport; reserve: number } = $props();
  let across = $state(0);
  const width = $derived(Math.max(across || 560, 300));
  const HEIGHT = 220;
  const TONE = {
    likely: 'var(--color-holds)',
    uncertain: 'var(--color-unsure)',
    unlikely: 'var(--color-short)',
  } as const;
  const PAD = { left: 38, right: 16, top: 26, bottom: 30 };
  const course = $derived(report.course!);
  const km = (v: number) => toShown(v, 'distance', reader.units);
  const x = $derived(
    scaleLinear()
      .domain([0, km(report.km ?? 0)])
      .range([PAD.left, width - PAD.right]),
  );
  const y = scaleLinear()
    .domain([0, 100])
    .range([HEIGHT - PAD.bottom, PAD.top]);
  type Node = { km: number; low: number; mid: number; high: number };
  /** The course with the points set in, so that a charge stands upright. */
  const nodes = $derived.by(() => {
    const found: Node[] = course.km.map((k, i) => ({
      km: k,
      low: course.low[i]!,
      mid: course.mid[i]!,
      high: course.high[i]!,
    }));
    for (const p of report.points ?? []) {
      found.push({ km: p.km, ...p.charge });
      if (p.leaves_pct) found.push({ km: p.km + 1e-6, ...p.leaves_pct });
    }
    return found.sort((a, b) => a.km - b.km);
  });
  const band = $derived(
    area<Node>()
      .x((n) => x(km(n.km)))
      .y0((n) => y(n.low))
      .y1((n) => y(n.high))(nodes),
  );
  const middle = $derived(
    line<Node>()
      .x((n) => x(km(n.km)))
      .y((n) => y(n.mid))(nodes),
  );
</script>

<div bind:clientWidth={across} class="min-w-0" data-testid="course">
  <svg
    {width}
    height={HEIGHT}
    class="block max-w-full"
    role="img"
    aria-label={`Charge along ${Math.round(report.km ?? 0)} km, with its range.`}
  >
    <Axis scale={y} side="left" at={PAD.left} across={width - PAD.right} ticks={5} />
    <Axis scale={x} side="bottom" at={HEIGHT - PAD.bottom} ticks={Math.max(width / 90, 3)} />
    <text x={width - PAD.right} y={HEIGHT - 2} font-size="12" text-anchor="end" fill="var(--color-ink2)"
      >{shownUnit('distance', reader.units).unit}</text
    >
    <text x={PAD.left} y="11" font-size="12" fill="var(--color-ink)">Charge, %</text>
    <rect
      x={PAD.left}
      width={width - PAD.left - PAD.right}
      y={y(reserve)}
      height={y(0) - y(reserve)}
      fill="var(--color-short-wash)"
      opacity="0.6"
    />
    <path d={band} fill="var(--color-holds-wash)" stroke="none" />
    <path d={middle} fill="none" stroke="var(--color-holds)" stroke-width="2" />
    {#each report.turn_back ?? [] as t (t.from_km)}
      {#if t.latest_km != null && t.latest_km < t.to_km - 0.05}
        <path d={`M ${x(km(t.latest_km))} ${y(0)} l -5 8 h 10 z`} fill="var(--color-unsure)" />
        <line
          x1={x(km(t.latest_km))}
          x2={x(km(t.latest_km))}
          y1={PAD.top}
          y2={y(0)}
          stroke="var(--color-unsure)"
          stroke-dasharray="3 3"
        />
      {/if}
    {/each}
    {#each report.points ?? [] as p, i (i)}
      {#if i}
        <line
          x1={x(km(p.km))}
          x2={x(km(p.km))}
          y1={PAD.top}
          y2={y(0)}
          stroke="var(--color-rule)"
          stroke-dasharray="1 3"
        />
        <circle cx={x(km(p.km))} cy={y(p.charge.mid)} r="4" fill={TONE[p.likelihood]} />
        <text
          x={Math.min(x(km(p.km)), width - 20)}
          y={PAD.top - 4}
          font-size="12"
          text-anchor="middle"
          fill="var(--color-ink2)">{clock(p.clock.mid)}</text
        >
      {/if}
    {/each}
  </svg>
</div>
