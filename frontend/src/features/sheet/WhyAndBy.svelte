<!-- Why something is set, and by whom: asked wherever a value goes into the record. -->
<script lang="ts">
  let { reason = $bindable(), by = $bindable() }: { reason: string; by: string } = $props();
</script>

<label class="min-w-48 flex-1 text-xs text-ink2"
  >Why<input
    class="entry block text-sm text-ink"
    placeholder="first set-up, after a reset, softer for a beginner"
    bind:value={reason}
    maxlength="600"
    required
  /></label
>
<label class="text-xs text-ink2"
  >By<input class="entry block w-32 text-sm text-ink" bind:value={by} maxlength="60" /></label
>
