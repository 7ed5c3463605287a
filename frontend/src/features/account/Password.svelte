<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { api, faultsOf, type Faults } from '$lib/api/client';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { notices } from '$lib/ui/notices.svelte';

  let { open = $bindable() }: { open: boolean } = $props();
  let old = $state('');
  let fresh = $state('');
  let faults = $state.raw<Faults | null>(null);

  const reason = (field: string) => faults?.faults?.find((f) => f.field === field)?.reason;

  async function change(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    const { data, error } = await api
      .POST('/api/session/password', { body: { old, new: fresh } })
      .catch(() => ({
        data: undefined,
        error: { message: 'The server cannot be reached; nothing was changed.' },
      }));
    faults = data ? null : faultsOf(error);
    if (data) {
      old = fresh = '';
      open = false;
      notices.say('Your password is changed; other devices are signed out.');
    }
  }
</script>

<Dialog bind:open title="Change password">
  <form class="flex flex-col gap-3" onsubmit={change}>
    <Field
      label="Old password"
      type="password"
      autocomplete="current-password"
      bind:value={old}
      required
      fault={reason('old')}
    />
    <Field
      label="New password"
      type="password"
      autocomplete="new-password"
      bind:value={fresh}
      required
      fault={reason('new')}
    />
    {#if faults}<p class="text-short" role="alert">{faults.message}</p>{/if}
    <Button main class="self-end">Change it</Button>
  </form>
</Dialog>
