<!-- A button, or a link that looks like one; the main one of a place stands out. -->
<script lang="ts">
  import { Button } from 'bits-ui';
  import type { ClassValue } from 'svelte/elements';

  type Props = Button.RootProps & { main?: boolean; class?: ClassValue };
  let { main = false, class: further, children, ...rest }: Props = $props();
</script>

<Button.Root {...rest} class={['button', main && 'button-main', further]}>{@render children?.()}</Button.Root>
