<!-- Between steps with their explanations and lines to tick. -->
<script lang="ts">
  import { shortForm } from './short-form.svelte';
</script>

<label class="flex min-h-[44px] items-center gap-2 text-sm"
  ><input type="checkbox" class="size-5 accent-ink" bind:checked={shortForm.current} />Short form</label
>
