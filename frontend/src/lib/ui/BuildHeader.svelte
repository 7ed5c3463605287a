<!-- The head of a room in which a build is worked on: its name and stage, whether it is saved, its views, undo and redo. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { fileAddress } from '$lib/api/client';
  import type { Workpiece } from '$lib/workpiece.svelte';
  import BuildNav, { type BuildView } from './BuildNav.svelte';
  import Conflict from './Conflict.svelte';
  import Header from './Header.svelte';

  interface Props {
    piece: Workpiece;
    current: BuildView;
    /** Further actions. */
    children?: Snippet;
  }
  let { piece, current, children }: Props = $props();

  const SAVING: Record<string, string> = {
    saved: 'saved',
    saving: 'saving…',
    unsent: 'saving…',
    offline: 'the server cannot be reached; your changes are kept here and sent when it is back',
    conflict: 'changed elsewhere',
    refused: 'not saved',
    'signed out': 'signed out elsewhere; sign in again, your changes are kept here',
  };

  function onkeydown(event: KeyboardEvent): void {
    const typing =
      event.target instanceof HTMLElement &&
      event.target.matches('input:not([type=checkbox], [type=range], [type=radio]), textarea, select');
    if (!(event.ctrlKey || event.metaKey) || typing) return;
    const key = event.key.toLowerCase();
    if (key !== 'z' && key !== 'y') return;
    event.preventDefault();
    if (key === 'y' || event.shiftKey) piece.redo();
    else piece.undo();
  }
</script>

<svelte:window
  {onkeydown}
  onpagehide={() => piece.leave()}
  ononline={() => piece.retry()}
  onfocus={() => piece.retry()}
/>
<Header>
  <div class="flex min-w-0 items-baseline gap-2">
    <input
      class="field-sizing-content max-w-[16rem] min-w-20 rounded border border-transparent bg-transparent px-1 font-semibold hover:border-line focus:border-rule"
      aria-label="Name of the board"
      value={piece.file.name ?? ''}
      maxlength="120"
      onchange={(e) => piece.set('name', e.currentTarget.value.trim() || null)}
    />
    <label class="sr-only" for="stage">Stage</label>
    <select
      id="stage"
      class="remark bg-transparent"
      value={piece.file.stage ?? 'planned'}
      onchange={(e) => piece.set('stage', e.currentTarget.value)}
    >
      <option>planned</option><option>building</option><option>riding</option>
    </select>
    <span
      class="remark"
      class:text-short={['offline', 'refused', 'signed out'].includes(piece.saving)}
      role="status"
      data-testid="saving"
      data-saving={piece.saving}>{piece.saving === 'refused' ? piece.message : SAVING[piece.saving]}</span
    >
  </div>
  <BuildNav id={piece.id} {current} />
  {#snippet actions()}
    <button
      class="button"
      disabled={!piece.canUndo}
      onclick={() => piece.undo()}
      aria-keyshortcuts="Control+Z">undo</button
    >
    <button
      class="button"
      disabled={!piece.canRedo}
      onclick={() => piece.redo()}
      aria-keyshortcuts="Control+Shift+Z">redo</button
    >
    <a class="button hidden sm:inline-flex" href={fileAddress(piece.id)} download>file</a>
    <a class="button hidden sm:inline-flex" href={`/api/builds/${piece.id}/dossier.pdf`} download>dossier</a>
    {@render children?.()}
  {/snippet}
</Header>
<Conflict {piece} />
