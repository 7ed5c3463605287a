<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import AccountDialogs from './AccountDialogs.svelte';
  import Header from './Header.svelte';
</script>

<Header />
<main class="mx-auto max-w-xl px-6 py-16">
  <h1 class="text-2xl">No such page</h1>
  <Button href="/" class="mt-4">To your boards</Button>
</main>
<AccountDialogs />
