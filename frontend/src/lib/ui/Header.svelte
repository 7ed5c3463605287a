<!-- The head of every page: where you are, what can be done here, who you are. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';
  import type { Snippet } from 'svelte';
  import { session } from '$lib/session.svelte';
  import Menu from './Menu.svelte';
  import Password from './Password.svelte';
  import Preferences from './Preferences.svelte';

  interface Props {
    children?: Snippet;
    actions?: Snippet;
    /** Called before signing out; false keeps the person here. */
    beforeLeaving?: () => boolean;
  }
  let { children, actions, beforeLeaving }: Props = $props();
  let preferring = $state(false);
  let changingPassword = $state(false);

  async function signOut(): Promise<void> {
    if (beforeLeaving && !beforeLeaving()) return;
    await session.signOut();
    await push('/');
  }
  const items = $derived([
    { label: 'Units and light', run: () => (preferring = true) },
    ...(session.who?.is_demo ? [] : [{ label: 'Change password', run: () => (changingPassword = true) }]),
    { label: session.who?.is_demo ? 'Leave the demonstration' : 'Sign out', run: () => void signOut() },
  ]);
</script>

<header class="flex min-h-12 flex-wrap items-center gap-x-5 gap-y-1 border-b border-line px-4 py-1.5 sm:px-5">
  <a href="#/" class="font-serif text-xl font-semibold whitespace-nowrap">Sand Pocket</a>
  {@render children?.()}
  <div class="ml-auto flex items-center gap-2">
    {@render actions?.()}
    {#if session.who?.name}
      <Menu label={`Your workshop: ${session.who.name}`} {items}
        ><span class="max-w-24 truncate">{session.who.name}</span> <span aria-hidden="true">▾</span></Menu
      >
    {/if}
  </div>
</header>
<Preferences bind:open={preferring} />
<Password bind:open={changingPassword} />
