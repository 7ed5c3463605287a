<!-- The pages that belong to no single board. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import AccountDialogs from './AccountDialogs.svelte';
  import FindBox from './FindBox.svelte';
  import Header from './Header.svelte';
  import { route } from './routes';

  let { children }: { children: Snippet } = $props();
  const outside = $derived(
    route.pathname === '/' ? 'boards' : route.pathname.startsWith('/library') ? 'library' : undefined,
  );
</script>

<Header {outside} />
{@render children()}
<AccountDialogs />
<FindBox />
