<!-- The find box: pages, boards, parts, fields, findings and words, by any name that builders use. Opens with Ctrl K or /. -->
<script lang="ts">
  import { Command } from 'bits-ui';
  import { api } from '$lib/api/client';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import { go } from '$lib/navigation';
  import { reader } from '$lib/reader.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { formatMessage } from '$lib/units';
  import {
    boardEntries,
    findingEntries,
    search,
    indexOf,
    partEntries,
    fixedEntries,
    type Entry,
  } from './find';
  import { finder } from './finder.svelte';

  let { build }: { build?: OpenBuild } = $props();
  let words = $state('');
  /** What the server knows: boards, findings and, by what is typed, parts. */
  let boards = $state.raw<Entry[]>([]);
  let findings = $state.raw<Entry[]>([]);
  let parts = $state.raw<Entry[]>([]);

  const index = $derived(
    finder.open ? indexOf([...fixedEntries(build?.id ?? null), ...boards, ...findings, ...parts]) : null,
  );
  const groups = $derived(index && words.trim() ? search(index, words) : []);

  // Pages and fields are found at once, and without the server; the rest as it comes.
  $effect(() => {
    if (!finder.open) return;
    void api.GET('/api/builds/names').then(
      ({ data }) => (boards = boardEntries(data ?? [])),
      () => null,
    );
    const open = build;
    findings = [];
    if (!open) return;
    const say = (message: Parameters<typeof formatMessage>[0]) =>
      formatMessage(message, reader.units, open.file.currency);
    void api.POST('/api/predict', { body: { document: open.board, board: open.id } }).then(
      ({ data }) => {
        if (open === build) findings = findingEntries(open.id, data?.findings ?? [], say);
      },
      () => null,
    );
  });
  $effect(() => {
    const find = words.trim();
    if (!finder.open || find.length < 2) return;
    const abort = new AbortController();
    const pause = setTimeout(() => {
      const query = { find, limit: 6 };
      void api.GET('/api/parts', { params: { query }, signal: abort.signal }).then(
        ({ data }) => (parts = partEntries(data?.parts ?? [])),
        () => null,
      );
    }, 150);
    return () => {
      clearTimeout(pause);
      abort.abort();
    };
  });

  function pick(entry: Entry): void {
    if (!entry.href) return;
    finder.open = false;
    words = '';
    go(entry.href);
  }

  function onkeydown(event: KeyboardEvent): void {
    const typing =
      event.target instanceof HTMLElement &&
      event.target.matches('input:not([type=checkbox], [type=range], [type=radio]), textarea, select');
    const asked =
      ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') ||
      (event.key === '/' && !typing && !event.ctrlKey && !event.metaKey && !event.altKey);
    if (!asked || document.querySelector('[role="dialog"]')) return;
    event.preventDefault();
    finder.open = true;
  }
</script>

<svelte:window {onkeydown} />
<Dialog bind:open={finder.open} title="Find" wide onclose={() => (words = '')}>
  <Command.Root shouldFilter={false} label="What to find" loop class="min-h-[60dvh]">
    <Command.Input
      class="entry"
      placeholder="Page, board, part, field, finding or word, such as BMS or 10S4P"
      bind:value={words}
    />
    <Command.List class="mt-2" aria-label="Found">
      <Command.Viewport>
        {#each groups as { group, entries } (group)}
          <Command.Group value={group}>
            <Command.GroupHeading class="mt-2 text-xs text-ink2">{group}</Command.GroupHeading>
            <Command.GroupItems>
              {#each entries as entry (entry.id)}
                <Command.Item
                  value={entry.id}
                  onSelect={() => pick(entry)}
                  class="cursor-pointer rounded px-2 py-1.5 data-selected:bg-chosen max-sm:py-2.5"
                  data-testid="found"
                >
                  <span class="font-semibold">{entry.title}</span>
                  <span class="ml-1 text-sm text-ink2">{entry.about}</span>
                </Command.Item>
              {/each}
            </Command.GroupItems>
          </Command.Group>
        {/each}
      </Command.Viewport>
    </Command.List>
    {#if !words.trim()}
      <p class="remark">
        Type a few letters. The usual names work too: ESC finds the controller, BOM the parts list.
      </p>
    {:else if !groups.length}
      <p role="status">Nothing is called “{words.trim()}”. Try another word for it.</p>
    {/if}
  </Command.Root>
</Dialog>
