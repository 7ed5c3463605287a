<!-- Photos of a ride: in the board's log, under the ride's name, so that they wait without network and stand in the build book too. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import PhotoStrip from '$lib/steps/PhotoStrip.svelte';
  import { Work } from '$lib/steps/work.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';

  let { build, ride }: { build: OpenBuild; ride: string } = $props();
  // svelte-ignore state_referenced_locally
  const work = new Work(build, 'assembly');
  onDestroy(() => work.close());
  const step = $derived(`ride-${ride}`);
  let picker = $state<FilePicker>();
  let refused = $state('');
</script>

<PhotoStrip {work} photos={work.photosOf(step)} />
<button class="link min-h-[44px] text-sm" onclick={() => picker?.pick()}>Add a photo</button>
{#if refused || work.notice}<p class="text-sm text-short" role="alert">{refused || work.notice}</p>{/if}
<FilePicker
  bind:this={picker}
  accept="image/*"
  label="Photo of the ride"
  testid="ride-photo-file"
  onpick={async (file) => (refused = await work.photograph(step, file))}
/>
