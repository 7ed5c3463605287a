<!-- A line of one's own on the parts list: whatever else is bought for the board. -->
<script lang="ts">
  import { currencySign } from '$lib/units';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';
  import type { PartsListPage } from './parts-list.svelte';

  let { piece }: { piece: PartsListPage } = $props();
  let open = $state(false);
  let name = $state('');
  let price = $state('');
  let fault = $state('');
  const sign = $derived(currencySign(piece.build.file.currency));

  function add(event: SubmitEvent): void {
    event.preventDefault();
    const amount = price.trim() ? Number(price.trim().replace(',', '.')) : null;
    if (amount !== null && !(amount >= 0 && amount <= 100_000)) {
      fault = 'a price is a number, such as 12.50';
      return;
    }
    const at = piece.build.file.parts?.extras?.length ?? 0;
    piece.build.set(`parts.extras.${at}`, {
      name: name.trim(),
      ...(amount === null ? {} : { price: amount }),
    });
    name = price = fault = '';
    open = false;
  }
</script>

{#if open}
  <form class="mt-4 flex flex-wrap items-end gap-3 border-t border-line pt-3" onsubmit={add}>
    <Field label="What" class="min-w-0 flex-1" bind:value={name} maxlength={120} required />
    <Field label={`Price, ${sign}`} class="w-28" bind:value={price} inputmode="decimal" {fault} />
    <Button main>Add to the list</Button>
    <Button type="button" onclick={() => (open = false)}>Cancel</Button>
  </form>
{:else}
  <p class="mt-3"><Button onclick={() => (open = true)}>Add a line</Button></p>
{/if}
