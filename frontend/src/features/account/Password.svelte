<script lang="ts">
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
    <label>
      <span class="text-xs text-ink2">Old password</span>
      <input
        class="entry"
        type="password"
        autocomplete="current-password"
        bind:value={old}
        required
        aria-invalid={reason('old') ? 'true' : undefined}
      />
      {#if reason('old')}<span class="text-xs text-short">{reason('old')}</span>{/if}
    </label>
    <label>
      <span class="text-xs text-ink2">New password</span>
      <input
        class="entry"
        type="password"
        autocomplete="new-password"
        bind:value={fresh}
        required
        aria-invalid={reason('new') ? 'true' : undefined}
      />
      {#if reason('new')}<span class="text-xs text-short">{reason('new')}</span>{/if}
    </label>
    {#if faults}<p class="text-short" role="alert">{faults.message}</p>{/if}
    <button class="button button-main self-end">Change it</button>
  </form>
</Dialog>
