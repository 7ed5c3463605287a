<!-- The rooms beside the bench. -->
<script lang="ts">
  let { current }: { current?: 'shelf' | 'library' } = $props();
</script>

<nav class="flex gap-4" aria-label="Rooms">
  <a class="tab" aria-current={current === 'shelf' ? 'page' : undefined} href="#/">Shelf</a>
  <a class="tab" aria-current={current === 'library' ? 'page' : undefined} href="#/library">Library</a>
</nav>
