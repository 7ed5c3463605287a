<!-- How sure an outcome is: the chance that the brief is kept, the other answers, whose doubt it is, and what would shrink it. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import type { Prediction, Outcome } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { written } from '$lib/units';
  import type { Design } from './design.svelte';
  import Whose from './Whose.svelte';

  interface Props {
    design: Design;
    outcome: Outcome;
    prediction: Prediction;
    goToField: (path: string) => void;
    why: () => void;
  }
  let { design, outcome, prediction, goToField, why }: Props = $props();

  const say = (v: number) => written(v, outcome.quantity, reader.units, design.build.file.currency);
  const doubt = $derived(prediction.doubt?.find((d) => d.result === outcome.name));
  const next = $derived(
    (prediction.measure_next ?? [])
      .map((m) => ({ ...m, gain: m.gains.find((g) => g.result === outcome.name) }))
      .filter((m) => m.gain)
      .toSorted((a, b) => b.gain!.narrower - a.gain!.narrower)[0],
  );
</script>

<div class="mt-1 mb-3 text-sm" data-testid="sureness">
  {#if outcome.chance_in_words && outcome.wanted != null}
    <p>
      <span class="inline-block font-semibold first-letter:uppercase">{outcome.chance_in_words}</span> to meet
      the target of {say(outcome.wanted)}.
    </p>
  {/if}
  {#if outcome.further?.length}
    <dl class="mt-1 grid grid-cols-[1fr_auto] gap-x-3">
      {#each outcome.further as f (f.means)}
        <dt class="text-ink2">{f.words}</dt>
        <dd class="m-0 text-right whitespace-nowrap" data-testid={`range-${f.means}`}>
          {say(f.mid)}{#if f.low != null && f.high != null}<span class="text-ink2"
              >, {say(f.low)} to {say(f.high)}</span
            >{/if}
        </dd>
      {/each}
    </dl>
  {/if}
  {#if doubt}<Whose {doubt} />{/if}
  {#if next?.gain}
    <p class="mt-1">
      <span class="text-ink2">To narrow the range:</span>
      {next.measure}
      <span class="text-ink2"
        >({written(next.minutes, 'minutes', reader.units)}); narrows it by {written(
          next.gain.narrower,
          next.gain.quantity,
          reader.units,
        )}.</span
      >
      <button class="link" onclick={why}
        >{outcome.name === 'range' ? 'Why so wide, and what else' : 'What else'}</button
      >
    </p>
  {/if}
  {#if outcome.name === 'carry'}
    <div class="mt-1 grid grid-cols-[9rem_1fr] items-end gap-3">
      <Figure
        path="weighed_kg"
        value={design.build.value('weighed_kg')}
        fault={design.faults.weighed_kg}
        onchange={(v) => design.build.set('weighed_kg', v)}
      />
      <p class="remark">Once weighed, the scale counts and not the sum of the parts.</p>
    </div>
  {/if}
  {#if outcome.name === 'range' && !design.build.file.brief?.cruise_kmh}
    <button class="link mt-1" onclick={() => goToField('brief.cruise_kmh')}
      >Enter how fast you really ride</button
    >
  {/if}
</div>
