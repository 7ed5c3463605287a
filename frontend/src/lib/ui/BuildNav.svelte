<!-- The views of one build. -->
<script lang="ts" module>
  const VIEWS = [
    ['bench', 'Bench'],
    ['curves', 'Curves'],
    ['drawings', 'Drawings'],
    ['parts', 'Parts list'],
    ['sheet', 'Controller sheet'],
    ['revisions', 'Revisions'],
  ] as const;
  export type BuildView = (typeof VIEWS)[number][0];
</script>

<script lang="ts">
  let { id, current }: { id: string; current: BuildView } = $props();
</script>

<nav class="flex max-w-full gap-4 overflow-x-auto" aria-label="Views of this build">
  {#each VIEWS as [view, label] (view)}
    <a
      class="tab whitespace-nowrap"
      aria-current={view === current ? 'page' : undefined}
      href={`#/${view}/${id}`}>{label}</a
    >
  {/each}
</nav>
