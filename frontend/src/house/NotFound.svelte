<script lang="ts">
  import AccountDialogs from './AccountDialogs.svelte';
  import Header from './Header.svelte';
</script>

<Header />
<main class="mx-auto max-w-xl px-6 py-16">
  <h1 class="text-2xl">No such page</h1>
  <a class="button mt-4" href="/">To your shelf</a>
</main>
<AccountDialogs />
