<!-- Every cell with what was measured of it, and one more to be written down. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import DataTable from '$lib/ui/DataTable.svelte';
  import { figureSpec, parse, valueText } from '$lib/units';
  import type { Cell, CellsReport, CellsPage } from './cells.svelte';

  let { page, report }: { page: CellsPage; report: CellsReport } = $props();
  const out = $derived(new Set(report.rejected.map((r) => r.id)));
  const COLUMNS = [
    'capacity_ah',
    'found_v',
    'rested_v',
    'rested_days',
    'resistance_mohm',
    'mass_g',
    'source',
  ] as const;
  const heads = [
    'cell',
    ...COLUMNS.map((k) => ({
      text: figureSpec(`pack_assembly.cells.0.${k}`).title.toLowerCase(),
      right: k !== 'source',
    })),
    'lies',
  ];
  let typed = $state<Record<string, string>>({});
  let faults = $state<Record<string, string>>({});
  const NEW = ['capacity_ah', 'found_v', 'rested_v', 'rested_days', 'resistance_mohm'] as const;

  function add(event: SubmitEvent): void {
    event.preventDefault();
    faults = {};
    const id = (typed.id ?? '').trim();
    const cell: Cell = { id };
    if (!id) faults.id = 'the label on the cell';
    else if (page.cell(id)) faults.id = `${id} is in stock already`;
    for (const key of NEW) {
      const text = (typed[key] ?? '').trim();
      if (!text) continue;
      const read = parse(text, figureSpec(`pack_assembly.cells.0.${key}`), reader.units);
      if ('reason' in read) faults[key] = read.reason;
      else if (read.value !== null) cell[key] = read.value;
    }
    if (Object.keys(faults).length) return;
    page.put([...page.cells, cell]);
    // The next one: numbered on, its figures still to come.
    typed = { id: id.replace(/\d+$/, (n) => String(Number(n) + 1).padStart(n.length, '0')) };
    document.getElementById('new-capacity_ah')?.focus();
  }
</script>

<details class="mt-6 border-t border-ink pt-2" open={page.cells.length < 15}>
  <summary class="text-base font-semibold">All {page.cells.length} cells</summary>
  <form
    class="my-2 grid grid-cols-3 items-start gap-2 sm:grid-cols-7"
    onsubmit={add}
    aria-label="One more cell"
  >
    <label class="text-xs text-ink2"
      >Cell<input
        class="entry text-sm text-ink"
        maxlength="24"
        bind:value={typed.id}
        aria-invalid={!!faults.id}
      />
      {#if faults.id}<span class="text-short" role="alert">{faults.id}</span>{/if}</label
    >
    {#each NEW as key (key)}
      <label class="text-xs text-ink2"
        >{figureSpec(`pack_assembly.cells.0.${key}`).title}<input
          id={`new-${key}`}
          class="entry text-sm text-ink"
          inputmode="decimal"
          bind:value={typed[key]}
          aria-invalid={!!faults[key]}
        />
        {#if faults[key]}<span class="text-short" role="alert">{faults[key]}</span>{/if}</label
      >
    {/each}
    <Button class="mt-4 min-h-[30px]">Add cell</Button>
  </form>
  <DataTable {heads}>
    <tbody>
      {#each page.cells as cell (cell.id)}
        <tr class="border-b border-line" class:text-short={out.has(cell.id)}>
          <td class="py-0.5"
            ><button class="link" aria-pressed={page.picked === cell.id} onclick={() => page.pick(cell.id)}
              >{cell.id}</button
            ></td
          >
          {#each COLUMNS as key (key)}
            <td class="px-2 whitespace-nowrap" class:text-right={key !== 'source'}
              >{valueText(`pack_assembly.cells.0.${key}`, cell[key], reader.units)}</td
            >
          {/each}
          <td class="px-2 whitespace-nowrap"
            >{out.has(cell.id) ? 'out' : cell.group ? `group ${cell.group}` : 'spare'}{cell.locked
              ? ', locked'
              : ''}</td
          >
        </tr>
      {/each}
    </tbody>
  </DataTable>
</details>
