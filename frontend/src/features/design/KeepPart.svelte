<!-- A part that was typed at a station, kept in the library for the next board. -->
<script lang="ts">
  import { api, faultsOf } from '$lib/api/client';
  import { KINDS } from '$lib/api/tables.gen';
  import Button from '$lib/ui/Button.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { notices } from '$lib/ui/notices.svelte';

  let { kind, record }: { kind: string; record: Record<string, unknown> } = $props();

  let open = $state(false);
  let name = $state('');
  let trouble = $state('');

  async function keep(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    const body = { kind: KINDS[kind]?.shelvedAs ?? kind, record: { ...record, name: name.trim() } };
    try {
      const { data, error } = await api.POST('/api/parts', { body });
      if (data) {
        open = false;
        notices.say(`“${body.record.name}” is in your library.`);
      } else {
        const found = faultsOf(error);
        trouble = found.faults[0]?.reason ?? found.message;
      }
    } catch {
      trouble = 'The server cannot be reached; nothing was saved.';
    }
  }
</script>

<button
  class="link"
  onclick={() => {
    name = String(record.name ?? '');
    trouble = '';
    open = true;
  }}>Save it to your library</button
>
<Dialog
  bind:open
  title="Save it to your library"
  remark="With the figures that stand here; the next board finds it there."
>
  <form class="flex flex-wrap items-end gap-2" onsubmit={keep}>
    <Field
      label="Called"
      class="min-w-0 flex-1"
      value={name}
      maxlength={120}
      fault={trouble}
      oninput={(e) => (name = e.currentTarget.value)}
    />
    <Button main>Keep it</Button>
  </form>
</Dialog>
