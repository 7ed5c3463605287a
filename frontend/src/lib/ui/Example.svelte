<!-- What will be on an empty page: its own parts with figures of an example, marked as such and not to be operated. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let { title, children }: { title: string; children: Snippet } = $props();
</script>

<figure class="mt-5 max-w-2xl rounded border border-dashed border-rule px-4 pt-3 pb-4" data-testid="example">
  <figcaption class="mb-2 text-sm text-ink2"><b>Example:</b> {title}</figcaption>
  <div inert>{@render children()}</div>
</figure>
