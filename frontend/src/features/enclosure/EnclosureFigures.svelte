<!-- What the box is made like: changed here, the solid follows. -->
<script lang="ts">
  import type { OpenBuild } from '$lib/build/build.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import type { Schemas } from '$lib/api/client';

  let { build, which }: { build: OpenBuild; which: Schemas['EnclosureReport']['which'] } = $props();
  const KEYS = [
    'length_mm',
    'width_mm',
    'depth_mm',
    'material',
    'seat',
    'wall_mm',
    'flange_mm',
    'place',
    'back_mm',
    'holds',
    'bed_length_mm',
    'bed_width_mm',
  ] as const;
</script>

<h3 class="mb-2 border-t border-line pt-2 text-base">How it is made</h3>
<div class="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4 lg:grid-cols-6">
  {#each KEYS as key (key)}
    {@const path = `parts.${which}.${key}`}
    <Figure {path} value={build.value(path)} onchange={(v) => build.set(path, v)} />
  {/each}
</div>
