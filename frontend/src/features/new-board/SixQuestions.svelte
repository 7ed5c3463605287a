<!-- A new board from six questions; from the answers the library proposes whole boards. -->
<script lang="ts">
  import { MORE, NEW_BUILD, QUESTIONS } from '$lib/api/tables.gen';
  import type { BuildFile } from '$lib/api/client';
  import { valueAt, withValue } from '$lib/paths';
  import { Drafts } from '$lib/sync/drafts';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import Questions from './Questions.svelte';

  interface Props {
    busy: boolean;
    begin: (file: BuildFile, to: string) => Promise<boolean>;
  }
  let { busy, begin }: Props = $props();

  // Kept over a reload: six answers are six too many to give twice.
  const drafts = new Drafts<BuildFile>('sand-pocket:beginning');
  let file = $state.raw<BuildFile>(drafts.read() ?? NEW_BUILD);
  let more = $state(false);

  function set(path: string, value: unknown): void {
    file = withValue(file, path, value);
    drafts.keep(file);
  }
  async function done(to: string): Promise<void> {
    if (await begin(file, to)) drafts.forget();
  }
</script>

<p class="remark">
  Six questions. Skip what you do not know; you can change everything later, and type any unit after a number.
</p>
<div class="mt-4">
  <Questions questions={QUESTIONS} {file} {set} />
  <div class="border-t border-line py-3">
    <button class="link text-sm" aria-expanded={more} onclick={() => (more = !more)}
      >{more ? 'Less' : 'More: how you stand, wind, cold, stops, rules'}</button
    >
    {#if more}
      <div class="mt-3 grid grid-cols-2 items-start gap-3 sm:grid-cols-4">
        {#each MORE as path (path)}
          <Figure {path} value={valueAt(file, path)} onchange={(value) => set(path, value)} />
        {/each}
      </div>
    {/if}
  </div>
  <div class="flex flex-wrap items-end gap-3 border-t border-line pt-4">
    <Field
      label="Name of the board"
      class="w-full sm:w-72"
      value={file.name ?? ''}
      maxlength={120}
      oninput={(event) => set('name', event.currentTarget.value || null)}
    />
    <span class="ml-auto flex flex-wrap gap-2">
      <Button type="button" disabled={busy} onclick={() => void done('')}>Choose part by part</Button>
      <Button main disabled={busy} onclick={() => void done('?propose=1')}>Propose boards</Button>
    </span>
  </div>
</div>
