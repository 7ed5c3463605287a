<!-- A board that is there: what it is, what it does, and what will be another. Only the change is planned and paid. -->
<script lang="ts">
  import { KINDS, NEW_BUILD, OF_A_BOARD, REPLACEABLE } from '$lib/api/tables.gen';
  import { api, faultsOf, type BuildFile } from '$lib/api/client';
  import { withValue } from '$lib/paths';
  import { kindName } from '$lib/parts';
  import { Drafts } from '$lib/sync/drafts';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Questions from './Questions.svelte';

  interface Props {
    busy: boolean;
    begin: (file: BuildFile, to: string) => Promise<boolean>;
  }
  let { busy, begin }: Props = $props();

  type Draft = { file: BuildFile; replaced: string[] };
  const drafts = new Drafts<Draft>('sand-pocket:existing');
  const blank: Draft = { file: { ...NEW_BUILD, name: 'My board' }, replaced: [] };
  let draft = $state.raw<Draft>(drafts.read() ?? blank);
  let trouble = $state('');

  function keep(changed: Partial<Draft>): void {
    draft = { ...draft, ...changed };
    drafts.keep(draft);
  }
  const set = (path: string, value: unknown) => keep({ file: withValue(draft.file, path, value) });
  const tick = (kind: string, on: boolean) =>
    keep({ replaced: on ? [...draft.replaced, kind] : draft.replaced.filter((k) => k !== kind) });

  async function take(): Promise<void> {
    trouble = '';
    const answer = await api
      .POST('/api/builds/adapt', { body: { document: draft.file, replaced: draft.replaced } })
      .catch(() => null);
    if (!answer?.data) {
      const found = answer?.error ? faultsOf(answer.error) : null;
      trouble = found
        ? (found.faults[0]?.reason ?? found.message)
        : 'The server cannot be reached; your answers are kept here.';
      return;
    }
    const first = draft.replaced[0];
    const to = first ? `?at=${KINDS[first]!.path}.name` : '';
    if (await begin(answer.data, to)) drafts.forget();
  }
</script>

<p class="remark">
  Enter what you know. What stays is already yours and costs nothing; only new parts are planned and paid.
</p>
<div class="mt-4">
  <Questions questions={OF_A_BOARD} file={draft.file} {set} />
  <div
    role="group"
    aria-labelledby="replaced"
    class="grid gap-x-8 gap-y-2 border-y border-line py-4 sm:grid-cols-[minmax(0,1fr)_minmax(0,24rem)]"
  >
    <div>
      <h2 id="replaced" class="text-lg">
        <span class="mr-2 text-ink2">{OF_A_BOARD.length + 1}</span>What will you replace?
      </h2>
      <p class="text-sm text-ink2">The rest stays. Tick nothing to keep the board as it is.</p>
    </div>
    <div class="grid grid-cols-2 gap-x-3 gap-y-1.5 sm:grid-cols-3">
      {#each REPLACEABLE as kind (kind)}
        <label class="flex items-center gap-2">
          <input
            type="checkbox"
            checked={draft.replaced.includes(kind)}
            onchange={(event) => tick(kind, event.currentTarget.checked)}
          />
          {kindName(kind)}
        </label>
      {/each}
    </div>
  </div>
  {#if trouble}<p class="py-2 text-short" role="alert">{trouble}</p>{/if}
  <div class="flex flex-wrap items-end gap-3 pt-4">
    <Field
      label="Name of the board"
      class="w-full sm:w-72"
      value={draft.file.name ?? ''}
      maxlength={120}
      oninput={(event) => set('name', event.currentTarget.value || null)}
    />
    <span class="ml-auto"
      ><Button main disabled={busy} onclick={() => void take()}
        >{draft.replaced.length ? 'Plan the change' : 'Use this board'}</Button
      ></span
    >
  </div>
</div>
