<!-- Why a number is what it is: formula in words, inputs with their origin, source. -->
<script lang="ts">
  import DataTable from '$lib/ui/DataTable.svelte';
  import { reader } from '$lib/reader.svelte';
  import type { Prediction } from '$lib/api/client';
  import { FIGURES } from '$lib/api/tables.gen';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { formatMessage, written } from '$lib/units';
  import { stationOf } from './stations';
  import Whose from './Whose.svelte';

  interface Props {
    open: boolean;
    name: string;
    prediction: Prediction;
    currency?: string | null;
    goToField: (path: string) => void;
  }
  let { open = $bindable(), name, prediction, currency, goToField }: Props = $props();

  const outcome = $derived(prediction.outcomes.find((p) => p.name === name));
  const why = $derived(prediction.why[name]);
  const widening = $derived((prediction.widest ?? []).filter((w) => w.result === name));
  const doubt = $derived(prediction.doubt?.find((d) => d.result === name));
  const measures = $derived(
    (prediction.measure_next ?? [])
      .map((m) => ({ ...m, gain: m.gains.find((g) => g.result === name) }))
      .filter((m) => m.gain),
  );
  const unloaded = $derived(prediction.unloaded_speed_kmh);
  const top = $derived(prediction.top_speed_kmh);
  const say = (v: number) => written(v, outcome?.quantity ?? 'count', reader.units, currency);
  const enterable = (field: string) => field in FIGURES && stationOf(field) !== undefined;

  function enter(field: string): void {
    open = false;
    goToField(field);
  }
</script>

<Dialog bind:open title={`Why: ${outcome?.title.toLowerCase() ?? name}`} wide>
  {#if outcome && why}
    {#if outcome.mid != null}
      <p class="text-base">
        <span class="text-xl font-semibold">{say(outcome.mid)}</span>
        {#if outcome.low != null && outcome.high != null}
          <span class="text-ink2">80 % likely between {say(outcome.low)} and {say(outcome.high)}</span>
        {/if}
      </p>
      {#if outcome.message}<p class="remark mt-1">
          {formatMessage(outcome.message, reader.units, currency)}
        </p>{/if}
    {/if}

    {#if name === 'speed' && unloaded != null && top != null && unloaded > 0}
      {@const scale = (v: number) => (v / unloaded) * 100}
      <figure
        class="my-4"
        role="img"
        aria-label={`Wheels in the air ${written(unloaded, 'speed', reader.units)}; with you on the road ${written(top.mid, 'speed', reader.units)}.`}
      >
        <div class="grid grid-cols-[8.5rem_1fr_5rem] items-center gap-x-3 gap-y-1 text-sm">
          <span>wheels in the air</span>
          <div class="h-4 border border-rule bg-line"></div>
          <span class="font-semibold">{written(unloaded, 'speed', reader.units)}</span>
          <span>you on the road</span>
          <div class="relative h-4">
            <div class="h-4 border border-holds bg-holds-wash" style:width={`${scale(top.mid)}%`}></div>
            <div
              class="absolute inset-y-0 right-0 border border-dashed border-rule"
              style:left={`${scale(top.mid)}%`}
            ></div>
          </div>
          <span class="font-semibold">{written(top.mid, 'speed', reader.units)}</span>
        </div>
        <figcaption class="remark mt-2 text-sm">
          Simple arithmetic multiplies volts, KV and wheel size. On the road you, the tyres and the air need
          current; current makes the pack sag and costs volts in the windings. The rest turns the wheels: the
          dashed part is what the arithmetic leaves out.
        </figcaption>
      </figure>
    {/if}

    <h3 class="mt-3 text-base">How it is calculated</h3>
    <p class="mt-1">{why.formula}</p>
    {#if widening.length}
      <h3 class="mt-4 text-base">What makes it uncertain</h3>
      <ul class="mt-1">
        {#each widening as w (w.input)}
          <li><span class="font-semibold">{Math.round(w.share * 100)} %</span> {w.title}</li>
        {/each}
      </ul>
      {#if doubt}<Whose {doubt} />{/if}
    {/if}
    {#if measures.length}
      <h3 class="mt-4 text-base">Measure this next</h3>
      <DataTable
        heads={['What to do', { text: 'Takes', right: true }, { text: 'Off this band', right: true }]}
        class="mt-1"
        data-testid="measure-next"
      >
        <tbody>
          {#each measures as m (m.measure)}
            <tr class="border-b border-line align-top">
              <td class="py-1"
                >{m.measure}<span class="block text-xs text-ink2"
                  >tells: {#each m.fields as field, i (i)}{i ? ', ' : ''}{#if enterable(field)}<button
                        class="link"
                        onclick={() => enter(field)}>{m.titles[i]}</button
                      >{:else}{m.titles[i]}{/if}{/each}</span
                ></td
              >
              <td class="px-2 py-1 text-right whitespace-nowrap"
                >{written(m.minutes, 'minutes', reader.units)}</td
              >
              <td class="px-2 py-1 text-right whitespace-nowrap"
                >{written(m.gain!.narrower, m.gain!.quantity, reader.units)}
                <span class="text-ink2">of {written(m.gain!.width, m.gain!.quantity, reader.units)}</span></td
              >
            </tr>
          {/each}
        </tbody>
      </DataTable>
    {/if}
    {#if name === 'range'}
      <h3 class="mt-4 text-base">Why the range is this wide</h3>
      <p class="mt-1">
        Nobody has ridden this board yet. Two people on the same board and route come home with a third more
        or less charge: their stance, their real speed, how hard they accelerate, the wind of the day. A
        narrower number would be a guess. Riding narrows it: each ride that you record shows how you ride, and
        that also counts for your next board.
      </p>
    {/if}
    {#if why.inputs.length}
      <h3 class="mt-4 text-base">Inputs</h3>
      <DataTable heads={['Input', { text: 'Value', right: true }, 'Where it comes from']} class="mt-1">
        <tbody>
          {#each why.inputs as input, i (i)}
            <tr class="border-b border-line align-top">
              <td class="py-1">
                {#if enterable(input.field)}
                  <button class="link text-left" onclick={() => enter(input.field)}>{input.name}</button>
                {:else}{input.name}{/if}
              </td>
              <td class="px-2 py-1 text-right whitespace-nowrap"
                >{written(input.figure.value, input.figure.quantity, reader.units)}</td
              >
              <td class="px-2 py-1 text-ink2"
                >{input.origin === 'rides' ? 'from rides' : input.origin}{input.rule
                  ? `: ${input.rule}`
                  : ''}</td
              >
            </tr>
          {/each}
        </tbody>
      </DataTable>
    {/if}
    <p class="remark mt-3 text-sm">Source: {why.source}</p>
  {/if}
</Dialog>
