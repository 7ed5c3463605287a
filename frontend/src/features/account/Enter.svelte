<!-- The door: sign in, sign up, or into the demonstration. -->
<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import Button from '$lib/ui/Button.svelte';
  import type { Outcome } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Gauge from '$lib/ui/Gauge.svelte';
  import { Door, type Way } from './enter.svelte';

  const door = new Door();
  const registration = $derived(session.who?.registration ?? 'open');

  const TITLES: Record<Way, string> = {
    in: 'Back to your workshop',
    new: 'A workshop of your own',
    forgotten: 'A new password',
    recover: 'Choose a new password',
  };

  function send(event: SubmitEvent): void {
    event.preventDefault();
    if (door.way === 'forgotten') void door.askForLink();
    else if (door.way === 'recover') void door.recover();
    else void door.enter();
  }

  // A gauge to read the product by; drawn, not predicted.
  const example: Outcome = {
    name: 'range',
    title: 'Example gauge',
    quantity: 'distance',
    wanted: 14,
    low: 15,
    mid: 18,
    high: 21,
    verdict: 'on target',
    more_is_better: true,
    further: [],
  };
</script>

<main
  class="mx-auto grid min-h-dvh max-w-5xl content-center gap-10 px-6 py-10 md:grid-cols-[1.25fr_1fr] md:gap-16"
>
  <div>
    <h1 class="text-4xl">Sand Pocket</h1>
    <p class="mt-3 max-w-md font-serif text-xl leading-snug text-ink2">
      Know what your electric skateboard will do, before you buy the first bolt.
    </p>
    <div class="mt-8 flex max-w-md items-start gap-6">
      <div class="w-20 shrink-0"><Gauge outcome={example} units={{}} height={190} /></div>
      <dl class="grid gap-3 text-base">
        <div>
          <dt class="font-semibold">The mark is your target.</dt>
          <dd class="m-0 text-ink2">
            The hill on your way, the distance of your day, what you can lift and spend.
          </dd>
        </div>
        <div>
          <dt class="font-semibold">The block is the predicted range.</dt>
          <dd class="m-0 text-ink2">
            As wide as it is uncertain, with you on board, and with the limit in words.
          </dd>
        </div>
        <div>
          <dt class="font-semibold">Every part, before you choose it.</dt>
          <dd class="m-0 text-ink2">The change in speed, hill, range, weight and cost.</dd>
        </div>
      </dl>
    </div>
    <p class="remark mt-8 max-w-md text-sm">
      Lithium packs burn and brakes fade. Sand Pocket helps you plan; it never says that a board is safe or
      that it may be ridden somewhere. Ask locally.
    </p>
  </div>

  <div class="self-start">
    {#if session.who?.demo_boards && door.way !== 'recover'}
      <Button main onclick={() => door.enterDemo()} disabled={door.busy} class="w-full py-2 text-base"
        >Enter the demo workshop</Button
      >
      <p class="remark mt-1 mb-6 text-sm">
        A warden’s {session.who.demo_boards} boards on a tidal island. No sign-up.
      </p>
    {/if}
    <form class="flex flex-col gap-3 border-t border-line pt-5" onsubmit={send}>
      <h2 class="text-lg">{TITLES[door.way]}</h2>
      {#if door.way === 'forgotten' && !session.who?.mail_works}
        <p class="text-ink2">This server sends no mail. Ask the operator for a link to a new password.</p>
      {:else if door.way === 'new' && registration === 'closed'}
        <p class="text-ink2">No new workshops can be opened at the moment.</p>
      {:else}
        {#if door.way !== 'recover'}
          <Field
            label={door.way === 'forgotten' ? 'Your name or mail address' : 'Name'}
            autocomplete="username"
            bind:value={door.name}
            required
            maxlength={door.way === 'forgotten' ? 254 : 150}
            fault={door.reason('name')}
          />
        {/if}
        {#if door.way !== 'forgotten'}
          <Field
            label={door.way === 'recover' ? 'New password' : 'Password'}
            type="password"
            autocomplete={door.way === 'in' ? 'current-password' : 'new-password'}
            bind:value={door.password}
            required
            fault={door.reason('password')}
          />
        {/if}
        {#if door.way === 'in' && door.codeAsked}
          <Field
            label="Code of your second factor, or a recovery code"
            autocomplete="one-time-code"
            bind:value={door.code}
            maxlength={40}
            fault={door.reason('code')}
          />
        {/if}
        {#if door.way === 'new' && registration === 'invitation' && !door.invited}
          <Field
            label="Your invitation, the link or its last part"
            bind:value={door.invitation}
            required
            maxlength={300}
            fault={door.reason('invitation')}
          />
        {/if}
        {#if door.way === 'new' && door.invited}
          <p class="text-sm text-ink2">Your invitation opens one workshop.</p>
          {#if door.reason('invitation')}<p class="text-short">You need {door.reason('invitation')}.</p>{/if}
        {/if}
        {#if door.faults}<p class="text-short" role="alert">{door.faults.message}</p>{/if}
        {#if door.said}<p class="text-holds" role="status">{door.said}</p>{/if}
        <Button
          main={!session.who?.demo_boards || door.way === 'recover'}
          disabled={door.busy}
          class="self-start"
          >{{ in: 'Sign in', new: 'Create workshop', forgotten: 'Send me a link', recover: 'Set password' }[
            door.way
          ]}</Button
        >
      {/if}
      <p class="flex flex-wrap gap-x-4 gap-y-2">
        {#if door.way !== 'in'}
          <button type="button" class="link min-h-6" onclick={() => door.turn('in')}
            >{door.way === 'new' ? 'I have one already' : 'Back to signing in'}</button
          >
        {/if}
        {#if door.way === 'in'}
          <button type="button" class="link min-h-6" onclick={() => door.turn('new')}
            >Open a workshop of your own</button
          >
          <button type="button" class="link min-h-6" onclick={() => door.turn('forgotten')}
            >I forgot my password</button
          >
        {/if}
      </p>
    </form>
  </div>
</main>
