<!-- At the foot of the screen: what is being made, how far it is, and a way to stop it. -->
<script lang="ts">
  import { whyNot } from '$lib/sync/job.svelte';
  import Progress from './Progress.svelte';
  import { tray } from './tray.svelte';
</script>

{#if tray.jobs.length}
  <section
    class="fixed right-3 z-50 w-72 max-w-[calc(100vw-1.5rem)] rounded border border-line bg-sheet shadow-md"
    style="bottom: calc(var(--above) + 16px)"
    aria-label="In progress"
    aria-live="polite"
    data-testid="tray"
  >
    {#each tray.jobs as job (job)}
      <div class="border-line px-3 py-2 not-first:border-t">
        <p class="flex items-baseline gap-3">
          <span class="min-w-0 flex-1 font-semibold">{job.label}</span>
          {#if job.over}
            <button class="link text-sm" onclick={() => tray.drop(job)}>Close</button>
          {:else}
            <button class="link text-sm" onclick={() => job.stop()}
              >Stop<span class="sr-only">: {job.label}</span></button
            >
          {/if}
        </p>
        {#if job.state === 'failed'}
          <p class="text-sm text-short" role="alert">{whyNot(job)}</p>
        {:else}
          <p class="remark text-sm">
            {job.state === 'running' ? 'is being made' : 'waits its turn'}
          </p>
          <div class="mt-1.5"><Progress {job} /></div>
        {/if}
      </div>
    {/each}
  </section>
{/if}
