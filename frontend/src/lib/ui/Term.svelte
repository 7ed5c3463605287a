<!-- A word of the trade: dotted, and opened it says in two sentences what it is. -->
<script lang="ts">
  import { Popover } from 'bits-ui';
  import type { Snippet } from 'svelte';
  import { TERMS } from '$lib/api/tables.gen';

  interface Props {
    slug: string;
    /** How the word reads here, where it is not the term's own title. */
    children?: Snippet;
    class?: string;
  }
  let { slug, children, class: look }: Props = $props();
  const drawings = import.meta.glob<string>('../terms/*.svg', {
    query: '?raw',
    import: 'default',
    eager: true,
  });
  const term = $derived(TERMS.find((t) => t.slug === slug)!);
</script>

<Popover.Root>
  <Popover.Trigger class={['term', look]} title={`What is ${term.title}?`}
    >{#if children}{@render children()}{:else}{term.title}{/if}</Popover.Trigger
  >
  <Popover.Portal>
    <Popover.Content
      class="z-50 w-[19rem] max-w-[92vw] rounded border border-line bg-sheet px-3 py-2 text-sm shadow-md"
      sideOffset={4}
      collisionPadding={8}
      aria-label={term.title}
      data-testid={`term-${slug}`}
    >
      <p class="font-semibold">{term.title}</p>
      <p>{term.text}</p>
      {#if term.drawing}
        <div
          role="img"
          aria-label={term.drawing}
          class="mt-2 [&>svg]:h-auto [&>svg]:w-full [&>svg]:[font-family:inherit]"
        >
          <!-- Our own drawings, out of this folder. -->
          <!-- eslint-disable-next-line svelte/no-at-html-tags -->
          {@html drawings[`../terms/${slug}.svg`]}
        </div>
      {/if}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
