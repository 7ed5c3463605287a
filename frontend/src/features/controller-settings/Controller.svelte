<!-- The controller on the bench: read, compared, set after every change was confirmed, read back. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import DataTable from '$lib/ui/DataTable.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { addressOf } from '$lib/navigation';
  import { clockText, reader } from '$lib/reader.svelte';
  import type { Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { figureSpec, valueText } from '$lib/units';
  import Cable from '$lib/controller/Cable.svelte';
  import type { ControllerLink } from '$lib/controller/controller.svelte';
  import { ofEach } from './naming';
  import type { ControllerSettingsPage } from './controller-settings.svelte';
  import Trials from '$lib/controller/Trials.svelte';
  import WhyAndBy from './WhyAndBy.svelte';

  let { piece, link }: { piece: ControllerSettingsPage; link: ControllerLink } = $props();
  let confirming = $state(false);
  let reason = $state('');
  let by = $state(session.who?.name ?? '');

  const seen = $derived(link.seen);
  const command = $derived(link.command);
  const differs = $derived(seen?.differs ?? []);
  const wanted = $derived(seen?.wanted ?? 0);
  /** How many are talked to: a cable leads to one. */
  const several = $derived((seen?.controllers ?? 1) > 1 && !link.port);
  const who = $derived(several ? 'controllers' : 'controller');
  const title = (key: string) => figureSpec(`settings.${key}`).title;
  const text = (key: string, value: unknown) => valueText(`settings.${key}`, value, reader.units);
  const all = (key: string, values: unknown[]) => ofEach(values.map((v) => text(key, v)));
  const written = $derived(command?.result?.kind === 'write' ? command.result : null);
  const bad = $derived((written?.outcomes ?? []).filter((o) => o.verdict !== 'as wanted'));
  const ENDS: Record<Schemas['WriteResultOut']['verdict'], string> = {
    'as wanted': 'has the values you want',
    'as before': 'has its old values; nothing was changed',
    neither: 'is only partly written: it has neither its old values nor those you want',
    unknown: 'could not be read back: its values are unknown',
    'not begun': 'was not touched',
  };
  const lost = $derived(command?.state === 'lost');

  async function confirm(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    const values = (seen?.held ?? []).map((_, i) =>
      Object.fromEntries(differs.filter((d) => d.wanted[i] != null).map((d) => [d.key, d.wanted[i]])),
    );
    confirming = false;
    if (await link.write(values, reason, by, piece.build.file.settings?.profile)) reason = '';
  }
</script>

{#if seen?.programmable}
  <section
    class="mt-3 border-y border-ink py-2"
    aria-labelledby="on-the-bench"
    data-testid="controller"
    data-state={command?.state ?? 'none'}
  >
    <div class="flex flex-wrap items-center gap-x-3 gap-y-2">
      <h2 class="text-base" id="on-the-bench">Controller</h2>
      {#if seen.ports.length}
        <Cable {link} />
      {:else}
        <span class="remark text-sm"
          >{seen.device ??
            `a simulated ${who === 'controllers' ? 'pair of controllers' : 'controller'}`}</span
        >
      {/if}
      {#if link.busy}
        <span class="text-sm" role="status" data-testid="step">{link.step}…</span>
        <Button onclick={() => link.stop()} class="ml-auto">Stop</Button>
      {:else}
        {#if seen.looked_at}
          <span class="text-sm" data-testid="held">
            {#if !seen.known}
              last read at {clockText(seen.looked_at)}, before the last write
            {:else if !wanted}
              read at {clockText(seen.looked_at)}; no settings chosen yet
            {:else if differs.length}
              <span class="text-short">✕ {differs.length} of {wanted} wanted values differ</span>, read at {clockText(
                seen.looked_at,
              )}
            {:else}
              <span class="text-holds">✓ has all {wanted} values you want</span>, read at {clockText(
                seen.looked_at,
              )}
            {/if}
          </span>
        {/if}
        <span class="ml-auto flex gap-2">
          <Button main={!seen.looked_at || !seen.known} onclick={() => link.send('read')}
            >{seen.looked_at ? 'Read again' : 'Read what is set'}</Button
          >
          {#if seen.looked_at && seen.known && differs.length}
            <Button main disabled={link.stale} data-testid="set" onclick={() => (confirming = true)}
              >{plural(differs.length, ['Set # value…', 'Set # values…'])}</Button
            >
          {/if}
        </span>
      {/if}
    </div>
    {#if !seen.looked_at && !link.busy && !command}
      <p class="remark mt-1 text-sm">
        Nothing is sent before you have seen its settings and confirmed every change.
      </p>
    {/if}
    {#if link.refused}<p class="mt-1 text-sm text-short" role="alert">{link.refused}</p>{/if}
    {#if seen.unsettled && !link.busy}
      <p
        class="mt-1 border-l-4 border-short pl-2 text-sm font-semibold text-short"
        role="alert"
        data-testid="unsettled"
      >
        ! {seen.unsettled}
      </p>
    {/if}
    {#if lost}
      <p class="mt-1 text-sm text-short" role="alert">
        The controller service is not running, so nothing was sent. It runs beside the web server; the
        operator of this workshop can start it with “manage.py worker”.
      </p>
    {:else if command?.state === 'failed'}
      <p class="mt-1 text-sm text-short" role="alert" data-testid="failed">
        {command.message} Check the plug and the cable, then try again.
      </p>
    {/if}
    {#if command?.kind === 'write' && command.state === 'done'}
      {#if bad.length === 0}
        <p class="mt-1 text-sm text-holds" data-testid="written">
          ✓ Written, read back, the same. {written?.record
            ? `Saved as settings record ${written.record}.`
            : ''}
          <a class="link" href={addressOf(piece.build.id, 'bench-test')}>Open Bench test</a>
        </p>
      {:else}
        <ul class="m-0 mt-1 list-none p-0 text-sm" data-testid="not-written">
          {#each written?.outcomes ?? [] as outcome, i (i)}
            <li class:text-short={outcome.verdict !== 'as wanted'}>
              {several ? `Controller ${i + 1}` : 'The controller'}
              {ENDS[outcome.verdict]}.
              {#if outcome.refused}{title(outcome.refused)}: {outcome.why}.{:else if outcome.why}{outcome.why}{/if}
            </li>
          {/each}
        </ul>
      {/if}
      {#if written?.left_out?.length}
        <p class="mt-1 text-sm text-unsure">
          ~ It has no such setting: {written.left_out.map(title).join(', ')}.
        </p>
      {/if}
    {/if}
    {#if command?.troubles?.length && !link.busy}
      <details class="mt-1 text-sm text-ink2">
        <summary>Errors corrected on the way: {command.troubles.length}</summary>
        <ul class="m-0 list-none p-0">
          {#each command.troubles as trouble, i (i)}<li>{trouble}</li>{/each}
        </ul>
      </details>
    {/if}
    {#if !link.port && seen.looked_at}<Trials {link} />{/if}
  </section>
{/if}

<Dialog
  bind:open={confirming}
  wide
  title={`${plural(differs.length, ['Set # value', 'Set # values'])} in the ${who}`}
  remark="Wheels in the air, fingers away. What is set is read back and written down with your word of why."
>
  <form id="confirm-setting" onsubmit={confirm}>
    <div class="mb-3 flex flex-wrap gap-2">
      <WhyAndBy bind:reason bind:by />
    </div>
    <DataTable heads={['Setting', `Now in the ${who}`, 'Will be']}>
      <tbody>
        {#each differs as d (d.key)}
          <tr class="border-b border-line" data-testid="change" data-key={d.key}>
            <td class="py-1">{title(d.key)}</td>
            <td class="px-2 py-1 text-ink2">{all(d.key, d.held)}</td>
            <td class="py-1 font-semibold">{all(d.key, d.wanted)}</td>
          </tr>
        {/each}
      </tbody>
    </DataTable>
  </form>
  {#snippet actions()}
    <Button onclick={() => (confirming = false)}>Change nothing</Button>
    <Button main form="confirm-setting">Set these {differs.length}</Button>
  {/snippet}
</Dialog>
