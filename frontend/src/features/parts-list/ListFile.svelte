<!-- The list as CSV: taken away, and read back with a look at every row before anything changes. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import DataTable from '$lib/ui/DataTable.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { api, faultsOf, type Faults } from '$lib/api/client';
  import type { Schemas } from '$lib/api/client';
  import { download } from '$lib/download';
  import Dialog from '$lib/ui/Dialog.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import RefusedFile from '$lib/ui/RefusedFile.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import type { PartsListPage } from './parts-list.svelte';

  let { piece }: { piece: PartsListPage } = $props();
  let picker = $state<FilePicker>();
  let read = $state.raw<Schemas['ListRead'] | null>(null);
  let refused = $state.raw<Faults | null>(null);
  const changed = $derived(read?.rows.filter((r) => r.changes).length ?? 0);
  const broken = $derived(read?.rows.filter((r) => r.faults.length) ?? []);

  async function away(): Promise<void> {
    if (await piece.build.settled()) window.location.href = `/api/builds/${piece.build.id}/parts-list.csv`;
    else notices.say('The last changes are not saved yet; you can export the list once they are.');
  }

  async function bringIn(file: File): Promise<void> {
    const text = await file.text();
    const answer = await api
      .POST('/api/parts-list/read', { body: { document: piece.build.board, text } })
      .catch(() => ({ data: undefined, error: { message: 'The server cannot be reached.', faults: [] } }));
    if (answer.data) read = answer.data;
    else refused = faultsOf(answer.error);
  }

  function take(): void {
    if (!read) return;
    piece.build.putBoard(read.document);
    notices.say(
      plural(changed, ['# row imported.', '# rows imported.']),
      {
        label: 'Undo',
        run: () => piece.build.undo(),
      },
      piece.build,
    );
    read = null;
  }
</script>

<span class="ml-auto flex gap-3 text-sm">
  <button class="link" onclick={away}>CSV</button>
  <button class="link" onclick={() => picker?.pick()}>Import CSV</button>
</span>
<FilePicker
  bind:this={picker}
  accept=".csv,text/csv"
  label="Parts list as CSV"
  testid="list-import"
  onpick={bringIn}
/>

<Dialog
  open={read !== null}
  title="Changes from the file"
  wide
  onclose={() => (read = null)}
  remark={read
    ? `${changed} of ${read.rows.length} rows change something${broken.length ? `; ${broken.length} cannot be used and are given back` : ''}. Parts that the file does not have stay.`
    : ''}
>
  {#if read}
    <DataTable heads={['Line', 'Part', 'What becomes of it']}>
      <tbody>
        {#each read.rows as row (row.line)}
          <tr class="border-b border-line align-top" data-testid="read-row">
            <td class="py-1">{row.line}</td>
            <td class="px-2 py-1">{row.part} <span class="font-semibold">{row.name}</span></td>
            <td class="px-2 py-1" class:text-short={row.faults.length}>
              {#if row.faults.length}{#each row.faults as f, i (i)}<span class="block"
                    >✕ {f.field ? `${f.field}: ` : ''}{f.reason}</span
                  >{/each}{:else}{row.changes ? 'changes' : 'the same'}{/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </DataTable>
  {/if}
  {#snippet actions()}
    {#if read?.rest}
      <Button onclick={() => download(read!.rest!, 'text/csv', 'rows-to-mend.csv')}
        >Save rows with errors</Button
      >
    {/if}
    <Button onclick={() => (read = null)}>Cancel</Button>
    <Button main disabled={!changed} onclick={take}>Import {changed}</Button>
  {/snippet}
</Dialog>

<RefusedFile faults={refused} remark="Nothing was changed." onclose={() => (refused = null)} />
