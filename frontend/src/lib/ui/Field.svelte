<!-- An entry with its name above it, and beneath it why it cannot be so. -->
<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';

  interface Props extends Omit<HTMLInputAttributes, 'class' | 'value'> {
    label: string;
    value?: string;
    fault?: string;
    /** Of the whole, such as how wide it is. */
    class?: string;
  }
  let { label, value = $bindable(''), fault, class: place, ...rest }: Props = $props();
  const uid = $props.id();
</script>

<label class={['block text-xs text-ink2', place]}
  >{label}<input
    class="entry block text-sm text-ink"
    aria-invalid={fault ? 'true' : undefined}
    aria-describedby={fault ? `${uid}-fault` : undefined}
    {...rest}
    bind:value
  />{#if fault}<span id={`${uid}-fault`} class="block text-xs text-short">{fault}</span>{/if}</label
>
