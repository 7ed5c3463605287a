<!-- Two versions of one thing side by side, and a choice; nothing is overwritten silently. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { differences } from '$lib/paths';
  import { reader } from '$lib/reader.svelte';
  import DataTable from '$lib/ui/DataTable.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { figureSpec, placeOf, valueText } from '$lib/units';

  interface Props {
    title: string;
    mine: unknown;
    /** Nothing is asked without it. */
    theirs: unknown;
    /** What the paths of its figures begin with, such as `ride`; a board's begin with nothing. */
    of?: string;
    currency?: string | null;
    actions: Snippet;
  }
  let { title, mine, theirs, of = '', currency, actions }: Props = $props();
  const rows = $derived(theirs ? differences(mine, theirs) : []);
  const pathOf = (path: string) => (of ? `${of}.${path}` : path);
  const shown = (path: string, value: unknown) => valueText(pathOf(path), value, reader.units, currency);
</script>

<Dialog
  open={Boolean(theirs)}
  {title}
  remark="Another window or device saved it since you opened it here. Both versions are kept until you choose."
  dismissible={false}
  wide
  {actions}
>
  <DataTable heads={['What differs', 'Here', 'Elsewhere']}>
    <tbody>
      {#each rows as row (row.path)}
        <tr class="border-b border-line">
          <td class="py-1"
            ><span class="font-semibold">{figureSpec(pathOf(row.path)).title}</span>
            <span class="text-ink2">{placeOf(row.path)}</span></td
          >
          <td class="px-2 py-1">{shown(row.path, row.mine)}</td>
          <td class="px-2 py-1">{shown(row.path, row.theirs)}</td>
        </tr>
      {/each}
    </tbody>
  </DataTable>
</Dialog>
