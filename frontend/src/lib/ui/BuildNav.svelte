<!-- The views of one build. -->
<script lang="ts" module>
  const VIEWS = [
    ['bench', 'Bench'],
    ['curves', 'Curves'],
    ['drawings', 'Drawings'],
    ['parts', 'Parts list'],
    ['sheet', 'Controller sheet'],
    ['test', 'Bench test'],
    ['revisions', 'Revisions'],
  ] as const;
  export type BuildView = (typeof VIEWS)[number][0];
</script>

<script lang="ts">
  let { id, current }: { id: string; current: BuildView } = $props();
  let nav = $state<HTMLElement>();
  // On a phone the row of views is wider than the screen: where you are stays in sight.
  $effect(() => {
    const here = nav?.querySelector<HTMLElement>(`[href="#/${current}/${id}"]`);
    if (nav && here) nav.scrollLeft = here.offsetLeft - (nav.clientWidth - here.clientWidth) / 2;
  });
</script>

<nav
  bind:this={nav}
  class="relative flex max-w-full gap-3.5 overflow-x-auto"
  aria-label="Views of this build"
>
  {#each VIEWS as [view, label] (view)}
    <a
      class="tab whitespace-nowrap"
      aria-current={view === current ? 'page' : undefined}
      href={`#/${view}/${id}`}>{label}</a
    >
  {/each}
</nav>
