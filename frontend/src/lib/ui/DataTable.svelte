<!-- A table with its heads; rows stand inside as the page knows them. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { HTMLTableAttributes } from 'svelte/elements';
  import Scrolled from './Scrolled.svelte';

  type Head = string | { text: string; right?: boolean };
  interface Props extends HTMLTableAttributes {
    heads: Head[];
    children: Snippet;
  }
  let { heads, children, class: further, ...rest }: Props = $props();
  const shown = $derived(heads.map((h) => (typeof h === 'string' ? { text: h, right: false } : h)));
</script>

<Scrolled label={`Table: ${shown.map((h) => h.text).join(', ')}`} class="overflow-x-auto">
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
</Scrolled>
