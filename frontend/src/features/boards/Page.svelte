<!-- The list of boards: every build with its outcomes against its own brief. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import Button from '$lib/ui/Button.svelte';
  import { onMount } from 'svelte';
  import { go, addressOf } from '$lib/navigation';
  import {
    api,
    fileAddress,
    importFile,
    type BuildFile,
    type Faults,
    type Schemas,
    type ListedBoard,
  } from '$lib/api/client';
  import BoardView from '$lib/drawings/BoardView.svelte';
  import { readCache, writeCache } from '$lib/sync/device-cache';
  import Dialog from '$lib/ui/Dialog.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import Menu from '$lib/ui/Menu.svelte';
  import RefusedFile from '$lib/ui/RefusedFile.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import Gauge from '$lib/ui/Gauge.svelte';
  import TickBar from '$lib/ui/TickBar.svelte';
  import { messageText, momentText, reader } from '$lib/reader.svelte';

  let builds = $state.raw<ListedBoard[] | null>(null);
  /** Boards of which something that is stored cannot be read. */
  let unreadable = $state.raw<Schemas['UnreadableBoard'][]>([]);
  let count = $state(0);
  let failed = $state(false);
  let fetching = $state(false);
  let fromCache = $state(false);
  /** Builds ticked to be set side by side. */
  let ticked = $state.raw<string[]>([]);
  let importFaults = $state.raw<(Faults & { file: string }) | null>(null);
  let renaming = $state.raw<ListedBoard | null>(null);
  let newName = $state('');
  let picker = $state<FilePicker>();

  const shown = $derived((builds?.length ?? 0) + unreadable.length);
  const KEPT = 'boards';
  onMount(() => load());

  /** The list of boards as far as it is open, or its next stretch. */
  async function load(further = false): Promise<void> {
    fetching = true;
    const have = shown;
    const query = further ? { offset: have } : { limit: Math.min(Math.max(have, 12), 50) };
    const answer = await api.GET('/api/boards', { params: { query } }).catch(() => null);
    fetching = false;
    failed = !answer?.data;
    if (!answer?.data) return showRemembered();
    fromCache = false;
    if (!further) void writeCache(KEPT, answer.data);
    const known = new Set(further ? builds?.map((b) => b.id) : []);
    builds = [...(further ? (builds ?? []) : []), ...answer.data.builds.filter((b) => !known.has(b.id))];
    const apart = (answer.data.unreadable ?? []).filter(
      (b) => !further || unreadable.every((u) => u.id !== b.id),
    );
    unreadable = [...(further ? unreadable : []), ...apart];
    count = answer.data.count;
    ticked = ticked.filter((id) => builds?.some((b) => b.id === id));
  }

  /** Without the server the list of boards stands as this device last saw it. */
  async function showRemembered(): Promise<void> {
    if (builds !== null) return;
    const kept = await readCache<Schemas['Boards']>(KEPT);
    if (!kept || builds !== null) return;
    builds = kept.builds;
    unreadable = kept.unreadable ?? [];
    count = kept.count;
    fromCache = true;
  }

  const MOST = 4;
  const tick = (id: string, on: boolean) =>
    (ticked = on ? [...ticked, id].slice(-MOST) : ticked.filter((t) => t !== id));

  const unreachable = () => notices.say('The server cannot be reached; nothing was changed.');

  async function duplicate(build: ListedBoard): Promise<void> {
    const answer = await api
      .POST('/api/builds/{id}/duplicate', { params: { path: { id: build.id } } })
      .catch(() => null);
    if (!answer?.data) return unreachable();
    await load();
    notices.say(`“${build.name}” duplicated.`);
  }

  async function remove(build: { id: string; name: string }): Promise<void> {
    const params = { path: { id: build.id } };
    const answer = await api.DELETE('/api/builds/{id}', { params }).catch(() => null);
    if (!answer?.response.ok) return unreachable();
    await load();
    notices.say(`“${build.name}” is deleted.`, {
      label: 'Undo',
      run: () => void api.POST('/api/builds/{id}/restore', { params }).then(() => load(), unreachable),
    });
  }

  async function rename(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    const build = renaming;
    if (!build) return;
    const path = { params: { path: { id: build.id } } };
    const current = await api.GET('/api/builds/{id}', path).catch(() => null);
    if (!current?.data) return unreachable();
    const document: BuildFile = { ...current.data.document, name: newName.trim() || null };
    const saved = await api
      .PUT('/api/builds/{id}', { ...path, body: { revision: current.data.revision, document } })
      .catch(() => null);
    if (!saved?.data) return unreachable();
    renaming = null;
    await load();
  }

  async function bringIn(file: File): Promise<void> {
    const answer = await importFile(file).catch(() => ({
      faults: { message: 'The server cannot be reached.', faults: [] } as Faults,
      build: undefined,
    }));
    if (answer.build) go(addressOf(answer.build.id));
    else if (answer.faults) importFaults = { ...answer.faults, file: file.name };
  }
</script>

{#snippet unreadableBoards()}
  {#each unreadable as board (board.id)}
    <section class="border-t border-line py-4" data-testid="unreadable-board">
      <h2 class="text-lg">{board.name}</h2>
      <p class="mt-1 text-sm text-short">
        This board cannot be read: {board.reason}. Download the file, correct it, and import it.
      </p>
      <p class="mt-2 flex flex-wrap gap-2">
        <Button href={fileAddress(board.id)} download>Download the file</Button>
        <Button onclick={() => remove(board)}>Delete</Button>
      </p>
    </section>
  {/each}
{/snippet}

<svelte:window ononline={() => void load()} />
<FilePicker
  bind:this={picker}
  accept=".json,.html,application/json,text/html"
  label="Build file"
  testid="import"
  onpick={bringIn}
/>

<main class="mx-auto w-full max-w-5xl px-4 py-6 sm:px-6">
  <div class="flex flex-wrap items-center gap-2">
    <h1 class="mr-auto text-2xl">Your boards</h1>
    <Button onclick={() => picker?.pick()}>Import a file</Button>
    <Button main href="/new-board">New board</Button>
  </div>
  {#if builds?.length}
    <p class="remark mb-4">
      Each board and its brief: the mark is your target, the block is the predicted range.
    </p>
    {#if fromCache}
      <p class="mb-3 text-sm text-unsure" role="status">
        The server cannot be reached: these are your boards as this device last loaded them. The boards that
        you opened last can be opened; what you enter is sent later.
      </p>
    {/if}
    <ul class="m-0 list-none p-0">
      {#each builds as build (build.id)}
        <li
          class="grid items-start gap-x-8 gap-y-3 border-t border-line py-4 md:grid-cols-[minmax(0,1fr)_minmax(0,250px)_minmax(0,400px)]"
          data-testid="board-listed"
        >
          <div>
            <h2 class="text-xl"><a class="hover:underline" href={addressOf(build.id)}>{build.name}</a></h2>
            <p class="remark">{build.stage ?? 'planned'}, changed {momentText(build.updated_at)}</p>
            {#if build.dangers || build.stops}
              <p class="mt-1 text-sm font-semibold text-short" data-testid="grave">
                <span aria-hidden="true">!</span>
                {[
                  build.dangers ? plural(build.dangers, ['# danger', '# dangers']) : '',
                  build.stops ? plural(build.stops, ['# stop', '# stops']) : '',
                ]
                  .filter(Boolean)
                  .join(', ')}
              </p>
            {/if}
            <p class="mt-1 text-sm" data-testid="next-step">
              {#if build.next}
                <span class="text-ink2">Next:</span>
                <a class="hover:underline" href={addressOf(build.id)}>{messageText(build.next.title)}</a>
              {:else}
                <span class="text-ink2">Nothing to do right now.</span>
              {/if}
            </p>
            <div class="mt-3 flex flex-wrap gap-2">
              <Button href={addressOf(build.id)}>Open</Button>
              <Menu
                label={`More for ${build.name}`}
                items={[
                  { label: 'Rename', run: () => ((newName = build.name), (renaming = build)) },
                  { label: 'Duplicate', run: () => void duplicate(build) },
                  {
                    label: 'Export the build file',
                    run: () => (window.location.href = fileAddress(build.id)),
                  },
                  { label: 'Delete', run: () => void remove(build), grave: true },
                ]}>More <span aria-hidden="true">▾</span></Menu
              >
              <label class="flex items-center gap-1.5 text-sm text-ink2">
                <input
                  type="checkbox"
                  class="size-4 accent-ink"
                  checked={ticked.includes(build.id)}
                  onchange={(e) => tick(build.id, e.currentTarget.checked)}
                  aria-label={`Compare ${build.name}`}
                />compare
              </label>
            </div>
          </div>
          <a class="block h-28" href={addressOf(build.id)} tabindex="-1" aria-hidden="true">
            <BoardView drawing={build.side} units={reader.units} plain />
          </a>
          <div class="grid grid-cols-5 gap-3">
            {#each build.headline.outcomes as outcome (outcome.name)}
              <div class="min-w-0">
                <p class="mb-1 text-xs text-ink2">{outcome.title}</p>
                <Gauge
                  {outcome}
                  units={reader.units}
                  currency={build.currency}
                  compact
                  height={96}
                  width={64}
                />
              </div>
            {/each}
          </div>
        </li>
      {/each}
    </ul>
    {@render unreadableBoards()}
    {#if shown < count}
      <p class="border-t border-line py-4">
        <Button disabled={fetching} onclick={() => load(true)}
          >{fetching ? 'Loading…' : `Show more: ${shown} of ${count} loaded`}</Button
        >
      </p>
    {/if}
  {:else if unreadable.length}
    {@render unreadableBoards()}
  {:else if builds}
    <div class="border-t border-line py-10">
      <p class="font-serif text-xl text-ink2">No boards yet.</p>
      <p class="remark mt-1 mb-4 max-w-lg">
        Start with what the board is for; choose the parts in any order. You can also import a friend’s build
        file.
      </p>
      <Button main href="/new-board">Start a board</Button>
    </div>
  {:else if failed}
    <p class="py-8 text-short" role="alert">
      Your boards cannot be loaded at the moment. <button class="link" onclick={() => load()}
        >Try again</button
      >
    </p>
  {:else}
    <p class="remark py-8">Loading your boards…</p>
  {/if}
</main>

<TickBar
  count={ticked.length}
  said={plural(ticked.length, [
    'One board ticked: tick another to set them side by side.',
    '# boards ticked.',
  ])}
  untick={() => (ticked = [])}
>
  <Button main href={`/compare/${ticked.join(',')}`}>Compare them</Button>
</TickBar>

<Dialog open={renaming !== null} title="Rename">
  <form class="flex gap-2" onsubmit={rename}>
    <input class="entry" aria-label="Name of the board" bind:value={newName} maxlength="120" />
    <Button main>Rename</Button>
    <Button type="button" onclick={() => (renaming = null)}>Cancel</Button>
  </form>
</Dialog>

<RefusedFile
  faults={importFaults}
  remark={`${importFaults?.file ?? 'It'} was not taken in; none of your boards was changed.`}
  onclose={() => (importFaults = null)}
/>
