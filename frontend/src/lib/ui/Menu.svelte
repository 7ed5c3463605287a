<!-- A small menu of actions on Bits UI's behaviour. -->
<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import type { Snippet } from 'svelte';

  interface Item {
    label: string;
    run: () => void;
    grave?: boolean;
  }
  interface Props {
    label: string;
    items: Item[];
    children: Snippet;
  }
  let { label, items, children }: Props = $props();
</script>

<DropdownMenu.Root>
  <DropdownMenu.Trigger class="button" aria-label={label}>{@render children()}</DropdownMenu.Trigger>
  <DropdownMenu.Portal>
    <DropdownMenu.Content
      class="z-40 min-w-44 rounded border border-line bg-sheet py-1 shadow-md"
      sideOffset={4}
      align="end"
    >
      {#each items as item (item.label)}
        <DropdownMenu.Item
          class={`cursor-pointer px-4 py-1.5 outline-none data-highlighted:bg-chosen ${item.grave ? 'text-short' : ''}`}
          onSelect={item.run}>{item.label}</DropdownMenu.Item
        >
      {/each}
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
