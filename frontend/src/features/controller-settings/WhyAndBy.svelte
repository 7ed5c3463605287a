<!-- Why something is set, and by whom: asked wherever a value goes into the record. -->
<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  let { reason = $bindable(), by = $bindable() }: { reason: string; by: string } = $props();
</script>

<Field
  label="Why"
  class="min-w-48 flex-1"
  placeholder="first set-up, after a reset, softer for a beginner"
  bind:value={reason}
  maxlength={600}
  required
/>
<Field label="By" class="w-32" bind:value={by} maxlength={60} />
