<!-- The one head of every page: the workshop, the board with its menu, the stages, saved or not, the way back, who you are. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import { pagesOf, type Page } from '$lib/pages';
  import { STAGES } from '$lib/api/tables.gen';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import AccountMenu from './AccountMenu.svelte';
  import BoardMenu from './BoardMenu.svelte';
  import { finder } from './finder.svelte';
  import Saving from './Saving.svelte';

  interface Props {
    build?: OpenBuild;
    /** The page that is open. */
    page?: Page | null;
    /** The page outside of boards that is open. */
    outside?: 'boards' | 'library';
  }
  let { build, page, outside }: Props = $props();

  const pages = $derived(page?.stage ? pagesOf(page.stage) : []);
  /** A stage opens at its first page. */
  const doors = $derived(
    build
      ? [
          {
            slug: 'overview',
            title: 'Overview',
            short: 'Overview',
            href: addressOf(build.id),
            open: page?.slug === 'overview',
          },
          ...STAGES.map((s) => ({
            slug: s.slug,
            title: s.title,
            short: s.title,
            href: addressOf(build!.id, pagesOf(s.slug)[0]!.slug),
            open: page?.stage === s.slug,
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
      <nav class="hidden h-full items-stretch gap-1 lg:flex" aria-label="Stages">
        {#each doors as door (door.slug)}
          <a
            class="stage"
            data-text={door.title}
            aria-current={door.open ? 'page' : undefined}
            href={door.href}>{door.title}</a
          >
        {/each}
      </nav>
    {:else}
      <nav class="flex h-full items-stretch gap-1" aria-label="Workshop">
        <a class="stage" aria-current={outside === 'boards' ? 'page' : undefined} href="/">Boards</a>
        <a class="stage" aria-current={outside === 'library' ? 'page' : undefined} href="/library">Library</a>
      </nav>
    {/if}
    <div class="ml-auto flex items-center gap-1.5 sm:gap-2.5">
      <Button
        class={build ? 'max-xl:hidden' : 'max-sm:hidden'}
        aria-keyshortcuts="Control+K /"
        title="Find a page, board, part, field or word (Ctrl K or /)"
        onclick={() => (finder.open = true)}>Find</Button
      >
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
  {#if pages.length}
    <nav
      class="flex flex-wrap items-center gap-x-5 border-t border-line px-3 py-1 sm:px-5"
      aria-label="Pages of this stage"
    >
      {#each pages as r (r.slug)}
        <a
          class="tab page leading-6"
          data-text={r.title}
          aria-current={r.slug === page?.slug ? 'page' : undefined}
          href={addressOf(build!.id, r.slug)}>{r.title}</a
        >
      {/each}
    </nav>
  {/if}
</header>

{#if build}
  <nav class="thumb lg:hidden" aria-label="Stages at the thumb" data-testid="thumb">
    {#each doors as door (door.slug)}
      <a class="door" aria-current={door.open ? 'page' : undefined} href={door.href}>{door.short}</a>
    {/each}
  </nav>
{/if}

<style>
  /* As wide as it is in bold, so that nothing moves when another one opens. */
  .stage::after,
  .page::after {
    content: attr(data-text);
    display: block;
    height: 0;
    overflow: hidden;
    visibility: hidden;
    font-weight: 600;
  }
  .stage {
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
  .stage:hover {
    color: var(--color-ink);
  }
  .stage[aria-current='page'] {
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
