<!-- The views of one build. -->
<script lang="ts">
  let { id, current }: { id: string; current: 'bench' | 'curves' | 'drawings' } = $props();
  const VIEWS = [
    ['bench', 'Bench'],
    ['curves', 'Curves'],
    ['drawings', 'Drawings'],
  ] as const;
</script>

<nav class="flex gap-4" aria-label="Views of this build">
  {#each VIEWS as [view, label] (view)}
    <a class="tab" aria-current={view === current ? 'page' : undefined} href={`#/${view}/${id}`}>{label}</a>
  {/each}
</nav>
