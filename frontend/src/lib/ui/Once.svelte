<!-- A word of our own, explained where it stands until the person has taken it in. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let { word, children }: { word: string; children: Snippet } = $props();
  const KEY = 'sand-pocket-words-known';

  function known(): string[] {
    try {
      return JSON.parse(localStorage.getItem(KEY) ?? '[]') as string[];
    } catch {
      return [];
    }
  }
  let taken = $state(false);
  const shown = $derived(!taken && !known().includes(word));
  function take(): void {
    taken = true;
    try {
      localStorage.setItem(KEY, JSON.stringify([...new Set([...known(), word])]));
    } catch {
      // A device that keeps nothing explains it again.
    }
  }
</script>

{#if shown}
  <p class="my-2 border-l-2 border-acting py-0.5 pl-2 text-sm text-ink2" data-testid={`word-${word}`}>
    {@render children()}
    <button class="link" onclick={take}>Understood</button>
  </p>
{/if}
