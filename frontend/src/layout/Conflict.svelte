<!-- Two windows, one board: both versions side by side and a choice. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import TwoVersions from '$lib/ui/TwoVersions.svelte';
  import { go, addressOf } from '$lib/navigation';
  import type { OpenBuild } from '$lib/build/build.svelte';

  let { build }: { build: OpenBuild } = $props();

  async function both(): Promise<void> {
    const copy = await build.settle('both');
    if (copy) go(addressOf(copy, 'design'));
  }
</script>

<TwoVersions
  title="This board was changed elsewhere"
  mine={build.file}
  theirs={build.saving === 'conflict' ? build.theirs?.document : null}
  currency={build.file.currency}
>
  {#snippet actions()}
    <Button onclick={() => build.settle('theirs')}>Use the other</Button>
    <Button onclick={both}>Keep both, mine as a copy</Button>
    <Button main onclick={() => build.settle('mine')}>Keep mine</Button>
  {/snippet}
</TwoVersions>
