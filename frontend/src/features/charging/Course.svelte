<!-- A charge over its minutes: the highest and the lowest group with all between them, and the current beneath. -->
<script lang="ts">
  import { scaleLinear } from 'd3-scale';
  import { area, line } from 'd3-shape';
  import Axis from '$lib/ui/Axis.svelte';
  import type { Schemas } from '$lib/api/client';
  import { hoursOf } from './clock';

  let { charge }: { charge: Schemas['MonitoredCharge'] } = $props();
  let pixels = $state(560);
  const W = $derived(Math.max(pixels, 280));
  const H = 190;
  const PAD = { left: 44, right: 46, top: 12, bottom: 24 };
  const seen = $derived(
    charge.looks
      .map((l) => {
        const volts = (l.groups_v ?? []).filter((v): v is number => v != null);
        return {
          minute: l.minute,
          low: Math.min(...volts),
          high: Math.max(...volts),
          any: volts.length > 0,
          a: l.current_a,
        };
      })
      .filter((l) => l.any),
  );
  const last = $derived(Math.max(...charge.looks.map((l) => l.minute), 1));
  const x = $derived(
    scaleLinear()
      .domain([0, last])
      .range([PAD.left, W - PAD.right]),
  );
  const low = $derived(Math.min(...seen.map((l) => l.low)));
  const y = $derived(
    scaleLinear()
      .domain([Math.min(low - 0.05, charge.ceiling_v - 0.3), charge.ceiling_v + 0.08])
      .range([H - PAD.bottom, PAD.top]),
  );
  const most = $derived(Math.max(...charge.looks.map((l) => l.current_a ?? 0), 0.5));
  const amps = $derived(
    scaleLinear()
      .domain([0, most * 1.1])
      .range([H - PAD.bottom, PAD.top]),
  );
  const band = $derived(
    area<(typeof seen)[number]>()
      .x((l) => x(l.minute))
      .y0((l) => y(l.low))
      .y1((l) => y(l.high))(seen) ?? '',
  );
  const current = $derived(
    line<Schemas['Look']>()
      .x((l) => x(l.minute))
      .y((l) => amps(l.current_a ?? 0))(charge.looks.filter((l) => l.current_a != null)) ?? '',
  );
  const top = $derived(
    line<(typeof seen)[number]>()
      .x((l) => x(l.minute))
      .y((l) => y(l.high))(seen) ?? '',
  );
</script>

{#if seen.length > 1}
  <div bind:clientWidth={pixels} class="mt-2">
    <svg
      viewBox={`0 0 ${W} ${H}`}
      class="block w-full"
      role="img"
      aria-label={`Groups from ${seen[0]!.low.toFixed(2)} to ${seen.at(-1)!.high.toFixed(2)} V in ${hoursOf(last)}; set to end at ${charge.ceiling_v.toFixed(2)} V.`}
    >
      <Axis
        scale={y}
        side="left"
        at={PAD.left}
        across={W - PAD.right}
        ticks={4}
        text={(v) => `${v.toFixed(1)} V`}
      />
      <line
        x1={PAD.left}
        x2={W - PAD.right}
        y1={y(charge.ceiling_v)}
        y2={y(charge.ceiling_v)}
        stroke="var(--color-ink)"
        stroke-dasharray="5 3"
      />
      <path d={band} fill="var(--color-holds-wash)" />
      <path d={top} fill="none" stroke="var(--color-holds)" stroke-width="2" />
      {#each seen as l (l.minute)}
        <line
          x1={x(l.minute)}
          x2={x(l.minute)}
          y1={y(l.low)}
          y2={y(l.high)}
          stroke="var(--color-holds)"
          stroke-width="3"
        />
      {/each}
      <path d={current} fill="none" stroke="var(--color-wet)" stroke-width="1.6" stroke-dasharray="6 3" />
      <Axis scale={amps} side="right" at={W - PAD.right} ticks={3} text={(v) => `${v} A`} />
      <Axis
        scale={x}
        side="bottom"
        at={H - PAD.bottom}
        ticks={Math.min(6, Math.floor(W / 90))}
        text={(v) => `${v} min`}
      />
    </svg>
  </div>
  <p class="text-xs text-ink2">
    Green: from the lowest to the highest group. Dashed: the current. Line: the end voltage.
  </p>
{/if}
