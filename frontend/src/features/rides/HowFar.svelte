<!-- How far can I still go? From the volts that a meter shows now, without a network too. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import { tray } from '$lib/jobs/tray.svelte';
  import { LIKELIHOOD_MARK, LIKELIHOOD_TONE } from '$lib/likelihood';
  import { reader } from '$lib/reader.svelte';
  import type { Query } from '$lib/sync/query.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import { figureSpec, formatMessage, parse, written } from '$lib/units';
  import RideFigure from './RideFigure.svelte';
  import { chanceOf, leftAt } from './how-far';

  let { build, asked }: { build: OpenBuild; asked: Query<Schemas['Build'], Schemas['HowFar']> } = $props();

  const BY = [
    ['meter', 'a multimeter'],
    ['controller', 'the controller or its app'],
    ['gauge', 'a display or the remote'],
  ] as const;

  let volts = $state('');
  let home = $state('');
  let by = $state<(typeof BY)[number][0]>('meter');
  let rested = $state(true);

  const answer = $derived(asked.answer);
  const card = () =>
    tray.download('The card of volts', () =>
      api.POST('/api/how-far/card', { body: { document: build.board, board: build.id } }),
    );
  const say = (value: number, quantity: string) => written(value, quantity, reader.units);
  function entered(text: string, path: string): { value: number | null; fault: string } {
    const found = parse(text, figureSpec(`ride.${path}`), reader.units);
    return 'reason' in found ? { value: null, fault: found.reason } : { value: found.value, fault: '' };
  }
  const reading = $derived(entered(volts, 'pack.end_v'));
  const way = $derived(entered(home, 'way.distance_km'));
  const table = $derived(answer?.tables.find((t) => t.by === by && t.rested === rested));
  const left = $derived(table && reading.value !== null ? leftAt(table, reading.value) : null);
  const refusal = $derived(Object.values(asked.faults)[0] ?? asked.refused);
  /** Places of the chances that are columns. */
  const columns = $derived(answer?.chances.flatMap((c, i) => (c.shown ? [i] : [])) ?? []);
  const counted = $derived(answer?.counted_on ?? 0);
</script>

{#if answer}
  <p class="remark mb-2 text-sm">
    Enter the volts that the pack has now. Stop first: under load every pack reads low.
    <button class="link min-h-6" onclick={() => void card()}>Card to tape on the board</button>
  </p>
  <form
    class="grid grid-cols-2 gap-3 sm:max-w-[46rem] sm:grid-cols-4 [&_.entry]:min-h-[44px]"
    onsubmit={(event) => event.preventDefault()}
    aria-label="What the pack reads"
  >
    <RideFigure path="pack.end_v" label="Volts now" bind:text={volts} fault={reading.fault} />
    <RideFigure path="way.distance_km" label="Way home" bind:text={home} fault={way.fault} />
    <label class="block text-xs text-ink2"
      >Read on<select class="entry block text-sm text-ink" bind:value={by}>
        {#each BY as [key, name] (key)}<option value={key}>{name}</option>{/each}
      </select></label
    >
    <label class="block text-xs text-ink2"
      >The pack was<select class="entry block text-sm text-ink" bind:value={rested}>
        <option value={true}>at rest for 5 minutes</option>
        <option value={false}>ridden just now</option>
      </select></label
    >
  </form>
  {#if left && 'says' in left}
    <p class="mt-3 max-w-[46rem] text-short" role="status" data-testid="how-far-outside">
      {formatMessage(left.says, reader.units)}
    </p>
  {:else if left}
    {@const usual = left.paces[0]!}
    <section class="mt-4 max-w-[46rem]" aria-live="polite" data-testid="how-far">
      {#if way.value}
        {@const chance = chanceOf(answer, usual, way.value)}
        <p class="text-xl">
          <b class={LIKELIHOOD_TONE[chance.likelihood]}
            >{LIKELIHOOD_MARK[chance.likelihood]} Home: {chance.in_words}</b
          >
          at {say(usual.speed_kmh, 'speed')}
        </p>
      {:else}
        <p class="text-xl">
          At least <b class="figure">{say(usual.km[counted]!, 'distance')}</b>, {answer.chances[counted]!
            .in_words}, at {say(usual.speed_kmh, 'speed')}
        </p>
      {/if}
      <p class="text-sm text-ink2">
        Charge {say(left.charge.mid * 100, 'share')} ({say(left.charge.low * 100, 'share')} to {say(
          left.charge.high * 100,
          'share',
        )}).
      </p>
      <table class="mt-3 w-full text-sm">
        <thead>
          <tr class="text-left text-xs text-ink2">
            <th scope="col" class="py-1 font-normal">Pace on the flat</th>
            {#each columns as i (i)}
              <th scope="col" class={['py-1 text-right font-normal', i === columns.at(-1) && 'max-sm:hidden']}
                >{answer.chances[i]!.in_words}</th
              >
            {/each}
            {#if way.value}<th scope="col" class="py-1 text-right font-normal">Home</th>{/if}
          </tr>
        </thead>
        <tbody>
          {#each left.paces as pace (pace.speed_kmh)}
            <tr class="border-t border-line">
              <th scope="row" class="py-2 text-left font-normal">{say(pace.speed_kmh, 'speed')}</th>
              {#each columns as i (i)}
                <td
                  class={[
                    'py-2 text-right',
                    i === counted && 'font-semibold',
                    i === columns.at(-1) && 'max-sm:hidden',
                  ]}>{say(pace.km[i]!, 'distance')}</td
                >
              {/each}
              {#if way.value}
                {@const chance = chanceOf(answer, pace, way.value)}
                <td class={['py-2 text-right', LIKELIHOOD_TONE[chance.likelihood]]}
                  >{LIKELIHOOD_MARK[chance.likelihood]} {chance.in_words}</td
                >
              {/if}
            </tr>
          {/each}
        </tbody>
      </table>
      <p class="remark mt-3 text-sm">{formatMessage(answer.assumes, reader.units)}</p>
    </section>
  {/if}
  {#if asked.fromCache || asked.failed}
    <p class="mt-2 text-sm text-unsure" role="status">
      Without a network: from the table that this device keeps of this board.
    </p>
  {/if}
{:else if refusal}
  <p class="py-8 text-short" role="alert">{refusal}</p>
{:else}
  <Awaiting
    {asked}
    waiting="Loading what is left at each reading…"
    lost="The table cannot be loaded at the moment."
  />
{/if}
