<!-- A board's layout: the build of the address is opened once, and every page works on it. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import { untrack, type Snippet } from 'svelte';
  import { fileAddress } from '$lib/api/client';
  import { getBuild, OpenBuild, type Trouble } from '$lib/build/build.svelte';
  import { pageAt } from '$lib/pages';
  import AccountDialogs from './AccountDialogs.svelte';
  import Conflict from './Conflict.svelte';
  import FindBox from './FindBox.svelte';
  import Header from './Header.svelte';
  import BuildProvider from './BuildProvider.svelte';
  import { route } from './routes';

  let { children }: { children: Snippet } = $props();
  let build = $state.raw<OpenBuild | null>(null);
  let trouble = $state<Trouble>('');
  const page = $derived(pageAt(route.pathname));

  // Its value, so that going from page to page is no other board.
  const id = $derived(route.params.id ?? '');
  $effect(() => {
    const opened = id;
    if (opened) untrack(() => void open(opened));
    return close;
  });

  async function open(wanted: string): Promise<void> {
    close();
    trouble = '';
    const answer = await getBuild(wanted);
    // Somebody may have gone on to another build meanwhile.
    if (wanted !== id) return;
    if (answer.build) build = new OpenBuild(wanted, answer.build);
    else trouble = answer.trouble;
  }

  function close(): void {
    build?.close();
    build = null;
  }

  function onkeydown(event: KeyboardEvent): void {
    const typing =
      event.target instanceof HTMLElement &&
      event.target.matches('input:not([type=checkbox], [type=range], [type=radio]), textarea, select');
    if (!build || !(event.ctrlKey || event.metaKey) || typing) return;
    const key = event.key.toLowerCase();
    if (key !== 'z' && key !== 'y') return;
    event.preventDefault();
    if (key === 'y' || event.shiftKey) build.redo();
    else build.undo();
  }
</script>

<svelte:window
  {onkeydown}
  onpagehide={() => build?.leave()}
  ononline={() => build?.retry()}
  onfocus={() => build?.retry()}
/>
<svelte:head
  ><title>{build ? `${build.name}, ${page?.title.toLowerCase() ?? 'board'}` : 'Board'} – Sand Pocket</title
  ></svelte:head
>
<div class="flex min-h-dvh flex-col max-lg:pb-16" class:design-page={page?.slug === 'design'}>
  {#if build}
    <Header {build} {page} />
    <Conflict {build} />
    {#key build}<BuildProvider {build}>{@render children()}</BuildProvider>{/key}
  {:else}
    <Header />
    {#if trouble === 'missing'}
      <main class="mx-auto max-w-xl px-6 py-16">
        <h1 class="text-2xl">Board not found</h1>
        <p class="remark mt-2">It may have been deleted, or you may not have access.</p>
        <Button href="/" class="mt-4">To your boards</Button>
      </main>
    {:else if trouble === 'unreadable'}
      <main class="mx-auto max-w-xl px-6 py-16">
        <h1 class="text-2xl">This board cannot be read</h1>
        <p class="remark mt-2">
          Nothing is lost. The list of your boards says what is wrong. Download the file, correct it, and
          import it.
        </p>
        <p class="mt-4 flex flex-wrap gap-2">
          <Button href={fileAddress(id)} download>Download the file</Button>
          <Button href="/">To your boards</Button>
        </p>
      </main>
    {:else if trouble}
      <main class="mx-auto max-w-xl px-6 py-16">
        <h1 class="text-2xl">The server cannot be reached</h1>
        <p class="remark mt-2">
          Nothing is lost: what was saved is saved, and unsent changes are kept in this browser.
        </p>
        <Button onclick={() => open(id)} class="mt-4">Try again</Button>
      </main>
    {:else}
      <p class="remark px-6 py-16">Loading…</p>
    {/if}
  {/if}
</div>
<AccountDialogs />
<FindBox build={build ?? undefined} />

<style>
  /* The design page shows all of itself without scrolling the page. */
  @media (width >= 64rem) {
    .design-page {
      height: 100dvh;
      overflow: hidden;
    }
  }
</style>
