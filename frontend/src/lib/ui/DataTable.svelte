<!-- A table with its heads; rows stand inside as the room knows them. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { HTMLTableAttributes } from 'svelte/elements';

  type Head = string | { text: string; right?: boolean };
  interface Props extends HTMLTableAttributes {
    heads: Head[];
    children: Snippet;
  }
  let { heads, children, class: further, ...rest }: Props = $props();
  let place = $state<HTMLElement>();
  let width = $state(0);
  const scrolls = $derived(width > 0 && (place?.scrollWidth ?? 0) > width + 1);
  const shown = $derived(heads.map((h) => (typeof h === 'string' ? { text: h, right: false } : h)));
</script>

<!-- Wider than its place it is scrolled, by the keyboard too. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  bind:this={place}
  bind:clientWidth={width}
  class="overflow-x-auto"
  role={scrolls ? 'region' : undefined}
  aria-label={scrolls ? `Table: ${shown.map((h) => h.text).join(', ')}` : undefined}
  tabindex={scrolls ? 0 : undefined}
>
  <table class={['w-full border-collapse text-sm', further]} {...rest}>
    <thead>
      <tr class="text-left text-xs text-ink2">
        {#each shown as head, i (i)}
          <th
            scope="col"
            class={['border-b border-ink py-1 font-normal', i > 0 && 'px-2', head.right && 'text-right']}
            >{head.text}</th
          >
        {/each}
      </tr>
    </thead>
    {@render children()}
  </table>
</div>
