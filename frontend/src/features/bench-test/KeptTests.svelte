<!-- The tests that were kept, the latest first, and whether they still say something of the board as it is now. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import { formatMessage } from '$lib/units';
  import { reader, dayText } from '$lib/reader.svelte';
  import { paperOf } from './paper';
  import { STANDINGS, VERDICTS } from './words';

  interface Props {
    id: string;
    kept: Schemas['KeptTestOut'][];
    /** The settings record that was set last. */
    latest?: number | null;
    /** Steps that the last one passed and would not pass now. */
    noLonger: string[];
  }
  let { id, kept, latest, noLonger }: Props = $props();
  let opened = $state.raw<Schemas['WholeTestOut'] | null>(null);

  async function open(number: number): Promise<void> {
    const { data } = await api
      .GET('/api/builds/{id}/bench-test/{number}', { params: { path: { id, number } } })
      .catch(() => ({ data: undefined }));
    if (data) opened = data;
    else notices.say('The server cannot be reached.');
  }
</script>

{#if kept.length}
  <section class="mt-3 border-t border-line pt-2" aria-labelledby="kept-tests">
    <h3 class="text-sm" id="kept-tests">Kept</h3>
    <ol class="m-0 list-none p-0 text-sm">
      {#each kept.toReversed() as test, i (test.number)}
        {@const word = STANDINGS[test.standing]}
        <li class="border-b border-line py-1.5" data-testid="kept-test" data-number={test.number}>
          <p class="flex items-baseline gap-2">
            <button class="link font-semibold" onclick={() => open(test.number)}>Test {test.number}</button>
            <span class={word[1]}>{word[0]}</span>
            <button
              class="link ml-auto"
              onclick={() => paperOf(id, test.number)}
              aria-label={`Test ${test.number} on A4`}>A4</button
            >
          </p>
          <p class="text-ink2">
            {dayText(test.on)}{test.by ? `, ${test.by}` : ''}{test.record_number
              ? `, record ${test.record_number} set`
              : ''}
          </p>
          {#if test.failed.length}<p class="text-short">
              failed: {test.failed.join(', ').toLowerCase()}
            </p>{/if}
          {#if i === 0 && noLonger.length}
            <p class="text-short" data-testid="no-longer">
              ! With today’s board this would fail: {noLonger.join(', ').toLowerCase()}. Test again.
            </p>
          {:else if i === 0 && latest && latest !== test.record_number}
            <p class="text-unsure">~ The settings changed after it (record {latest}). Repeat the test.</p>
          {/if}
        </li>
      {/each}
    </ol>
  </section>
{/if}

<Dialog
  open={opened !== null}
  wide
  title={`Test ${opened?.number ?? ''}`}
  remark={opened
    ? `${dayText(opened.on)}${opened.by ? `, ${opened.by}` : ''}${opened.build_revision ? `; build revision ${opened.build_revision}` : ''}${opened.record_number ? `, record ${opened.record_number} set` : ''}. As it was judged then.`
    : undefined}
  onclose={() => (opened = null)}
>
  <ul class="m-0 list-none p-0 text-normal">
    {#each opened?.report.steps ?? [] as step (step.key)}
      {@const mark = VERDICTS[step.verdict]}
      <li class="border-b border-line py-1.5" data-testid="judged-then" data-key={step.key}>
        <span class={mark[1]}>{mark[0]} <span class="font-semibold">{step.title}</span></span>
        {#if step.said}<span class="text-ink2">{formatMessage(step.said, reader.units)}</span>{/if}
        {#if step.remedy}<p class="pl-5">{formatMessage(step.remedy, reader.units)}</p>{/if}
      </li>
    {/each}
  </ul>
  {#if opened?.entered.notes}<p class="mt-2 text-normal">Notes: {opened.entered.notes}</p>{/if}
</Dialog>
