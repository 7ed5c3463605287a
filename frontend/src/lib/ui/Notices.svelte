<script lang="ts">
  import { notices } from './notices.svelte';
</script>

<div
  style="bottom: calc(var(--above) + 16px)"
  class="pointer-events-none fixed inset-x-0 z-50 flex flex-col items-center gap-2 px-3"
  aria-live="polite"
>
  {#each notices.list as notice (notice.id)}
    <div class="pointer-events-auto flex items-center gap-4 rounded bg-ink px-4 py-2 text-onink shadow-md">
      <span>{notice.text}</span>
      {#if notice.action}
        <button
          class="font-semibold underline underline-offset-2"
          onclick={() => {
            notice.action!.run();
            notices.drop(notice.id);
          }}>{notice.action.label}</button
        >
      {/if}
    </div>
  {/each}
</div>
