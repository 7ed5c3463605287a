<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Belongings from '../features/account/Belongings.svelte';
  import SecuritySettings from '../features/account/SecuritySettings.svelte';
  import Preferences from '../features/account/Preferences.svelte';
  import { account } from './account.svelte';
</script>

<Preferences bind:open={account.preferring} />
<SecuritySettings bind:open={account.atTheDoor} />
<Belongings bind:open={account.sorting} gone={() => void account.left()} />
<Dialog
  bind:open={() => account.unsent.length > 0, (is) => void (is || (account.unsent = []))}
  title="Not everything was sent"
>
  <p>Not sent to the server yet:</p>
  <ul class="my-2 list-disc pl-5">
    {#each account.unsent as what, i (i)}<li>{what}</li>{/each}
  </ul>
  <p class="remark">They are deleted from this browser when you sign out.</p>
  {#snippet actions()}
    <Button onclick={() => void account.throwAwayAndSignOut()}>Delete them and sign out</Button>
    <Button main onclick={() => (account.unsent = [])}>Stay signed in</Button>
  {/snippet}
</Dialog>
