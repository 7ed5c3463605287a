<!-- Cells from a table: pasted or out of a file, with a look at every row before any of it is taken in. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { api, type Schemas } from '$lib/api/client';
  import Button from '$lib/ui/Button.svelte';
  import DataTable from '$lib/ui/DataTable.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Scrolled from '$lib/ui/Scrolled.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import { reader } from '$lib/reader.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import { download } from '$lib/download';
  import { valueText } from '$lib/units';
  import type { CellsPage } from './cells.svelte';

  let { page, open, onclose }: { page: CellsPage; open: boolean; onclose: () => void } = $props();
  let text = $state('');
  let picker = $state<FilePicker>();
  const asked = new Query<string, Schemas['ReadTable'] | null>(
    () => (open ? text : ''),
    async (now, signal) =>
      now.trim()
        ? await api.POST('/api/cells/read', { body: { document: page.build.board, text: now }, signal })
        : { data: null },
    { pause: 150 },
  );
  const read = $derived(text.trim() ? asked.answer : null);
  const good = $derived(read?.rows.filter((r) => r.cell) ?? []);
  const broken = $derived(read?.rows.filter((r) => r.faults?.length) ?? []);
  const refused = $derived(read?.refused || asked.refused);
  const KEYS = ['capacity_ah', 'found_v', 'rested_v', 'resistance_mohm'] as const;
  const EXAMPLE = 'id,capacity_ah,found_v,rested_v,rested_days,resistance_mohm,mass_g,size,source';

  function take(): void {
    page.put(
      [...page.cells, ...good.map((r) => r.cell!)],
      plural(good.length, ['# cell is in stock.', '# cells are in stock.']),
    );
    // What is broken stays, to be mended where it was typed.
    const head = text.split(/\r?\n/, 1)[0] ?? '';
    const named = /capacity_ah/i.test(head);
    text = broken.length ? [...(named ? [head] : []), ...broken.map((r) => r.text)].join('\n') : '';
    if (!text) onclose();
  }
</script>

<Dialog
  {open}
  title="Import cells"
  wide
  {onclose}
  remark="Copied out of a spreadsheet, typed, or from a CSV file. Only the name and the capacity are needed."
>
  <label class="block text-xs text-ink2"
    >One cell per line: <code>{EXAMPLE.replaceAll(',', ', ')}</code><textarea
      class="entry block h-36 font-mono text-xs text-ink"
      spellcheck="false"
      placeholder={`${EXAMPLE}\na1,2.41,3.52,4.17,9,44,45.6,18650,laptop pack`}
      bind:value={text}
      data-testid="cells-text"></textarea></label
  >
  <p class="mt-1 flex gap-3 text-sm">
    <button class="link" onclick={() => picker?.pick()}>From a file</button>
    <button class="link" onclick={() => download(`${EXAMPLE}\r\n`, 'text/csv', 'cells.csv')}
      >An empty table</button
    >
  </p>
  <FilePicker
    bind:this={picker}
    accept=".csv,.tsv,.txt,text/csv"
    label="Cells as CSV"
    testid="cells-file"
    onpick={async (file) => (text = await file.text())}
  />
  {#if asked.failed}
    <p class="mt-2 text-short" role="alert">The server cannot be reached; what you pasted is kept here.</p>
  {:else if refused && text.trim()}
    <p class="mt-2 text-short" role="alert" data-testid="cells-refused">{refused}</p>
  {:else if read}
    <p class="mt-2 text-sm" aria-live="polite" data-testid="cells-read">
      {plural(good.length, ['# good row', '# good rows'])}{#if broken.length}, <b class="text-short"
          >{broken.length}</b
        > to correct{/if}.
    </p>
    <Scrolled label="The rows of the file" class="max-h-60 overflow-y-auto">
      <DataTable heads={['Line', 'Cell', 'Capacity', 'As found', 'After rest', 'Resistance']}>
        <tbody>
          {#each [...broken, ...good].slice(0, 120) as row (row.line)}
            <tr class="border-b border-line align-top" data-testid="cell-row">
              <td class="py-0.5">{row.line}</td>
              {#if row.cell}
                <td class="px-2">{row.cell.id}</td>
                {#each KEYS as key (key)}
                  <td class="px-2"
                    >{valueText(`pack_assembly.cells.0.${key}`, row.cell[key], reader.units)}</td
                  >
                {/each}
              {:else}
                <td class="px-2 text-short" colspan="5"
                  >✕ {row.faults?.join('; ')}<br /><code>{row.text}</code></td
                >
              {/if}
            </tr>
          {/each}
        </tbody>
      </DataTable>
    </Scrolled>
  {/if}
  {#snippet actions()}
    <Button onclick={onclose}>Cancel</Button>
    <Button main disabled={!good.length} onclick={take}
      >{good.length ? `Import ${good.length}` : 'Import'}</Button
    >
  {/snippet}
</Dialog>
