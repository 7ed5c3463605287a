<!-- A board like one that is there: a copy of one's own, or a build file. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { api, importFile, type Faults, type Schemas } from '$lib/api/client';
  import { go, addressOf } from '$lib/navigation';
  import Button from '$lib/ui/Button.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import RefusedFile from '$lib/ui/RefusedFile.svelte';

  let names = $state.raw<Schemas['BuildName'][] | null>(null);
  let picker = $state<FilePicker>();
  let refused = $state.raw<(Faults & { file: string }) | null>(null);
  onMount(async () => {
    const answer = await api.GET('/api/builds/names').catch(() => null);
    names = answer?.data ?? [];
  });

  async function copy(id: string): Promise<void> {
    const params = { path: { id } };
    const answer = await api.POST('/api/builds/{id}/duplicate', { params }).catch(() => null);
    if (answer?.data) go(addressOf(answer.data.id, 'design'));
    else notices.say('The server cannot be reached; nothing was changed.');
  }
  async function bringIn(file: File): Promise<void> {
    const answer = await importFile(file).catch(() => ({
      faults: { message: 'The server cannot be reached.', faults: [] } as Faults,
      build: undefined,
    }));
    if (answer.build) go(addressOf(answer.build.id));
    else if (answer.faults) refused = { ...answer.faults, file: file.name };
  }
</script>

<FilePicker
  bind:this={picker}
  accept=".json,.html,application/json,text/html"
  label="Build file"
  testid="again-file"
  onpick={bringIn}
/>
<RefusedFile
  faults={refused}
  remark={`${refused?.file ?? 'It'} was not taken in; none of your boards was changed.`}
  onclose={() => (refused = null)}
/>
<div class="flex flex-wrap items-baseline gap-3 border-t border-line py-4">
  <div class="min-w-0 flex-1">
    <h2 class="text-lg">A build file</h2>
    <p class="text-sm text-ink2">Exported here, or shared by another builder.</p>
  </div>
  <Button onclick={() => picker?.pick()}>Import a file</Button>
</div>
<div class="border-t border-line py-4">
  <h2 class="text-lg">Copy one of yours</h2>
  {#if names === null}
    <p class="remark">Loading your boards…</p>
  {:else}
    <ul class="m-0 list-none p-0">
      {#each names as { id, name } (id)}
        <li class="flex items-baseline gap-3 border-b border-line py-2">
          <span class="min-w-0 flex-1">{name}</span>
          <Button onclick={() => void copy(id)}>Copy<span class="sr-only"> {name}</span></Button>
        </li>
      {:else}
        <li class="remark py-2">You have no boards yet, so there is nothing to copy.</li>
      {/each}
    </ul>
  {/if}
</div>
