<!-- Two windows, one build: both versions side by side and a choice; nothing is overwritten silently. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';
  import Dialog from './Dialog.svelte';
  import { session } from '$lib/session.svelte';
  import { figureSpec, placeOf, valueText } from '$lib/units';
  import type { Workpiece } from '$lib/workpiece.svelte';
  import { differences } from '$lib/paths';

  let { piece }: { piece: Workpiece } = $props();
  const rows = $derived(piece.theirs ? differences(piece.file, piece.theirs.document) : []);

  const shown = (path: string, value: unknown) => valueText(path, value, session.units, piece.file.currency);
  async function both(): Promise<void> {
    const copy = await piece.settle('both');
    if (copy) await push(`/bench/${copy}`);
  }
</script>

<Dialog
  open={piece.saving === 'conflict'}
  title="This build was changed elsewhere"
  remark="Another window or device saved it since you opened it here. Both versions are kept until you choose."
  dismissible={false}
  wide
>
  <table class="w-full border-collapse text-[13.5px]">
    <thead>
      <tr class="text-left text-xs text-ink2">
        <th class="border-b border-ink py-1 font-normal">what differs</th>
        <th class="border-b border-ink px-2 py-1 font-normal">here</th>
        <th class="border-b border-ink px-2 py-1 font-normal">elsewhere</th>
      </tr>
    </thead>
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
  </table>
  {#snippet actions()}
    <button class="button" onclick={() => piece.settle('theirs')}>Take the other</button>
    <button class="button" onclick={both}>Keep both, mine as a copy</button>
    <button class="button button-main" onclick={() => piece.settle('mine')}>Keep mine</button>
  {/snippet}
</Dialog>
