<!-- A file of which nothing can be used: where and why, and that nothing was changed. -->
<script lang="ts">
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
    <table class="w-full border-collapse text-sm">
      <thead
        ><tr class="text-left text-xs text-ink2"
          ><th class="border-b border-ink py-1 font-normal">field</th><th
            class="border-b border-ink px-2 py-1 font-normal">what is wrong</th
          ></tr
        ></thead
      >
      <tbody>
        {#each faults.faults as fault, i (i)}
          <tr class="border-b border-line align-top"
            ><td class="py-1 pr-3 font-semibold break-all">{fault.field || 'the file'}</td><td
              class="px-2 py-1">{fault.reason}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  {:else if faults}
    <p>{faults.message}</p>
  {/if}
  {#snippet actions()}<button class="button button-main" onclick={onclose}>Close</button>{/snippet}
</Dialog>
