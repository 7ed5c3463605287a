<!-- Who you are, and what belongs to you: units, light, password, the way out. -->
<script lang="ts">
  import { session } from '$lib/session.svelte';
  import Menu from '$lib/ui/Menu.svelte';
  import { account } from './account.svelte';
</script>

{#if session.who?.name}
  <Menu label={`Your workshop: ${session.who.name}`} items={account.items}
    ><span class="max-w-20 truncate sm:max-w-24">{session.who.name}</span>
    <span aria-hidden="true">▾</span></Menu
  >
{/if}
