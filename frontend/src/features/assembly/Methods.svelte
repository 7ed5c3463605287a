<!-- Where builders differ: each way of working with its reason and with what it fits, and the one of this board. -->
<script lang="ts">
  import { messageText } from '$lib/reader.svelte';
  import type { Work } from '$lib/steps/work.svelte';

  interface Props {
    work: Work;
  }
  let { work }: Props = $props();
  const methods = $derived(work.report!.methods ?? []);
  /** As the document says, where this board allows it; the report of the steps comes a moment later. */
  function wayOf(method: (typeof methods)[number]): string {
    const said = Object.entries(work.build.file.methods ?? {}).find(
      ([key]) => `methods.${key}` === method.field,
    )?.[1];
    return method.ways.find((way) => way.value === said)?.value ?? method.usual;
  }
</script>

{#if methods.length}
  <p class="mb-3">
    Builders do these in more than one way, and each has its place. Steps, wiring and parts list follow what
    you choose; your next boards begin with it.
  </p>
  <div class="gap-x-12 lg:columns-2">
    {#each methods as method (method.field)}
      {@const now = wayOf(method)}
      <fieldset class="m-0 mb-6 break-inside-avoid border-0 p-0" data-method={method.field}>
        <legend class="w-full border-b border-ink pb-1 text-lg">{method.title}</legend>
        {#each method.ways as way (way.value)}
          <label class="flex cursor-pointer gap-3 border-b border-line py-2 hover:bg-sheet">
            <input
              type="radio"
              class="mt-1 size-5 shrink-0 accent-ink"
              name={method.field}
              value={way.value}
              checked={now === way.value}
              onchange={() => work.build.change({ [method.field]: way.value })}
            />
            <span>
              <span class={now === way.value ? 'font-semibold' : ''}>{way.name}</span>
              <span class="block">{messageText(way.text)}</span>
              <span class="block text-ink2">Fits: {messageText(way.fits)}</span>
            </span>
          </label>
        {/each}
      </fieldset>
    {/each}
  </div>
{:else}
  <p class="remark">Choose trucks, deck, drive and enclosure first: the choices follow from them.</p>
{/if}
