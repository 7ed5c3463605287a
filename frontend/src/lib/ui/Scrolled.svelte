<!-- What may be larger than its place: it is scrolled there, by the keyboard too, and is no stop for it where nothing is hidden. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { HTMLAttributes } from 'svelte/elements';

  interface Props extends HTMLAttributes<HTMLDivElement> {
    label: string;
    children: Snippet;
  }
  let { label, children, ...rest }: Props = $props();
  let place = $state<HTMLElement>();
  let width = $state(0);
  let height = $state(0);
  const scrolls = $derived(
    place !== undefined && (place.scrollWidth > width + 1 || place.scrollHeight > height + 1),
  );
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  bind:this={place}
  bind:clientWidth={width}
  bind:clientHeight={height}
  role={scrolls ? 'region' : undefined}
  aria-label={scrolls ? label : undefined}
  tabindex={scrolls ? 0 : undefined}
  {...rest}
>
  {@render children()}
</div>
