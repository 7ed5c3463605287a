<!-- What to know about the build, gravest first; dangers stand apart and need a word to be set aside. -->
<script lang="ts">
  import FindingItem from '$lib/ui/FindingItem.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { dayText, reader } from '$lib/reader.svelte';
  import type { Finding, Schemas } from '$lib/api/client';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { formatMessage } from '$lib/units';
  import type { Bench } from './bench.svelte';

  interface Props {
    bench: Bench;
    findings: Finding[];
    needs: Schemas['Lacking'][];
    goToField: (path: string) => void;
  }
  let { bench, findings, needs, goToField }: Props = $props();

  const standing = $derived(findings.filter((f) => !f.aside));
  const aside = $derived(findings.filter((f) => f.aside));
  const currency = $derived(bench.build.file.currency);
  const say = (saying: Schemas['Message']) => formatMessage(saying, reader.units, currency);

  let asking = $state.raw<Finding | null>(null);
  let word = $state('');
  let lacking = $state('');

  function ask(finding: Finding): void {
    asking = finding;
    word = '';
    lacking = '';
  }
  function setAside(event: SubmitEvent): void {
    event.preventDefault();
    if (word.trim().length < 3) {
      lacking = 'A few words of why: you will read them again in a year.';
      return;
    }
    bench.setAside(asking!.id, asking!.text, word.trim());
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
  <FindingItem finding={f} {currency} cures={f.cures} oncure={(cure) => bench.build.change(cure.changes)}>
    {#each f.fields.slice(0, 1) as field (field)}
      <button class="link" onclick={() => goToField(field)} aria-label={`Go there: ${f.title}`}
        >Go there</button
      >
    {/each}
    {#if f.severity === 'danger' || f.severity === 'stop'}
      <button class="link" onclick={() => ask(f)} aria-label={`Set aside: ${f.title}`}>Set aside…</button>
    {/if}
  </FindingItem>
{/each}
{#if aside.length}
  <details class="border-t border-line py-2 text-sm" data-testid="set-aside">
    <summary class="font-semibold">Set aside, with your word ({aside.length})</summary>
    {#each aside as f (f.id)}
      <div class="mt-2" data-testid="finding-aside" data-id={f.id}>
        <p class="font-semibold">{f.title}</p>
        <p>{say(f.saying)}</p>
        <p class="remark">“{f.aside!.word}”{f.aside!.day ? `, ${dayText(f.aside!.day)}` : ''}</p>
        {#if f.aside!.said && f.aside!.said !== f.text}
          <p class="text-ink2">It said then: {f.aside!.said}</p>
        {/if}
        <button
          class="link text-sm"
          onclick={() => bench.setAside(f.id, '', null)}
          aria-label={`Take up again: ${f.title}`}>Take it up again</button
        >
      </div>
    {/each}
  </details>
{/if}

<Dialog
  open={asking !== null}
  title="Set a finding aside"
  remark="It stays in the build and in its papers, with your word beside it."
  onclose={() => (asking = null)}
>
  {#if asking}
    <form id="set-aside-form" onsubmit={setAside}>
      <p class="font-semibold">{asking.title}</p>
      <p class="mb-3 text-sm">{say(asking.saying)}</p>
      <label class="text-sm text-ink2" for="set-aside-word">Why may it stand?</label>
      <textarea
        id="set-aside-word"
        class="entry min-h-20"
        maxlength="600"
        bind:value={word}
        aria-invalid={lacking ? 'true' : undefined}
        aria-describedby={lacking ? 'set-aside-lacking' : undefined}></textarea>
      {#if lacking}<p id="set-aside-lacking" class="text-xs text-short" role="alert">{lacking}</p>{/if}
    </form>
  {/if}
  {#snippet actions()}
    <Button onclick={() => (asking = null)}>Leave it standing</Button>
    <Button main form="set-aside-form">Set it aside</Button>
  {/snippet}
</Dialog>
