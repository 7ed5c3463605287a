<!-- A figure that somebody claims, compared with this board. -->
<script lang="ts">
  import { api, faultsOf, type Schemas } from '$lib/api/client';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import BandRuler from '$lib/charts/BandRuler.svelte';
  import { reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { formatMessage } from '$lib/units';

  const TONE = { likely: 'holds', uncertain: 'ink', unlikely: 'short' } as const;
  const VERDICT = { likely: '✓ Likely', uncertain: '~ Uncertain', unlikely: '✕ Unlikely' } as const;

  let { build }: { build: OpenBuild } = $props();
  let text = $state('');
  let report = $state.raw<Schemas['ClaimReport'] | null>(null);
  let fault = $state('');
  let busy = $state(false);

  async function check(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    busy = true;
    fault = '';
    const reply = await api
      .POST('/api/claim', { body: { document: build.board, board: build.id, claim: text } })
      .catch(() => ({ data: undefined, error: { message: 'The server cannot be reached.' } }));
    busy = false;
    report = reply.data ?? null;
    if (!reply.data) {
      const refusal = faultsOf(reply.error);
      fault = refusal.faults?.[0] ? `It needs ${refusal.faults[0].reason}.` : refusal.message;
    }
  }
  const say = (s: Schemas['Message']) => formatMessage(s, reader.units);
  const wanted = $derived(
    report?.quantity === 'grade'
      ? report.claim.grade_pct
      : report?.quantity === 'distance'
        ? report.claim.range_km
        : report?.claim.speed_kmh,
  );
</script>

<p class="remark mb-2 text-sm">
  What a seller, a friend or a listing claims, compared with this board and you on it.
</p>
<form class="flex flex-wrap items-end gap-3 [&_.entry]:min-h-[44px]" onsubmit={check} aria-label="The claim">
  <Field
    label="The claim"
    class="min-w-0 grow sm:max-w-[30rem]"
    bind:value={text}
    placeholder="60 km on a charge"
    {fault}
    maxlength={300}
  />
  <Button main class="min-h-[44px]" disabled={!text.trim() || busy}>Check the claim</Button>
</form>
<p class="mt-1 text-sm text-ink2">
  Such as
  {#each ['60 km on a charge', 'climbs 25 % at 20 km/h', '50 km/h'] as example, i (example)}
    {i ? ', ' : ''}<button class="link min-h-6" onclick={() => (text = example)}>{example}</button>{/each}.
</p>
{#if report}
  <section
    class="mt-4 max-w-[46rem]"
    aria-label="How it stands"
    data-testid="claim"
    data-chance={report.chance.toFixed(3)}
  >
    <p class="text-lg">
      <b class={`text-${TONE[report.likelihood]}`}>{VERDICT[report.likelihood]}</b>: {report.in_words}.
    </p>
    <BandRuler
      bands={[{ low: report.low, mid: report.mid, high: report.high, tone: TONE[report.likelihood] }]}
      quantity={report.quantity}
      mark={wanted ?? undefined}
      label="What this board does, and what is claimed"
    />
    <p class="mt-1">{say(report.says)}</p>
    {#if report.needs.length}
      <h2 class="mt-3 text-base">What it would need</h2>
      <ul class="list-disc pl-5">
        {#each report.needs as n, i (i)}<li>{say(n)}</li>{/each}
      </ul>
    {/if}
    <h2 class="mt-3 text-base">What the claim does not say</h2>
    <ul class="list-disc pl-5">
      {#each report.leaves_out as n, i (i)}<li>{say(n)}</li>{/each}
    </ul>
  </section>
{/if}
