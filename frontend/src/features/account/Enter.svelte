<!-- The door: sign in, sign up, or into the demonstration. -->
<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { api, faultsOf, type Faults, type Promised } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Staff from '$lib/ui/Staff.svelte';

  let name = $state('');
  let password = $state('');
  let isNew = $state(false);
  let faults = $state.raw<Faults | null>(null);
  let busy = $state(false);

  const UNREACHABLE = { message: 'The server cannot be reached. Is it running?', faults: [] };

  async function enter(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    busy = true;
    const body = { name, password };
    const answer = await (
      isNew ? api.POST('/api/session/sign-up', { body }) : api.POST('/api/session/sign-in', { body })
    ).catch(() => ({ data: undefined, error: UNREACHABLE }));
    busy = false;
    if (answer.data) session.who = answer.data;
    else faults = faultsOf(answer.error);
  }

  async function enterDemo(): Promise<void> {
    busy = true;
    const answer = await api.POST('/api/session/demo').catch(() => ({ data: undefined, error: UNREACHABLE }));
    busy = false;
    if (answer.data) session.who = answer.data;
    else faults = faultsOf(answer.error);
  }

  const reason = (field: string) => faults?.faults?.find((f) => f.field === field)?.reason;

  // A staff to read the product by; drawn, not predicted.
  const example: Promised = {
    name: 'range',
    title: 'Example staff',
    quantity: 'distance',
    wanted: 14,
    low: 15,
    mid: 18,
    high: 21,
    verdict: 'holds',
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
      <div class="w-20 shrink-0"><Staff promised={example} units={{}} height={190} /></div>
      <dl class="grid gap-3 text-base">
        <div>
          <dt class="font-semibold">The notch is your brief.</dt>
          <dd class="m-0 text-ink2">
            The hill on your way, the distance of your day, what you can lift and spend.
          </dd>
        </div>
        <div>
          <dt class="font-semibold">The block is the prediction.</dt>
          <dd class="m-0 text-ink2">
            As wide as it is unsure, with you aboard, and with what limits it in words.
          </dd>
        </div>
        <div>
          <dt class="font-semibold">Every part, before you choose it.</dt>
          <dd class="m-0 text-ink2">What it would change, in speed, hill, range, mass and money.</dd>
        </div>
      </dl>
    </div>
    <p class="remark mt-8 max-w-md text-sm">
      Lithium packs burn and brakes fade. Sand Pocket helps you plan; it never says that a board is safe or
      that a place allows it. Ask who knows where you ride.
    </p>
  </div>

  <div class="self-center">
    {#if session.who?.demo_offered}
      <Button main onclick={enterDemo} disabled={busy} class="w-full py-2 text-base"
        >Enter the demo workshop</Button
      >
      <p class="remark mt-1 mb-6 text-sm">A warden’s three boards on a tidal island. Nothing to fill in.</p>
    {/if}
    <form class="flex flex-col gap-3 border-t border-line pt-5" onsubmit={enter}>
      <h2 class="text-lg">{isNew ? 'A workshop of your own' : 'Back to your workshop'}</h2>
      <Field
        label="Name"
        autocomplete="username"
        bind:value={name}
        required
        maxlength={150}
        fault={reason('name')}
      />
      <Field
        label="Password"
        type="password"
        autocomplete={isNew ? 'new-password' : 'current-password'}
        bind:value={password}
        required
        fault={reason('password')}
      />
      {#if faults}<p class="text-short" role="alert">{faults.message}</p>{/if}
      <div class="flex items-center gap-4">
        <Button main={!session.who?.demo_offered} disabled={busy}>{isNew ? 'Open it' : 'Sign in'}</Button>
        <button type="button" class="link" onclick={() => ((isNew = !isNew), (faults = null))}>
          {isNew ? 'I have one already' : 'Open a workshop of your own'}
        </button>
      </div>
    </form>
  </div>
</main>
