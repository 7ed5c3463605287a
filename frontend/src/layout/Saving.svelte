<!-- Whether what was entered is at the server: a word, and where it is not, what becomes of it. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import type { OpenBuild, Saving } from '$lib/build/build.svelte';
  import { deviceStorage } from '$lib/sync/device-storage.svelte';

  let { build }: { build: OpenBuild } = $props();

  const SHORT: Record<Exclude<Saving, 'offline' | 'refused'>, string> = {
    saved: 'Saved',
    saving: 'Saving…',
    conflict: 'Changed elsewhere',
    'signed out': 'Signed out elsewhere; sign in again, your changes are kept here',
  };
  const waits = $derived(plural(build.waiting, ['# change waits', '# changes wait']));
  const onlyHere = $derived(deviceStorage.full && build.saving !== 'saved');
  const bad = $derived(['offline', 'refused', 'signed out'].includes(build.saving));
</script>

<span
  class="min-w-0 text-right text-sm leading-tight sm:text-sm"
  class:remark={!bad}
  class:text-unsure={build.saving === 'offline'}
  class:text-short={onlyHere || (bad && build.saving !== 'offline')}
  role="status"
  data-testid="saving"
  data-saving={build.saving}
  >{#if build.saving === 'offline'}{waits} for the network<span class="sr-only"
      >; the server cannot be reached, and they are kept here until it is back</span
    >{:else if build.saving === 'refused'}Not saved: {build.message}{:else}{SHORT[
      build.saving
    ]}{/if}{#if onlyHere}; this device’s storage is full, keep this page open until it says “Saved”{/if}</span
>
