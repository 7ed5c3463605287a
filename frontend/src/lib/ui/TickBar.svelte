<!-- What is ticked and what can be done with it, at the foot of the screen. -->
<script lang="ts">
  import Button from './Button.svelte';
  import type { Snippet } from 'svelte';

  interface Props {
    count: number;
    /** How many are ticked, and what for. */
    said: string;
    untick: () => void;
    /** What can be done with two or more. */
    children: Snippet;
  }
  let { count, said, untick, children }: Props = $props();
</script>

{#if count}
  <div
    style="bottom: var(--foot)"
    class="sticky z-10 flex flex-wrap items-center justify-center gap-3 border-t border-ink bg-sheet px-4 py-2"
    role="status"
  >
    <span>{said}</span>
    {#if count > 1}{@render children()}{/if}
    <Button onclick={untick}>Untick</Button>
  </div>
{/if}
