<!-- The small parts that the choices call for and the list does not have, each with its reason. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import { reader } from '$lib/reader.svelte';
  import type { PartsList } from '$lib/api/client';
  import { billed, formatMessage } from '$lib/units';
  import type { PartsListPage } from './parts-list.svelte';

  let { piece, list }: { piece: PartsListPage; list: PartsList } = $props();
  type Small = PartsList['forgotten'][number];

  const end = () => piece.build.file.parts?.extras?.length ?? 0;
  function add(smalls: Small[]): void {
    piece.build.change(Object.fromEntries(smalls.map((s, i) => [`parts.extras.${end() + i}`, s.record])));
  }
  const needless = $derived(piece.build.file.not_needed ?? []);
  const leaveOut = (small: Small) => piece.build.set('not_needed', [...needless, small.id]);
</script>

{#if list.forgotten.length || needless.length}
  <section class="mt-6" aria-labelledby="forgotten" data-testid="forgotten">
    <div class="flex flex-wrap items-baseline gap-x-3 border-b border-ink pb-1">
      <h2 class="text-base" id="forgotten">Often forgotten</h2>
      <span class="remark text-sm">Needed for your parts, and not on the list.</span>
      {#if list.forgotten.length > 1}
        <button class="link ml-auto text-sm" onclick={() => add(list.forgotten)}
          >Add all {list.forgotten.length} to the list</button
        >
      {/if}
    </div>
    <ul class="m-0 list-none p-0">
      {#each list.forgotten as small (small.id)}
        <li
          class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 gap-y-1 border-b border-line py-1.5"
          data-testid="small-part"
          data-id={small.id}
        >
          <div class="min-w-0">
            <p>
              {(small.record.count ?? 1) > 1 ? `${small.record.count} × ` : ''}{small.record.name}
              {#if small.record.price != null}<span class="text-ink2"
                  >{billed(small.record.price, small.record.currency)}</span
                >{/if}
            </p>
            <p class="remark text-sm">{formatMessage(small.why, reader.units)}</p>
          </div>
          <div class="flex gap-2">
            <Button aria-label={`Add ${small.record.name} to the list`} onclick={() => add([small])}
              >Add</Button
            >
            <Button aria-label={`${small.record.name} is not needed`} onclick={() => leaveOut(small)}
              >Not needed</Button
            >
          </div>
        </li>
      {/each}
    </ul>
    {#if needless.length}
      <p class="pt-1 text-sm text-ink2">
        {needless.length} said not to be needed.
        <button class="link" onclick={() => piece.build.set('not_needed', null)}>Show them again</button>
      </p>
    {/if}
  </section>
{/if}
