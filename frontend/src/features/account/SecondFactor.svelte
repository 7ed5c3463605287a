<!-- The second factor: taken up with an authenticator, recovery codes shown once, taken off with the password. -->
<script lang="ts">
  import { api, faultsOf, UNREACHABLE, type Faults, type Schemas } from '$lib/api/client';
  import { download } from '$lib/download';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';

  interface Props {
    door: Schemas['SecurityOut'];
    /** Called when it was taken up or off. */
    changed: () => Promise<unknown>;
  }
  let { door, changed }: Props = $props();
  let step = $state<'' | 'password' | 'code' | 'codes' | 'end'>('');
  let password = $state('');
  let code = $state('');
  let begun = $state.raw<Schemas['SecondFactorOut'] | null>(null);
  let codes = $state.raw<string[]>([]);
  let faults = $state.raw<Faults | null>(null);
  const reason = (field: string) => faults?.faults?.find((f) => f.field === field)?.reason;

  async function tried<T>(answer: Promise<{ data?: T; error?: unknown }>): Promise<T | undefined> {
    const { data, error } = await answer.catch(() => ({ data: undefined, error: UNREACHABLE }));
    faults = data ? null : faultsOf(error);
    return data;
  }

  async function send(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    if (step === 'password') {
      begun = (await tried(api.POST('/api/account/security/second-factor', { body: { password } }))) ?? null;
      if (!begun) return;
      step = 'code';
      password = '';
    } else if (step === 'code') {
      const done = await tried(api.POST('/api/account/security/second-factor/confirm', { body: { code } }));
      if (!done) return;
      codes = done.codes;
      step = 'codes';
      code = '';
      begun = null;
    } else if (await tried(api.POST('/api/account/security/second-factor/end', { body: { password } }))) {
      step = '';
      password = '';
      await changed();
    }
  }

  function turn(to: typeof step): void {
    step = to;
    faults = null;
    password = code = '';
  }
</script>

<section class="border-b border-line py-3">
  <h3 class="text-base">Second factor</h3>
  {#if step === 'codes'}
    <p class="text-sm">
      <span class="font-semibold">Keep these.</span> Each signs you in once, if you lose the authenticator; they
      are not shown again.
    </p>
    <ul class="my-2 grid list-none grid-cols-2 gap-x-6 p-0 font-mono" data-testid="recovery-codes">
      {#each codes as one (one)}<li>{one}</li>{/each}
    </ul>
    <p class="flex flex-wrap gap-2">
      <Button
        onclick={() => download(codes.join('\n') + '\n', 'text/plain', 'sand-pocket-recovery-codes.txt')}
        >Save as a text file</Button
      >
      <Button main onclick={() => (turn(''), void changed())}>I have saved them</Button>
    </p>
  {:else if step === 'code' && begun}
    <form class="flex flex-wrap gap-5" onsubmit={send}>
      <img
        class="h-44 w-44"
        style="background: #fff"
        src={`data:image/svg+xml,${encodeURIComponent(begun.picture)}`}
        alt="The secret, for an authenticator to scan"
      />
      <div class="flex min-w-56 flex-1 flex-col gap-3">
        <p class="text-sm">
          Scan it with an authenticator on your phone, or type
          <span class="font-mono break-all" data-testid="secret"
            >{begun.secret.match(/.{1,4}/g)?.join(' ')}</span
          > there.
        </p>
        <Field
          label="The six digits that it shows now"
          inputmode="numeric"
          autocomplete="one-time-code"
          bind:value={code}
          required
          maxlength={10}
          fault={reason('code')}
        />
        {#if faults}<p class="text-short" role="alert">{faults.message}</p>{/if}
        <p class="flex gap-2 self-end">
          <Button type="button" onclick={() => turn('')}>Cancel</Button>
          <Button main>Turn on</Button>
        </p>
      </div>
    </form>
  {:else if step}
    <form class="mt-1 flex flex-col gap-3" onsubmit={send}>
      <Field
        label="Your password"
        type="password"
        autocomplete="current-password"
        bind:value={password}
        required
        fault={reason('password')}
      />
      {#if faults}<p class="text-short" role="alert">{faults.message}</p>{/if}
      <p class="flex gap-2 self-end">
        <Button type="button" onclick={() => turn('')}>Cancel</Button>
        <Button main>{step === 'end' ? 'Turn off' : 'Continue'}</Button>
      </p>
    </form>
  {:else if door.second_factor}
    <p class="text-sm text-ink2">
      At sign-in you also enter a code of your authenticator. {door.codes_left} recovery {door.codes_left ===
      1
        ? 'code is'
        : 'codes are'} left.
    </p>
    <p class="mt-1 flex flex-wrap gap-2">
      <Button onclick={() => turn('password')}>New codes</Button>
      <Button onclick={() => turn('end')}>Turn off…</Button>
    </p>
  {:else}
    <p class="text-sm text-ink2">Optional: a code from your phone in addition to the password.</p>
    <Button class="mt-1" onclick={() => turn('password')}>Set up…</Button>
  {/if}
</section>
