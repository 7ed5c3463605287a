<!-- A file of which nothing can be used: where and why, and that nothing was changed. -->
<script lang="ts">
  import DataTable from '$lib/ui/DataTable.svelte';
  import Button from './Button.svelte';
  import type { Faults } from '$lib/api/client';
  import Dialog from './Dialog.svelte';

  interface Props {
    faults: Faults | null;
    remark: string;
    onclose: () => void;
  }
  let { faults, remark, onclose }: Props = $props();
</script>

<Dialog open={faults !== null} title="That file cannot be used" wide {remark} {onclose}>
  {#if faults?.faults?.length}
    <DataTable heads={['Field', 'What is wrong']}>
      <tbody>
        {#each faults.faults as fault, i (i)}
          <tr class="border-b border-line align-top"
            ><td class="py-1 pr-3 font-semibold break-all">{fault.field || 'the file'}</td><td
              class="px-2 py-1">{fault.reason}</td
            ></tr
          >
        {/each}
      </tbody>
    </DataTable>
  {:else if faults}
    <p>{faults.message}</p>
  {/if}
  {#snippet actions()}<Button main onclick={onclose}>Close</Button>{/snippet}
</Dialog>
