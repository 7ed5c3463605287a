<!-- What keeps one's door: the password, a second factor, where a forgotten password is mailed, and where one is signed in. -->
<script lang="ts">
  import { api, faultsOf, UNREACHABLE, type Faults, type Schemas } from '$lib/api/client';
  import { momentText } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import SecondFactor from './SecondFactor.svelte';

  let { open = $bindable() }: { open: boolean } = $props();
  let door = $state.raw<Schemas['SecurityOut'] | null>(null);
  let faults = $state.raw<Faults | null>(null);
  let old = $state('');
  let fresh = $state('');
  let mail = $state('');
  let password = $state('');
  let part = $state<'password' | 'mail' | ''>('');
  const reason = (field: string) => faults?.faults?.find((f) => f.field === field)?.reason;

  $effect(() => {
    if (open) void take(api.GET('/api/account/security'));
    else part = '';
  });

  /** What the door is like now, or why it is not changed. */
  async function take(answer: Promise<{ data?: Schemas['SecurityOut']; error?: unknown }>): Promise<boolean> {
    const { data, error } = await answer.catch(() => ({
      data: undefined,
      error: UNREACHABLE,
    }));
    faults = data ? null : faultsOf(error);
    if (data) {
      door = data;
      mail = data.mail;
      part = '';
      old = fresh = password = '';
    }
    return !!data;
  }

  async function change(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    if (await take(api.POST('/api/session/password', { body: { old, new: fresh } })))
      notices.say('Your password is changed; other devices are signed out.');
  }
  async function setMail(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    if (await take(api.PUT('/api/account/security/mail', { body: { mail, password } })))
      notices.say(mail ? 'Mail address saved.' : 'Mail address removed.');
  }
  const end = (only: string) =>
    void take(api.POST('/api/account/security/sign-out-elsewhere', { params: { query: { only } } }));
</script>

<Dialog bind:open title="Password and devices" wide>
  {#if !door}
    <p class="remark">{faults?.message ?? 'Looking…'}</p>
  {:else}
    <section class="border-b border-line pb-3">
      <h3 class="text-base">Password</h3>
      {#if part !== 'password'}
        <Button class="mt-1" onclick={() => ((part = 'password'), (faults = null))}>Change it…</Button>
      {:else}
        <form class="mt-1 flex flex-col gap-3" onsubmit={change}>
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
      {/if}
      {#if door.mail_works}
        <p class="mt-2 text-sm text-ink2">
          {door.mail
            ? `If you forget it, a link is sent to ${door.mail}.`
            : 'If you forget it, only the operator can let you in again.'}
          {#if part !== 'mail'}
            <button class="link" onclick={() => ((part = 'mail'), (faults = null))}
              >{door.mail ? 'Change the address' : 'Give a mail address'}</button
            >
          {/if}
        </p>
        {#if part === 'mail'}
          <form class="mt-1 flex flex-col gap-3" onsubmit={setMail}>
            <Field
              label="Mail address, empty for none"
              type="email"
              autocomplete="email"
              bind:value={mail}
              fault={reason('mail')}
            />
            <Field
              label="Your password"
              type="password"
              autocomplete="current-password"
              bind:value={password}
              required
              fault={reason('password')}
            />
            {#if faults}<p class="text-short" role="alert">{faults.message}</p>{/if}
            <Button main class="self-end">Keep it</Button>
          </form>
        {/if}
      {/if}
    </section>

    <SecondFactor {door} changed={() => take(api.GET('/api/account/security'))} />

    <section class="pt-3">
      <h3 class="text-base">Where you are signed in</h3>
      <ul class="m-0 list-none p-0">
        {#each door.sessions as one (one.id)}
          <li
            class="flex flex-wrap items-baseline gap-x-3 border-b border-line py-1.5"
            data-testid="signed-in"
          >
            <span class="font-semibold">{one.device}</span>
            <span class="text-sm text-ink2">
              {one.here ? 'this one' : `last seen ${momentText(one.seen)}`}{one.since
                ? `, since ${momentText(one.since)}`
                : ''}
            </span>
            {#if !one.here}
              <button class="link ml-auto text-sm" onclick={() => end(one.id)}
                >Sign out<span class="sr-only">: {one.device}</span></button
              >
            {/if}
          </li>
        {/each}
      </ul>
      {#if door.sessions.length > 2}
        <Button class="mt-2" onclick={() => end('')}>Sign out everywhere else</Button>
      {/if}
    </section>
  {/if}
</Dialog>
