<!-- The one head of every page: the workshop, the board with its menu, the storeys, saved or not, the way back, who you are. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import { roomsOf, type Room } from '$lib/rooms';
  import { STOREYS } from '$lib/api/tables.gen';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import { roomOf } from '$lib/navigation';
  import AccountMenu from './AccountMenu.svelte';
  import BoardMenu from './BoardMenu.svelte';
  import Saving from './Saving.svelte';

  interface Props {
    build?: OpenBuild;
    /** The room that is open. */
    room?: Room | null;
    /** The page outside of boards that is open. */
    outside?: 'shelf' | 'library';
  }
  let { build, room, outside }: Props = $props();

  const rooms = $derived(room?.storey ? roomsOf(room.storey) : []);
  /** A storey opens at its first room. */
  const doors = $derived(
    build
      ? [
          {
            slug: 'stands',
            title: 'Where it stands',
            short: 'Stands',
            href: roomOf(build.id),
            open: room?.slug === 'stands',
          },
          ...STOREYS.map((s) => ({
            slug: s.slug,
            title: s.title,
            short: s.title,
            href: roomOf(build!.id, roomsOf(s.slug)[0]!.slug),
            open: room?.storey === s.slug,
          })),
        ]
      : [],
  );
</script>

<header class="border-b border-line">
  <div class="flex h-[52px] items-center gap-2 px-3 sm:gap-4 sm:px-5">
    <a
      href="/"
      class="font-serif text-xl font-semibold whitespace-nowrap"
      class:max-sm:hidden={build !== undefined}>Sand Pocket</a
    >
    {#if build}
      <BoardMenu {build} />
      <nav class="hidden h-full items-stretch gap-1 lg:flex" aria-label="Storeys">
        {#each doors as door (door.slug)}
          <a
            class="storey"
            data-text={door.title}
            aria-current={door.open ? 'page' : undefined}
            href={door.href}>{door.title}</a
          >
        {/each}
      </nav>
    {:else}
      <nav class="flex h-full items-stretch gap-1" aria-label="Workshop">
        <a class="storey" aria-current={outside === 'shelf' ? 'page' : undefined} href="/">Shelf</a>
        <a class="storey" aria-current={outside === 'library' ? 'page' : undefined} href="/library">Library</a
        >
      </nav>
    {/if}
    <div class="ml-auto flex items-center gap-1.5 sm:gap-2.5">
      {#if build}
        <Saving {build} />
        <Button disabled={!build.history.canUndo} onclick={() => build!.undo()} aria-keyshortcuts="Control+Z"
          >undo</Button
        >
        <Button
          disabled={!build.history.canRedo}
          onclick={() => build!.redo()}
          aria-keyshortcuts="Control+Shift+Z">redo</Button
        >
      {/if}
      <div class:max-sm:hidden={build !== undefined}><AccountMenu /></div>
    </div>
  </div>
  {#if rooms.length}
    <nav
      class="flex flex-wrap items-center gap-x-5 border-t border-line px-3 py-1 sm:px-5"
      aria-label="Rooms of this storey"
    >
      {#each rooms as r (r.slug)}
        <a
          class="tab room leading-6"
          data-text={r.title}
          aria-current={r.slug === room?.slug ? 'page' : undefined}
          href={roomOf(build!.id, r.slug)}>{r.title}</a
        >
      {/each}
    </nav>
  {/if}
</header>

{#if build}
  <nav class="thumb lg:hidden" aria-label="Storeys at the thumb" data-testid="thumb">
    {#each doors as door (door.slug)}
      <a class="door" aria-current={door.open ? 'page' : undefined} href={door.href}>{door.short}</a>
    {/each}
  </nav>
{/if}

<style>
  /* As wide as it is in bold, so that nothing moves when another one opens. */
  .storey::after,
  .room::after {
    content: attr(data-text);
    display: block;
    height: 0;
    overflow: hidden;
    visibility: hidden;
    font-weight: 600;
  }
  .storey {
    display: flex;
    flex-direction: column;
    justify-content: center;
    align-items: center;
    padding: 0 12px;
    border-bottom: 3px solid transparent;
    margin-bottom: -1px;
    color: var(--color-ink2);
    white-space: nowrap;
  }
  .storey:hover {
    color: var(--color-ink);
  }
  .storey[aria-current='page'] {
    border-bottom-color: var(--color-ink);
    color: var(--color-ink);
    font-weight: 600;
  }
  .thumb {
    position: fixed;
    inset: auto 0 0;
    z-index: 20;
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(0, 1fr);
    background: var(--color-sheet);
    border-top: 1px solid var(--color-line);
    padding-bottom: env(safe-area-inset-bottom);
  }
  @media (width >= 64rem) {
    .thumb {
      display: none;
    }
  }
  .door {
    display: flex;
    flex-direction: column;
    align-items: center;
    justify-content: center;
    gap: 5px;
    height: 56px;
    color: var(--color-ink2);
    white-space: nowrap;
  }
  .door::before {
    content: '';
    width: 22px;
    height: 4px;
    border-radius: 2px;
    background: var(--color-line);
  }
  .door[aria-current='page'] {
    color: var(--color-ink);
    font-weight: 600;
  }
  .door[aria-current='page']::before {
    background: var(--color-ink);
  }
</style>
