<!-- A dialog in our look on Bits UI's behaviour. -->
<script lang="ts">
  import { Dialog } from 'bits-ui';
  import type { Snippet } from 'svelte';

  interface Props {
    open: boolean;
    title: string;
    remark?: string;
    /** False where a choice has to be made before going on. */
    dismissible?: boolean;
    wide?: boolean;
    /** As wide as the window has room for. */
    broad?: boolean;
    /** Called when it was closed from inside. */
    onclose?: () => void;
    children: Snippet;
    actions?: Snippet;
  }
  let {
    open = $bindable(),
    title,
    remark,
    dismissible = true,
    wide = false,
    broad = false,
    onclose,
    children,
    actions,
  }: Props = $props();
  const width = $derived(broad ? '72rem' : wide ? '46rem' : '29rem');
</script>

<Dialog.Root bind:open onOpenChange={(is) => !is && onclose?.()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-[#0a1a20]/45" />
    <Dialog.Content
      class="fixed top-1/2 left-1/2 z-50 flex max-h-[88dvh] -translate-x-1/2 -translate-y-1/2 flex-col rounded border border-line bg-paper shadow-lg"
      style={`width: min(94vw, ${width})`}
      interactOutsideBehavior={dismissible ? 'close' : 'ignore'}
      escapeKeydownBehavior={dismissible ? 'close' : 'ignore'}
    >
      <div class="flex items-baseline gap-4 border-b border-line px-5 py-3">
        <Dialog.Title class="font-serif text-lg font-semibold" level={2}>{title}</Dialog.Title>
        {#if dismissible}
          <Dialog.Close class="ml-auto px-1 text-ink2 hover:text-ink" aria-label="Close">✕</Dialog.Close>
        {/if}
      </div>
      <div class="min-h-0 overflow-y-auto px-5 py-4">
        {#if remark}<Dialog.Description class="remark mb-3">{remark}</Dialog.Description>{/if}
        {@render children()}
      </div>
      {#if actions}<div class="flex flex-wrap justify-end gap-2 border-t border-line px-5 py-3">
          {@render actions()}
        </div>{/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
