<!-- A page of a board as the application shows it: on the board that is open. -->
<script lang="ts">
  import { untrack, type Component } from 'svelte';
  import { setBuildContext, type OpenBuild } from '$lib/build/build.svelte';

  let { build, page: Page }: { build: OpenBuild; page: Component } = $props();
  untrack(() => setBuildContext(build));
</script>

<Page />
