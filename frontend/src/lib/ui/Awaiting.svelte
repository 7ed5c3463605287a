<!-- What stands where an answer is still to come, or could not come. -->
<script lang="ts">
  interface Props {
    asked: { failed: boolean; again: () => Promise<void> };
    /** Said while it is on its way. */
    waiting: string;
    /** Said when it cannot be had, with what becomes of what was entered. */
    lost: string;
  }
  let { asked, waiting, lost }: Props = $props();
</script>

{#if asked.failed}
  <p class="py-8 text-short" role="alert">
    {lost} <button class="link" onclick={() => asked.again()}>Try again</button>
  </p>
{:else}
  <p class="remark py-8">{waiting}</p>
{/if}
