<!-- Photos in a row; one on its way says so, one can be checked large and taken back. -->
<script lang="ts">
  import { momentText, clockText } from '$lib/reader.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Button from '$lib/ui/Button.svelte';
  import type { Shown, Work } from './work.svelte';

  let { work, photos }: { work: Work; photos: Shown[] } = $props();
  let large = $state<Shown | null>(null);
  let open = $state(false);
  const when = (p: Shown) => `${momentText(p.at)}, ${clockText(p.at)}`;
</script>

{#if photos.length}
  <ul class="m-0 mt-3 flex list-none gap-2 overflow-x-auto p-0 pb-1" aria-label="Photos" data-testid="photos">
    {#each photos as photo (photo.id)}
      <li class="relative shrink-0" data-unsent={photo.unsent}>
        <button
          class="block overflow-hidden rounded border border-line"
          aria-label={`Photo of ${when(photo)}${photo.caption ? `: ${photo.caption}` : ''}${photo.unsent ? ', waits for the network' : ''}`}
          onclick={() => {
            large = photo;
            open = true;
          }}
        >
          {#if photo.address}
            <img
              src={photo.unsent ? photo.address : `${photo.address}?small=true`}
              alt=""
              loading="lazy"
              class="block h-[76px] w-[100px] object-cover"
            />
          {:else}<span class="flex h-[76px] w-[100px] items-center justify-center text-xs text-ink2"
              >on its way</span
            >{/if}
        </button>
        {#if photo.unsent}<span
            class="absolute right-1 bottom-1 rounded bg-paper px-1 text-xs text-unsure"
            aria-hidden="true">waits</span
          >{/if}
      </li>
    {/each}
  </ul>
{/if}

<Dialog bind:open title={large ? when(large) : ''} wide>
  {#if large?.address}<img
      src={large.address}
      alt={large.caption || 'the photo'}
      class="block max-h-[62dvh] w-full object-contain"
    />{/if}
  {#if large?.caption}<p class="mt-2">{large.caption}</p>{/if}
  {#snippet actions()}
    <Button
      class="min-h-[44px] text-short"
      onclick={() => {
        if (large) work.takeBack(large.id);
        open = false;
      }}>Remove it from the log</Button
    >
    <Button class="min-h-[44px]" onclick={() => (open = false)}>Close</Button>
  {/snippet}
</Dialog>
