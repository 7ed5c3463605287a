<!-- The rooms of one open board. -->
<script lang="ts">
  import { untrack, type Snippet } from 'svelte';
  import { setBuildContext, type OpenBuild } from '$lib/build/build.svelte';

  let { build, children }: { build: OpenBuild; children: Snippet } = $props();
  untrack(() => setBuildContext(build));
</script>

{@render children()}
