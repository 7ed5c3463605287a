<!-- One's own things: taken out as one file, brought in from one, and the way out for good. -->
<script lang="ts">
  import { api, faultsOf, importArchive, type Faults, type Schemas } from '$lib/api/client';
  import { go, addressOf } from '$lib/navigation';
  import { momentText } from '$lib/reader.svelte';
  import { session } from '$lib/session.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Field from '$lib/ui/Field.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import { notices } from '$lib/ui/notices.svelte';

  let { open = $bindable(), gone }: { open: boolean; gone: () => void } = $props();
  let picker = $state<FilePicker>();
  let busy = $state(false);
  let brought = $state.raw<Schemas['BroughtOut'] | null>(null);
  let trouble = $state('');
  let binned = $state.raw<Schemas['Binned'][]>([]);
  let leaving = $state(false);
  let name = $state('');
  let password = $state('');
  let faults = $state.raw<Faults | null>(null);
  const reason = (field: string) => faults?.faults?.find((f) => f.field === field)?.reason;

  async function bringIn(file: File): Promise<void> {
    busy = true;
    trouble = '';
    brought = null;
    const answer = await importArchive(file);
    brought = answer.brought ?? null;
    trouble = answer.faults?.message ?? '';
    busy = false;
  }

  $effect(() => {
    if (open) void look();
  });
  async function look(): Promise<void> {
    const { data } = await api.GET('/api/bin').catch(() => ({ data: undefined }));
    binned = data ?? [];
  }
  async function bringBack(board: Schemas['Binned']): Promise<void> {
    const { data, error } = await api
      .POST('/api/builds/{id}/restore', { params: { path: { id: board.id } } })
      .catch(() => ({ data: undefined, error: { message: 'The server cannot be reached.', faults: [] } }));
    if (!data) return void (trouble = faultsOf(error).message);
    notices.say(`“${board.name}” was restored.`);
    open = false;
    go(addressOf(board.id));
  }

  async function leave(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    const answer = await api.DELETE('/api/account', { body: { name, password } }).catch(() => null);
    if (!answer?.response.ok) {
      faults = answer ? faultsOf(answer.error) : { message: 'The server cannot be reached.', faults: [] };
      return;
    }
    open = false;
    notices.say('Your workshop and everything in it was deleted.');
    gone();
  }
</script>

<FilePicker
  bind:this={picker}
  accept=".zip,application/zip"
  label="Archive"
  testid="archive"
  onpick={bringIn}
/>
<Dialog bind:open title="Your data" wide>
  <section class="border-b border-line pb-3">
    <h3 class="text-base">Export everything</h3>
    <p class="mb-2 text-sm text-ink2">
      One archive of open formats: boards, revisions, settings records with their photos, bench tests, your
      own parts.
    </p>
    <Button href="/api/archive" download>Export</Button>
  </section>
  <section class="border-b border-line py-3">
    <h3 class="text-base">Import an archive</h3>
    <p class="mb-2 text-sm text-ink2">It is added to what you have; nothing is replaced.</p>
    <Button disabled={busy} onclick={() => picker?.pick()}>{busy ? 'Importing…' : 'Import archive'}</Button>
    {#if trouble}<p class="mt-2 text-short" role="alert">{trouble}</p>{/if}
    {#if brought}
      <p class="mt-2" role="status" data-testid="brought">
        Imported: boards {brought.builds}, revisions {brought.revisions}, settings records {brought.settings_records},
        bench tests {brought.tests}, files {brought.files}, parts {brought.parts}.
      </p>
      {#if brought.left_out.length}
        <ul class="mt-1 list-none p-0 text-sm">
          {#each brought.left_out as left, i (i)}<li>
              <span class="font-semibold">{left.what}</span>: {left.reason}
            </li>{/each}
        </ul>
      {/if}
    {/if}
  </section>
  <section class="border-b border-line py-3">
    <h3 class="text-base">The bin</h3>
    {#each binned as board (board.id)}
      <p
        class="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1 last:border-b-0"
        data-testid="binned"
      >
        <span class="font-semibold">{board.name}</span>
        <span class="text-sm text-ink2"
          >deleted {momentText(board.deleted_at)}, kept until {momentText(board.until)}</span
        >
        <button class="link ml-auto text-sm" onclick={() => void bringBack(board)}
          >Restore<span class="sr-only">: {board.name}</span></button
        >
      </p>
    {:else}<p class="text-sm text-ink2">Deleted boards are kept here for a while. There are none.</p>
    {/each}
  </section>
  {#if !session.who?.is_demo}
    <section class="pt-3">
      <h3 class="text-base">Delete this workshop</h3>
      {#if !leaving}
        <p class="mb-2 text-sm text-ink2">Deletes everything in it, at once and for good.</p>
        <Button onclick={() => (leaving = true)}>Delete it…</Button>
      {:else}
        <form class="flex flex-col gap-3" onsubmit={leave}>
          <p class="text-sm">
            Nobody can restore it. Export everything first; then type your name, “{session.who?.name}”, and
            your password.
          </p>
          <Field label="Your name" bind:value={name} required autocomplete="off" fault={reason('name')} />
          <Field
            label="Your password"
            type="password"
            autocomplete="current-password"
            bind:value={password}
            required
            fault={reason('password')}
          />
          {#if faults && !faults.faults?.length}<p class="text-short" role="alert">{faults.message}</p>{/if}
          <p class="flex gap-2 self-end">
            <Button type="button" onclick={() => (leaving = false)}>Keep it</Button>
            <Button main>Delete it for good</Button>
          </p>
        </form>
      {/if}
    </section>
  {/if}
</Dialog>
