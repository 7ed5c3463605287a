<!-- Two windows, one build: both versions side by side and a choice; nothing is overwritten silently. -->
<script lang="ts">
  import DataTable from '$lib/ui/DataTable.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { reader } from '$lib/reader.svelte';
  import { go, addressOf } from '$lib/navigation';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { figureSpec, placeOf, valueText } from '$lib/units';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import { differences } from '$lib/paths';

  let { build }: { build: OpenBuild } = $props();
  const rows = $derived(build.theirs ? differences(build.file, build.theirs.document) : []);

  const shown = (path: string, value: unknown) => valueText(path, value, reader.units, build.file.currency);
  async function both(): Promise<void> {
    const copy = await build.settle('both');
    if (copy) go(addressOf(copy, 'design'));
  }
</script>

<Dialog
  open={build.saving === 'conflict'}
  title="This board was changed elsewhere"
  remark="Another window or device saved it since you opened it here. Both versions are kept until you choose."
  dismissible={false}
  wide
>
  <DataTable heads={['What differs', 'Here', 'Elsewhere']}>
    <tbody>
      {#each rows as row (row.path)}
        <tr class="border-b border-line">
          <td class="py-1"
            ><span class="font-semibold">{figureSpec(row.path).title}</span>
            <span class="text-ink2">{placeOf(row.path)}</span></td
          >
          <td class="px-2 py-1">{shown(row.path, row.mine)}</td>
          <td class="px-2 py-1">{shown(row.path, row.theirs)}</td>
        </tr>
      {/each}
    </tbody>
  </DataTable>
  {#snippet actions()}
    <Button onclick={() => build.settle('theirs')}>Use the other</Button>
    <Button onclick={both}>Keep both, mine as a copy</Button>
    <Button main onclick={() => build.settle('mine')}>Keep mine</Button>
  {/snippet}
</Dialog>
