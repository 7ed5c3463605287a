<!-- How far something is that a worker makes: a tide where it does not say, and a word while it waits its turn. -->
<script lang="ts">
  import type { Job } from '$lib/sync/job.svelte';

  let { job }: { job: Job } = $props();
  const known = $derived(job.state === 'running' && job.progress > 0);
</script>

<div
  class="progress"
  class:known
  role="progressbar"
  aria-label={job.label}
  aria-valuemin="0"
  aria-valuemax="100"
  aria-valuenow={known ? Math.round(job.progress * 100) : undefined}
>
  {#if known}<div style="width: {job.progress * 100}%"></div>{/if}
</div>

<style>
  .progress {
    height: 3px;
    width: 100%;
    background: linear-gradient(to right, var(--color-line), var(--color-acting), var(--color-line)) 0 0 / 40%
      100% no-repeat;
    animation: tide 1.6s ease-in-out infinite alternate;
  }
  .known {
    background: var(--color-line);
    animation: none;
  }
  .known div {
    height: 100%;
    background: var(--color-acting);
    transition: width 200ms;
  }
  @keyframes tide {
    to {
      background-position: 100% 0;
    }
  }
</style>
