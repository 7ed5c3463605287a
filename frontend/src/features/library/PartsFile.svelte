<!-- Parts from a file: every row checked first, the good ones taken in, the rest given back with their reasons. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import DataTable from '$lib/ui/DataTable.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { importParts, type Faults, type Schemas } from '$lib/api/client';
  import { download } from '$lib/download';
  import Dialog from '$lib/ui/Dialog.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import RefusedFile from '$lib/ui/RefusedFile.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import { kindName } from '$lib/parts';

  let { ontaken }: { ontaken: () => void } = $props();
  let picker = $state<FilePicker>();
  let file = $state.raw<File | null>(null);
  let offer = $state.raw<Schemas['ImportOut'] | null>(null);
  let refused = $state.raw<Faults | null>(null);
  let busy = $state(false);
  const broken = $derived(offer?.rows.filter((r) => r.outcome === 'broken') ?? []);
  const WORDS = { new: 'new', alters: 'alters yours', same: 'you have it already', broken: '' } as const;

  export function pick(): void {
    picker?.pick();
  }

  async function look(picked: File): Promise<void> {
    file = picked;
    const answer = await importParts(picked, false);
    if (answer.offer) offer = answer.offer;
    else refused = answer.faults ?? null;
  }

  async function take(): Promise<void> {
    if (!file) return;
    busy = true;
    const answer = await importParts(file, true);
    busy = false;
    if (answer.offer) {
      const good = answer.offer.good;
      notices.say(plural(good, ['# part added to your library.', '# parts added to your library.']));
      // What is broken stays to be seen until it is closed.
      offer = answer.offer.rest ? answer.offer : null;
      ontaken();
    } else {
      offer = null;
      refused = answer.faults ?? null;
    }
  }
</script>

<FilePicker
  bind:this={picker}
  accept=".csv,.json,text/csv,application/json"
  label="Parts as CSV or JSON"
  testid="parts-import"
  onpick={look}
/>

<Dialog
  open={offer !== null}
  title={offer?.taken ? 'Imported, except these rows' : 'Parts in the file'}
  wide
  onclose={() => (offer = null)}
  remark={offer
    ? offer.taken
      ? `${offer.good} imported. ${broken.length} rows have errors: save them, correct them and import them again.`
      : `${offer.good} of ${offer.rows.length} would be taken in${broken.length ? `; ${broken.length} cannot be used` : ''}. Nothing is changed yet.`
    : ''}
>
  {#if offer}
    <DataTable heads={[offer.form === 'csv' ? 'Line' : 'Part', 'Kind', 'Name', 'What becomes of it']}>
      <tbody>
        {#each (offer.taken ? broken : offer.rows).toSorted((a, b) => Number(b.outcome === 'broken') - Number(a.outcome === 'broken')) as row (row.line)}
          <tr class="border-b border-line align-top" data-testid="offer" data-outcome={row.outcome}>
            <td class="py-1">{row.line}</td>
            <td class="px-2 py-1">{kindName(row.kind)}</td>
            <td class="px-2 py-1 font-semibold">{row.name || '–'}</td>
            <td class="px-2 py-1" class:text-short={row.outcome === 'broken'}>
              {#if row.outcome === 'broken'}{#each row.faults as f, i (i)}<span class="block"
                    >✕ {f.field ? `${f.field}: ` : ''}{f.reason}</span
                  >{/each}{:else}{WORDS[row.outcome]}{/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </DataTable>
  {/if}
  {#snippet actions()}
    {#if offer?.rest}
      <Button
        onclick={() =>
          download(
            offer!.rest!,
            offer!.form === 'csv' ? 'text/csv' : 'application/json',
            `parts-to-mend.${offer!.form}`,
          )}>Save rows with errors</Button
      >
    {/if}
    <Button main={offer?.taken} onclick={() => (offer = null)}>{offer?.taken ? 'Close' : 'Cancel'}</Button>
    {#if !offer?.taken}
      <Button main disabled={!offer?.good || busy} onclick={take}>Import {offer?.good ?? 0}</Button>
    {/if}
  {/snippet}
</Dialog>

<RefusedFile
  faults={refused}
  remark="Nothing in your library was changed."
  onclose={() => (refused = null)}
/>
