<!-- How a build came to be what it is: its named points along one line, what changed between them, and the way back. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import Field from '$lib/ui/Field.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { go } from '$lib/navigation';
  import { api, faultsOf, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import Changes from '$lib/ui/Changes.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import TickBar from '$lib/ui/TickBar.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import { momentText } from '$lib/reader.svelte';

  type Revision = Schemas['RevisionOut'];

  const build = getBuildContext();
  const path = { params: { path: { id: build.id } } };
  /** What the server has, so that what was just changed is in it. */
  const asked = new Query(
    () => build.revision,
    async (_, signal) => {
      await build.settled();
      return api.GET('/api/builds/{id}/revisions', { ...path, signal });
    },
    { cacheKey: () => `revisions:${build.id}` },
  );
  const history = $derived(asked.answer);
  let name = $state('');
  let note = $state('');
  let refused = $state('');
  let ticked = $state.raw<string[]>([]);
  let goingBack = $state.raw<Revision | null>(null);
  let renaming = $state.raw<Revision | null>(null);
  let renamedElsewhere = $state(false);
  let newName = $state('');
  let newNote = $state('');

  const unreachable = () => notices.say('The server cannot be reached; nothing was changed.');

  const kept = $derived(history?.revisions ?? []);
  const latestFirst = $derived(kept.toReversed());
  const unkept = $derived(kept.length === 0 || (history?.since.length ?? 0) > 0);
  const SUGGESTED: Record<string, string> = {
    planned: 'Planned',
    building: 'As built',
    riding: 'After the first ride',
  };
  const suggestion = $derived(
    [SUGGESTED[build.file.stage ?? 'planned']!, 'Ordered', 'After the new gearing'].find(
      (s) => !kept.some((r) => r.name === s),
    ) ?? '',
  );

  async function keep(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    refused = '';
    const body = { name: name.trim() || suggestion, note: note.trim() };
    const { data, error } = await api
      .POST('/api/builds/{id}/revisions', { ...path, body })
      .catch(() => ({ data: undefined, error: undefined }));
    if (!data) {
      refused = error ? faultsOf(error).message : 'The server cannot be reached; nothing was changed.';
      return;
    }
    name = note = '';
    await asked.again();
  }

  async function goBack(): Promise<void> {
    const to = goingBack;
    if (!to) return;
    await build.settled();
    const answer = await api
      .POST('/api/builds/{id}/revisions/{revision_id}/go-back', {
        params: { path: { id: build.id, revision_id: to.id } },
        body: { revision: build.revision },
      })
      .catch(() => null);
    goingBack = null;
    if (!answer) return unreachable();
    if (answer.response.status === 409)
      notices.say('The build was changed elsewhere meanwhile; look again before you restore it.');
    else if (answer.error) notices.say(faultsOf(answer.error).message);
    else {
      if (answer.data) build.follow(answer.data);
      notices.say(`Back to “${to.name}”. The state before is saved above it.`);
    }
    await asked.again();
  }

  function edit(revision: Revision): void {
    renaming = revision;
    renamedElsewhere = false;
    newName = revision.name;
    newNote = revision.note;
  }
  async function rename(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    if (!renaming) return;
    const answer = await api
      .PUT('/api/builds/{id}/revisions/{revision_id}', {
        params: { path: { id: build.id, revision_id: renaming.id } },
        body: { name: newName, note: newNote, before: { name: renaming.name, note: renaming.note } },
      })
      .catch(() => null);
    if (!answer) return unreachable();
    if (answer.response.status === 409) {
      // What was entered stays; saved again, it replaces what came from elsewhere.
      renaming = answer.error as unknown as Revision;
      renamedElsewhere = true;
      return;
    }
    if (answer.error) return void notices.say(faultsOf(answer.error).message);
    renaming = null;
    await asked.again();
  }

  const NOW = 'now';
  const tick = (id: string, on: boolean) =>
    (ticked = on ? [...ticked, id].slice(-4) : ticked.filter((t) => t !== id));
  const refs = $derived(
    // In the order of the build's life, the latest last.
    [...kept.map((r) => r.id), NOW]
      .filter((id) => ticked.includes(id))
      .map((id) => (id === NOW ? build.id : `${build.id}@${id}`))
      .join(','),
  );
</script>

{#if history}
  <main class="mx-auto w-full max-w-4xl px-4 py-4 sm:px-6">
    <h1 class="text-xl">Revisions</h1>
    <p class="remark">
      Saved states of the board. Restoring one saves the current state first; nothing is lost.
    </p>

    <ol class="relative m-0 mt-4 list-none border-l-2 border-ink pl-0">
      <li class="relative pb-5 pl-7" data-testid="now">
        <span
          class="absolute top-1 -left-[9px] size-4 rounded-full border-2 border-ink bg-paper"
          aria-hidden="true"
        ></span>
        <div class="flex flex-wrap items-baseline gap-x-3">
          <h2 class="text-base">Current state</h2>
          <span class="remark text-sm"
            >{build.file.stage ?? 'planned'}, saved {momentText(build.updatedAt)}</span
          >
          {@render tickBox(NOW, 'as it is now')}
        </div>
        {#if history.since.length}
          <Changes changes={history.since} currency={build.file.currency} />
        {:else if kept.length}
          <p class="text-sm text-ink2">Parts, settings and brief are unchanged since the last revision.</p>
        {/if}
        {#if unkept}
          <form class="mt-2 flex flex-wrap items-end gap-2" onsubmit={keep}>
            <Field label="Save as" class="w-52" placeholder={suggestion} bind:value={name} maxlength={60} />
            <Field
              label="Note: why, or what you learned"
              class="min-w-40 flex-1"
              bind:value={note}
              maxlength={600}
            />
            <Button main>Keep it</Button>
          </form>
          {#if refused}<p class="mt-1 text-sm text-short" role="alert">{refused}</p>{/if}
        {/if}
      </li>
      {#each latestFirst as revision, i (revision.id)}
        <li class="relative pb-5 pl-7" data-testid="revision" data-name={revision.name}>
          <span
            class="absolute top-1 -left-[9px] size-4 rounded-full border-2 border-ink bg-ink"
            aria-hidden="true"
          ></span>
          <div class="flex flex-wrap items-baseline gap-x-3">
            <h2 class="text-base">{revision.name}</h2>
            <span class="remark text-sm">{momentText(revision.created_at)}</span>
            {@render tickBox(revision.id, revision.name)}
          </div>
          {#if revision.note}<p class="remark">{revision.note}</p>{/if}
          {#if revision.changed.length}
            <Changes changes={revision.changed} currency={build.file.currency} />
          {:else}
            <p class="text-sm text-ink2">
              {i === latestFirst.length - 1
                ? 'The first revision.'
                : 'No part, setting or target changed from the revision before.'}
            </p>
          {/if}
          <div class="mt-1 flex gap-4 text-sm">
            <button
              class="link"
              onclick={() => (goingBack = revision)}
              aria-label={`Restore ${revision.name}`}>Restore</button
            >
            <button
              class="link"
              onclick={() => edit(revision)}
              aria-label={`Name and note of ${revision.name}`}>Name and note</button
            >
          </div>
        </li>
      {/each}
    </ol>
  </main>
  <TickBar
    count={ticked.length}
    said={plural(ticked.length, [
      'One point ticked: tick another to see what changed between them.',
      '# points ticked.',
    ])}
    untick={() => (ticked = [])}
  >
    <Button main onclick={() => go(`/compare/${refs}`)}>Show the differences</Button>
  </TickBar>
{:else if asked.failed}
  <main class="px-6 py-8">
    <p class="text-short" role="alert">
      The revisions cannot be loaded at the moment; your board is saved.
      <button class="link" onclick={() => asked.again()}>Try again</button>
    </p>
  </main>
{:else}
  <p class="remark px-6 py-8">Loading the revisions…</p>
{/if}

{#snippet tickBox(id: string, label: string)}
  <label class="ml-auto flex items-center gap-1.5 text-sm text-ink2">
    <input
      type="checkbox"
      class="size-4 accent-ink"
      checked={ticked.includes(id)}
      onchange={(e) => tick(id, e.currentTarget.checked)}
      aria-label={`Compare ${label}`}
    />compare
  </label>
{/snippet}

<Dialog
  open={goingBack !== null}
  title={`Back to “${goingBack?.name ?? ''}”`}
  onclose={() => (goingBack = null)}
  remark="The board becomes what it was then, as a new point. The board as it is now is kept as a point too, if it is not one already."
>
  <p class="text-sm">Orders, prices and arrivals go back with it; the revisions in between stay.</p>
  {#snippet actions()}
    <Button onclick={() => (goingBack = null)}>Cancel</Button>
    <Button main onclick={goBack}>Restore</Button>
  {/snippet}
</Dialog>

<Dialog open={renaming !== null} title="Name and note" onclose={() => (renaming = null)}>
  <form class="grid gap-2" onsubmit={rename}>
    {#if renaming && renamedElsewhere}
      <p class="m-0 text-sm text-short" role="alert">
        Another window or device saved this meanwhile: “{renaming.name}”{renaming.note
          ? `, with the note “${renaming.note}”`
          : ', without a note'}. Save to replace it with what you entered here.
      </p>
    {/if}
    <input class="entry" aria-label="Name of the point" bind:value={newName} maxlength="60" required />
    <textarea class="entry" rows="3" aria-label="Note" bind:value={newNote} maxlength="600"></textarea>
    <div class="flex justify-end gap-2">
      <Button type="button" onclick={() => (renaming = null)}>Cancel</Button>
      <Button main>Save</Button>
    </div>
  </form>
</Dialog>
