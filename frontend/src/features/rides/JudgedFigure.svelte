<!-- A measured figure beside what was expected of that day, and what would explain it. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import BandRuler from '$lib/charts/BandRuler.svelte';
  import { reader } from '$lib/reader.svelte';
  import { written } from '$lib/units';

  let { figure }: { figure: Schemas['FigureJudged'] } = $props();
  const say = (v: number) => written(v, figure.quantity, reader.units);
  const off = $derived(Math.round(Math.abs(figure.off_pct)));
  const word = $derived(
    figure.inside
      ? 'as expected'
      : figure.what === 'end_v'
        ? `outside: ${off} % ${figure.off_pct > 0 ? 'more' : 'less'} taken`
        : `outside, ${off} % ${figure.off_pct > 0 ? 'over' : 'under'} the middle`,
  );
</script>

<div
  class="grid gap-x-4 border-b border-line py-2 sm:grid-cols-[11rem_minmax(0,1fr)]"
  data-testid="judged-figure"
  data-what={figure.what}
  data-inside={figure.inside}
>
  <p class="leading-tight">
    {figure.title}
    <b class="block text-lg">{say(figure.measured)}</b>
    <span class={['block text-sm', figure.inside ? 'text-holds' : 'text-short']}
      >{figure.inside ? '✓' : '✕'} {word}</span
    >
  </p>
  <div class="min-w-0">
    <BandRuler
      bands={[{ ...figure, tone: figure.inside ? 'holds' : 'short' }]}
      quantity={figure.quantity}
      mark={figure.measured}
      label={`${figure.title}, expected`}
    />
    <p class="text-sm text-ink2">
      Expected {say(figure.low)} to {say(figure.high)}.
      {#if !figure.inside && figure.because?.length}
        It would fit with {figure.because
          .map((b) => `${b.words} (${Math.round(b.share * 100)} %)`)
          .join(', ')}.
      {/if}
      {#if figure.contradicts}<b class="text-short">It contradicts the other rides and counts for little.</b
        >{/if}
    </p>
  </div>
</div>
