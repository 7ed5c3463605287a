<script lang="ts">
  import Belongings from '../features/account/Belongings.svelte';
  import Password from '../features/account/Password.svelte';
  import Preferences from '../features/account/Preferences.svelte';
  import { account } from './account.svelte';
</script>

<Preferences bind:open={account.preferring} />
<Password bind:open={account.changingPassword} />
<Belongings bind:open={account.sorting} gone={() => void account.left()} />
