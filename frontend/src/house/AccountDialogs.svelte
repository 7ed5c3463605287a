<script lang="ts">
  import Password from '../features/account/Password.svelte';
  import Preferences from '../features/account/Preferences.svelte';
  import { account } from './account.svelte';
</script>

<Preferences bind:open={account.preferring} />
<Password bind:open={account.changingPassword} />
