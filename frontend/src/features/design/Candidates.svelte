<!-- What would it change: the library's parts for a slot, each tried on the build before anything is chosen. -->
<script lang="ts">
  import { messageText, reader } from '$lib/reader.svelte';
  import { untrack } from 'svelte';
  import { OUTCOME_TITLES } from '$lib/api/tables.gen';
  import { api, type Candidate, type Schemas } from '$lib/api/client';
  import { changeText, type Shown } from '$lib/changes';
  import { shownUnit, formatMessage, toShown, written } from '$lib/units';
  import type { Design } from './design.svelte';
  import { type Slot } from './stations';
  import { decidingText } from '$lib/parts';

  interface Props {
    design: Design;
    slot: Slot;
  }
  let { design, slot }: Props = $props();

  type Column = Candidate['changes'][number]['name'];

  let rows = $state.raw<Candidate[] | null>(null);
  let failed = $state(false);
  let search = $state('');
  let lacks = $state<string | null>(null);
  /** The outcomes that any of them moves, and what else there is to tell of such a part. */
  let columns = $state.raw<Column[]>([]);
  let own = $state.raw<Schemas['OwnColumn'][]>([]);
  let nothing = $state.raw<Schemas['Message'] | null>(null);
  let sortBy = $state<Column | 'name' | 'best'>('best');
  let onlyFitting = $state(false);
  let onlyOwned = $state(false);
  let dearest = $state<number | null>(null);
  let cursor = $state(0);
  let searchField = $state<HTMLInputElement>();
  let asked = 0;

  $effect(() => {
    const document = design.build.board;
    const kind = slot.kind;
    // The first time at once; then when the hands pause, as the gauges come first.
    const timer = setTimeout(() => void ask(document, kind), untrack(() => rows) ? 250 : 0);
    return () => clearTimeout(timer);
  });

  async function ask(document: typeof design.build.board, kind: string): Promise<void> {
    const mine = ++asked;
    try {
      const { data } = await api.POST('/api/candidates', {
        body: { document, board: design.build.id, kind },
      });
      if (mine !== asked) return;
      failed = !data;
      if (data) {
        rows = data.candidates;
        lacks = data.lacks ?? null;
        columns = data.columns;
        own = data.own;
        nothing = data.nothing ?? null;
      }
    } catch {
      if (mine === asked) failed = true;
    }
  }

  const shown = $derived.by(() => {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    const found = (rows ?? []).filter((r) => {
      if (onlyFitting && r.fits === false && !r.chosen) return false;
      if (onlyOwned && !r.owned) return false;
      if (dearest !== null && (r.price ?? Infinity) > dearest) return false;
      const text =
        `${r.name} ${r.maker ?? ''} ${decidingText(slot.kind, r.record, reader.units)}`.toLowerCase();
      return words.every((w) => text.includes(w));
    });
    if (sortBy === 'best') return found;
    if (sortBy === 'name') return found.toSorted((a, b) => a.name.localeCompare(b.name));
    const column = sortBy;
    const gain = (r: Candidate) => {
      const change = r.changes.find((c) => c.name === column);
      return (change?.change ?? 0) * (change?.more_is_better ? 1 : -1);
    };
    return found.toSorted((a, b) => gain(b) - gain(a));
  });

  const nameTitle = $derived(
    sortBy === 'best' && lacks
      ? `${slot.name.toLowerCase()}, best for ${lacks} first`
      : slot.name.toLowerCase(),
  );
  const unitOf = (column: Column) =>
    column === 'money'
      ? (design.build.file.currency ?? '')
      : shownUnit(
          { speed: 'speed', hill: 'grade', range: 'distance', carry: 'body_mass' }[column],
          reader.units,
        ).unit;

  function nowText(row: Candidate, column: Column): Shown {
    const now = row.changes.find((c) => c.name === column);
    if (!now || now.mid == null) return { text: '–', tone: 'text-ink2' };
    const value = toShown(now.mid, now.quantity, reader.units);
    return { text: value.toFixed(column === 'money' ? 0 : column === 'carry' ? 2 : 1), tone: 'remark' };
  }

  /** The candidate that is asked why it does not fit. */
  let told = $state<string | null>(null);

  function choose(row: Candidate): void {
    design.choose(row.parts, row.left_over, row.settings);
  }
  function ownText(row: Candidate, id: string): string {
    const told = row.own?.[id];
    if (told?.figure) return written(told.figure.value, told.figure.quantity, reader.units);
    return told?.words ?? '–';
  }
  const width = $derived(2 + columns.length + own.length);

  function onkeydown(event: KeyboardEvent): void {
    const last = shown.length - 1;
    if (event.key === 'ArrowDown') cursor = Math.min(cursor + 1, last);
    else if (event.key === 'ArrowUp') cursor = Math.max(cursor - 1, 0);
    else if (event.key === 'Home') cursor = 0;
    else if (event.key === 'End') cursor = last;
    else if (event.key === 'Enter' && shown[cursor]) choose(shown[cursor]!);
    else return;
    event.preventDefault();
    const row = document.getElementById(`candidate-${shown[cursor]?.id}`);
    if (event.key !== 'Enter') row?.focus();
    row?.scrollIntoView({ block: 'nearest' });
  }

  /** `/` on the page comes here. */
  export function find(): void {
    searchField?.focus();
  }
</script>

<div class="flex min-h-0 flex-1 flex-col">
  <div class="flex flex-wrap items-center gap-x-4 gap-y-1 pb-1">
    <input
      bind:this={searchField}
      bind:value={search}
      class="entry max-w-44"
      type="search"
      placeholder="Find a part  /"
      aria-label={`Find among ${slot.name.toLowerCase()} parts`}
      {onkeydown}
      oninput={() => (cursor = 0)}
    />
    <label class="flex items-center gap-1.5 text-sm whitespace-nowrap">
      <input type="checkbox" bind:checked={onlyFitting} /> fits
    </label>
    <label class="flex items-center gap-1.5 text-sm whitespace-nowrap">
      <input type="checkbox" bind:checked={onlyOwned} /> already owned
    </label>
    <label class="flex items-center gap-1.5 text-sm whitespace-nowrap">
      at most
      <input
        class="entry w-16"
        type="number"
        min="0"
        aria-label={`Price at most, ${design.build.file.currency ?? ''}`}
        bind:value={dearest}
      />
    </label>
  </div>
  <div class="relative min-h-0 flex-1 overflow-auto" role="region" aria-label="Candidates">
    <table class="w-full border-collapse text-sm">
      <thead class="sticky top-0 z-10 bg-paper">
        <tr>
          {#each ['name', ...columns] as const as column (column)}
            <th
              class="border-b border-ink px-2 py-1 text-right text-xs font-normal whitespace-nowrap text-ink2 first:pl-2 first:text-left"
              aria-sort={sortBy === column ? 'descending' : 'none'}
            >
              <button
                class:font-bold={sortBy === column}
                class:text-ink={sortBy === column}
                onclick={() => (sortBy = sortBy === column ? 'best' : column)}
                title={column === 'name' ? 'By name' : `Best ${OUTCOME_TITLES[column].toLowerCase()} first`}
              >
                {column === 'name'
                  ? nameTitle
                  : `${OUTCOME_TITLES[column].toLowerCase()} ${unitOf(column)}`}{sortBy === column &&
                column !== 'name'
                  ? ' ▾'
                  : ''}
              </button>
            </th>
          {/each}
          {#each own as column (column.id)}
            <th
              class="border-b border-ink px-2 py-1 text-right text-xs font-normal whitespace-nowrap text-ink2"
              >{column.title}</th
            >
          {/each}
          <th class="border-b border-ink px-2 py-1 text-left text-xs font-normal text-ink2">Fits</th>
        </tr>
      </thead>
      <tbody>
        {#each shown as row, i (row.id)}
          <tr
            id={`candidate-${row.id}`}
            tabindex={i === cursor ? 0 : -1}
            class="cursor-pointer border-b border-line outline-offset-[-2px] hover:bg-chosen"
            class:bg-chosen={row.chosen}
            aria-selected={row.chosen}
            data-testid="candidate"
            data-name={row.name}
            onclick={() => {
              cursor = i;
              choose(row);
            }}
            onfocus={() => (cursor = i)}
            {onkeydown}
          >
            <td class="py-1 pr-2 pl-2 whitespace-nowrap" class:chosen-mark={row.chosen}>
              <span class="font-semibold">{row.name}</span>
              {#if row.chosen}<span class="remark ml-1 text-sm">chosen</span>{/if}
              {#if row.owned}<span class="remark ml-1 text-sm">already owned</span>{/if}
            </td>
            {#each columns as column (column)}
              {@const cell = row.chosen
                ? nowText(row, column)
                : changeText(
                    row.changes.find((c) => c.name === column),
                    reader.units,
                  )}
              <td class={`px-2 py-1 text-right whitespace-nowrap ${cell.tone}`}
                >{cell.text}{#if cell.unsure}<span class="ml-1 text-xs text-ink2">{cell.unsure}</span
                  >{/if}</td
              >
            {/each}
            {#each own as column (column.id)}
              <td class="px-2 py-1 text-right whitespace-nowrap">{ownText(row, column.id)}</td>
            {/each}
            <td
              class="max-w-48 px-2 py-1 text-sm"
              class:text-short={row.fits === false}
              class:text-holds={row.fits}
            >
              {#if row.fits}✓<span class="sr-only">fits</span>
              {:else if row.fits == null}<span class="text-ink2" title="Nothing to fit to yet"
                  >not yet known</span
                >
              {:else}
                <button
                  class="block w-full truncate text-left"
                  aria-expanded={told === row.id}
                  onclick={(event) => {
                    event.stopPropagation();
                    told = told === row.id ? null : row.id;
                  }}
                  onkeydown={(event) => event.key === 'Enter' && event.stopPropagation()}
                  >× {row.findings.map((f) => messageText(f.title)).join('; ')}</button
                >
              {/if}
            </td>
          </tr>
          {#if told === row.id}
            <tr class="border-b border-line" data-testid="why-not">
              <td colspan={width} class="px-2 py-1.5 text-sm">
                {#each row.findings as f (f.id)}
                  <p><span class="font-semibold">{messageText(f.title)}.</span> {messageText(f.message)}</p>
                {/each}
              </td>
            </tr>
          {/if}
        {:else}
          <tr>
            <td colspan={width} class="remark px-2 py-6">
              {#if nothing}{formatMessage(nothing, reader.units)}
              {:else if failed}The library cannot be loaded at the moment; your board is saved.
              {:else if rows === null}Comparing the parts…
              {:else if search}No part matches “{search}”.
              {:else}No part matches these filters.{/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
</div>

<style>
  .chosen-mark {
    box-shadow: inset 3px 0 var(--color-ink);
  }
</style>
