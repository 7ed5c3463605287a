<!-- A small menu of actions on Bits UI's behaviour. -->
<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import type { Snippet } from 'svelte';
  import type { MenuItem } from './menu';

  interface Props {
    label: string;
    items: MenuItem[];
    children: Snippet;
    align?: 'start' | 'end';
    trigger?: string;
  }
  let { label, items, children, align = 'end', trigger = 'button' }: Props = $props();
  const look = 'block cursor-pointer px-4 py-1.5 outline-none data-highlighted:bg-chosen max-sm:py-2.5';
</script>

<DropdownMenu.Root>
  <DropdownMenu.Trigger class={trigger} aria-label={label}>{@render children()}</DropdownMenu.Trigger>
  <DropdownMenu.Portal>
    <DropdownMenu.Content
      class="z-40 max-h-[80dvh] min-w-48 overflow-y-auto rounded border border-line bg-sheet py-1 shadow-md"
      sideOffset={4}
      {align}
    >
      {#each items as item (item.label)}
        {#if item.heading}
          <p class="border-line px-4 pt-1.5 text-xs text-ink2 not-first:mt-1 not-first:border-t">
            {item.heading}
          </p>
        {/if}
        {#if item.href}
          <DropdownMenu.Item>
            {#snippet child({ props })}
              <a {...props} class={look} href={item.href} download={item.download ? '' : undefined}
                >{item.label}</a
              >
            {/snippet}
          </DropdownMenu.Item>
        {:else if item.checked !== undefined}
          <DropdownMenu.Item onSelect={item.run}>
            {#snippet child({ props })}
              <div
                {...props}
                class={[look, item.checked && 'font-semibold']}
                role="menuitemradio"
                aria-checked={item.checked}
              >
                <span class="inline-block w-5" aria-hidden="true">{item.checked ? '✓' : ''}</span>{item.label}
              </div>
            {/snippet}
          </DropdownMenu.Item>
        {:else}
          <DropdownMenu.Item class={`${look} ${item.grave ? 'text-short' : ''}`} onSelect={item.run}
            >{item.label}</DropdownMenu.Item
          >
        {/if}
      {/each}
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
