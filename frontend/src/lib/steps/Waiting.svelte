<!-- What waits for the network, what went wrong with it, and ticks of steps that this board has no more. -->
<script lang="ts">
  import { plural } from '../plural';
  import type { Work } from './work.svelte';

  let { work }: { work: Work } = $props();
  const gone = $derived(work.report?.gone ?? []);
</script>

{#if work.offline || work.count}
  <p class="mb-2 text-sm text-unsure" role="status" data-testid="log-waiting">
    {#if work.offline}The server cannot be reached.{/if}
    {#if work.count}{plural(work.count, [
        'One entry waits for the network',
        '# entries wait for the network',
      ])}{work.offline ? '; saved on this device, and sent when it is back.' : '.'}{:else}What you tick is
      saved on this device and sent when it is back.{/if}
  </p>
{/if}
{#if work.notice}
  <p class="mb-2 text-sm text-short" role="alert">
    {work.notice} <button class="link min-h-6" onclick={() => (work.notice = '')}>Read</button>
  </p>
{/if}
{#if gone.length}
  <p class="mb-2 text-sm text-ink2" data-testid="gone">
    {plural(gone.length, [
      'The log has entries of a step that this board no longer needs; they stay in the log.',
      'The log has entries of # steps that this board no longer needs; they stay in the log.',
    ])}
  </p>
{/if}
