<!-- What to know about the build, gravest first; dangers stand apart and need a reason to be set aside. -->
<script lang="ts">
  import FindingItem from '$lib/ui/FindingItem.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { dayText, reader } from '$lib/reader.svelte';
  import type { Finding, Schemas } from '$lib/api/client';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { formatMessage } from '$lib/units';
  import type { Design } from './design.svelte';

  interface Props {
    design: Design;
    findings: Finding[];
    needs: Schemas['Lacking'][];
    goToField: (path: string) => void;
  }
  let { design, findings, needs, goToField }: Props = $props();

  const standing = $derived(findings.filter((f) => !f.accepted));
  const accepted = $derived(findings.filter((f) => f.accepted));
  const currency = $derived(design.build.file.currency);
  const say = (message: Schemas['Message']) => formatMessage(message, reader.units, currency);

  let asking = $state.raw<Finding | null>(null);
  let reason = $state('');
  let lacking = $state('');

  function ask(finding: Finding): void {
    asking = finding;
    reason = '';
    lacking = '';
  }
  function accept(event: SubmitEvent): void {
    event.preventDefault();
    if (reason.trim().length < 3) {
      lacking = 'Enter a short reason: you will read it again in a year.';
      return;
    }
    design.accept(asking!.id, asking!.text, reason.trim());
    asking = null;
  }
</script>

{#if needs.length}
  <section class="border-t border-line py-2" aria-label="Still needed">
    <h3 class="text-sm">Still needed for speed, hill and range</h3>
    <ul class="mt-1">
      {#each needs as need (need.field)}
        <li>
          <button class="link min-h-[24px] text-left text-sm" onclick={() => goToField(need.field)}
            >{need.reason}</button
          >
        </li>
      {/each}
    </ul>
  </section>
{/if}
{#each standing as f (f.id)}
  <FindingItem finding={f} {currency} fixes={f.fixes} onfix={(fix) => design.build.change(fix.changes)}>
    {#each f.fields.slice(0, 1) as field (field)}
      <button class="link" onclick={() => goToField(field)} aria-label={`Go there: ${say(f.title)}`}
        >Go there</button
      >
    {/each}
    {#if f.severity === 'danger' || f.severity === 'stop'}
      <button class="link" onclick={() => ask(f)} aria-label={`Accept the risk: ${say(f.title)}`}
        >Accept the risk…</button
      >
    {/if}
  </FindingItem>
{/each}
{#if accepted.length}
  <details class="border-t border-line py-2 text-sm" data-testid="accepted">
    <summary class="font-semibold">Accepted, with your reason ({accepted.length})</summary>
    {#each accepted as f (f.id)}
      <div class="mt-2" data-testid="finding-accepted" data-id={f.id}>
        <p class="font-semibold">{say(f.title)}</p>
        <p>{say(f.message)}</p>
        <p class="remark">“{f.accepted!.reason}”{f.accepted!.day ? `, ${dayText(f.accepted!.day)}` : ''}</p>
        {#if f.accepted!.text && f.accepted!.text !== f.text}
          <p class="text-ink2">It said then: {f.accepted!.text}</p>
        {/if}
        <button
          class="link text-sm"
          onclick={() => design.accept(f.id, '', null)}
          aria-label={`Reopen: ${say(f.title)}`}>Reopen</button
        >
      </div>
    {/each}
  </details>
{/if}

<Dialog
  open={asking !== null}
  title="Accept the risk"
  remark="It stays in the build and in its papers, with your reason beside it."
  onclose={() => (asking = null)}
>
  {#if asking}
    <form id="accept-form" onsubmit={accept}>
      <p class="font-semibold">{say(asking.title)}</p>
      <p class="mb-3 text-sm">{say(asking.message)}</p>
      <label class="text-sm text-ink2" for="accept-word">Why do you accept it?</label>
      <textarea
        id="accept-word"
        class="entry min-h-20"
        maxlength="600"
        bind:value={reason}
        aria-invalid={lacking ? 'true' : undefined}
        aria-describedby={lacking ? 'accept-lacking' : undefined}></textarea>
      {#if lacking}<p id="accept-lacking" class="text-xs text-short" role="alert">{lacking}</p>{/if}
    </form>
  {/if}
  {#snippet actions()}
    <Button onclick={() => (asking = null)}>Do not accept it</Button>
    <Button main form="accept-form">Accept the risk</Button>
  {/snippet}
</Dialog>
