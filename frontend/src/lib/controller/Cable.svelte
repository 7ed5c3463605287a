<!-- Which controller is talked to: the simulated ones, or the one at the end of a cable. -->
<script lang="ts">
  import type { ControllerLink } from '$lib/controller/controller.svelte';

  let { link }: { link: ControllerLink } = $props();
  const seen = $derived(link.seen);
  const several = $derived((seen?.controllers ?? 1) > 1);
</script>

{#if seen?.ports.length}
  <select
    class="entry w-auto"
    aria-label="Connection"
    value={link.port}
    disabled={link.busy}
    onchange={(e) => link.lead(e.currentTarget.value, link.unit)}
  >
    <option value="">simulated {several ? 'controllers' : 'controller'}</option>
    {#each seen.ports as port (port)}<option value={port}>{port}</option>{/each}
  </select>
  {#if link.port && several}
    <select
      class="entry w-auto"
      aria-label="It leads to"
      value={String(link.unit)}
      disabled={link.busy}
      onchange={(e) => link.lead(link.port, Number(e.currentTarget.value))}
    >
      {#each { length: seen.controllers }, i (i)}<option value={String(i)}>controller {i + 1}</option>{/each}
    </select>
  {/if}
{/if}
