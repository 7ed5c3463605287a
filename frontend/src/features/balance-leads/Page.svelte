<!-- The balance leads, one lead after the other beside the meter: judged at once, stopped at the first wrong one. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { reader, today } from '$lib/reader.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import BoughtPack from '$lib/build/BoughtPack.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { figureSpec, parse, formatMessage, written } from '$lib/units';

  const build = getBuildContext();
  const asked = new Query(
    () => build.board,
    (document, signal) => api.POST('/api/balance-leads', { body: { document }, signal }),
    { cacheKey: () => `balance-leads:${build.id}` },
  );
  const report = $derived(asked.answer?.report);
  const entered = $derived(build.file.pack_assembly?.balance_leads ?? {});
  const say = (s: Schemas['Message']) => formatMessage(s, reader.units);
  const v = (value: number) => written(value, 'cell_voltage', reader.units);
  let typed = $state('');
  let fault = $state('');
  /** The lead that is read; null follows the report. */
  let chosen = $state<number | null>(null);
  const taken = $derived(entered.readings ?? []);
  /** Without the server nothing is judged; what is read is kept, one lead after the other. */
  const unjudged = $derived(asked.failed || asked.fromCache);
  const open = $derived(
    report ? Array.from({ length: report.series + 1 }, (_, i) => i).find((i) => taken[i] == null) : 0,
  );
  const lead = $derived(chosen ?? (unjudged ? (open ?? null) : (report?.next ?? null)));
  const row = $derived(lead === null ? undefined : report?.leads[lead]);
  let input = $state<HTMLInputElement>();

  function enter(event: SubmitEvent): void {
    event.preventDefault();
    if (lead === null || !report) return;
    const read = parse(typed, figureSpec('pack_assembly.balance_leads.readings'), reader.units);
    if ('reason' in read) {
      fault = read.reason;
      return;
    }
    if (read.value === null) {
      fault = 'what the meter shows, in volts';
      return;
    }
    fault = '';
    put(lead, read.value);
    typed = '';
    chosen = null;
    input?.focus();
  }
  function put(at: number, value: number | null): void {
    const readings = Array.from({ length: report!.series + 1 }, (_, i) => entered.readings?.[i] ?? null);
    readings[at] = value;
    while (readings.length && readings.at(-1) === null) readings.pop();
    build.change({
      'pack_assembly.balance_leads.readings': readings.length ? readings : null,
      'pack_assembly.balance_leads.day': today(),
    });
  }
  function again(): void {
    chosen = null;
    typed = '';
    build.changeAndSay({ 'pack_assembly.balance_leads.readings': null }, 'The readings were cleared.');
  }
  /** A group on the small gauge: what is expected in the middle, a fifth of a volt to each side. */
  const place = (group: number) =>
    Math.min(Math.max((group - (report?.cell_v ?? group)) / 0.4 + 0.5, 0), 1) * 100;
  const SIGNS = { open: '', right: '✓', wrong: '✕', after: '·' } as const;
</script>

<main class="mx-auto w-full max-w-[1080px] px-4 py-4 sm:px-6">
  <div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Balance leads</h1>
    <p class="remark text-sm">Measure every lead before the plug goes into the BMS.</p>
  </div>
  {#if !asked.answer}
    <Awaiting
      {asked}
      waiting="Calculating…"
      lost="The readings cannot be checked at the moment; what you entered is saved on this device."
    />
  {:else if !report}
    <p class="rounded border border-line bg-sheet p-3">
      Enter on the Design page how many cells are in series: there is one lead more than that.
      <a class="link" href={`${addressOf(build.id, 'design')}?at=parts.pack.series`}>Open Design</a>
    </p>
  {:else if asked.answer.bought && !taken.length}
    <BoughtPack bought={asked.answer.bought}>{@render leads(report)}</BoughtPack>
  {:else}
    {@render leads(report)}
  {/if}
</main>

{#snippet leads(report: Schemas['BalanceLeadsReport'])}
  <div class="grid gap-x-10 gap-y-4 lg:grid-cols-[minmax(0,1fr)_400px]">
    <div class="min-w-0 lg:order-2">
      {#if report.stop != null}
        <section class="mb-3 rounded border-2 border-short bg-short-wash p-3" role="alert" data-testid="stop">
          <h2 class="text-lg">✕ {say(report.last_word)}</h2>
          {#each report.meanings ?? [] as m, i (i)}
            <div class="mt-2 border-t border-short pt-2" data-testid="meaning" data-kind={m.kind}>
              <p class="text-base font-semibold">{i ? 'or: ' : ''}{m.title}</p>
              <p>{say(m.message)}</p>
              {#if (report.meanings?.length ?? 0) === 1 || i === 0}<p class="mt-1 font-semibold">
                  {say(m.remedy)}
                </p>{/if}
            </div>
          {/each}
        </section>
      {:else if report.done}
        <section class="mb-3 rounded border-2 border-holds bg-sheet p-3" data-testid="leads-done">
          <h2 class="text-lg">✓ All {report.series + 1} leads are right</h2>
          <p>{say(report.last_word)}</p>
          <p class="mt-2">
            <a class="link" href={addressOf(build.id, 'charging')}>Next: watch the first charge</a>
          </p>
        </section>
      {:else}
        <p class="mb-2 text-base" data-testid="leads-word">{say(report.last_word)}</p>
      {/if}
      {#if unjudged}
        <p class="mb-2 border-l-[3px] border-unsure pl-2" role="status">
          The server cannot be reached: your readings are saved on this device and checked when it is back.
          Until then keep the plug out.
        </p>
      {/if}
      {#if row && lead !== null}
        <form class="rounded border border-ink bg-sheet p-3" onsubmit={enter} aria-label={`Lead ${lead}`}>
          <p class="flex items-baseline justify-between">
            <span class="font-serif text-2xl font-semibold">Lead {lead}</span>
            <span class="text-ink2"
              >{lead === 0 ? 'black wire' : `positive end of group ${lead}`}, about
              <b>{v(row.expected_v)}</b></span
            >
          </p>
          <label class="mt-2 block text-xs text-ink2"
            >What the meter shows
            <span class="relative block">
              <input
                bind:this={input}
                bind:value={typed}
                class="entry min-h-14 !text-2xl text-ink"
                inputmode="decimal"
                autocomplete="off"
                aria-invalid={fault ? 'true' : undefined}
                aria-label={`Reading of lead ${lead}`}
              />
              <span class="pointer-events-none absolute inset-y-0 right-3 flex items-center text-lg">V</span>
            </span></label
          >
          {#if fault}<p class="text-sm text-short" role="alert">{fault}</p>{/if}
          <div class="mt-2 flex gap-2">
            <Button main class="min-h-12 flex-1 text-base">Enter</Button>
            {#if chosen !== null}
              <Button type="button" class="min-h-12" onclick={() => (chosen = null)}>Cancel</Button>
            {/if}
          </div>
        </form>
      {/if}
      <div class="mt-3 grid grid-cols-2 items-end gap-3">
        <Figure
          path="pack_assembly.balance_leads.charge_pct"
          value={entered.charge_pct ?? report.charge_pct}
          onchange={(value) => build.change({ 'pack_assembly.balance_leads.charge_pct': value })}
        />
        {#if entered.readings?.length}<Button onclick={again}>Start again</Button>{/if}
      </div>
      <p class="remark mt-3 text-sm">
        Tape the wires apart, each with its number; bare one at a time. Set the meter to volts, never to
        amperes: on amperes it is a short circuit. Eye protection. If you have never done it, work beside
        somebody who has.
      </p>
    </div>
    <ol class="m-0 list-none border-t border-ink p-0 lg:order-1" data-testid="leads" aria-label="All leads">
      {#each [...report.leads].reverse() as t (t.lead)}
        <li
          class={[
            'flex items-center gap-3 border-b border-line',
            t.verdict === 'wrong' && 'border-l-4 border-l-short',
          ]}
          data-lead={t.lead}
          data-verdict={t.verdict}
        >
          <button
            class={[
              'flex min-h-11 flex-1 items-center gap-3 px-1 text-left',
              lead === t.lead && 'font-semibold',
            ]}
            aria-current={lead === t.lead ? 'step' : undefined}
            onclick={() => {
              chosen = t.lead;
              typed = taken[t.lead] != null ? String(taken[t.lead]) : '';
              input?.focus();
            }}
          >
            <span class="w-8 text-right font-serif text-base">{t.lead}</span>
            <span
              class={[
                'w-5 text-center font-bold',
                t.verdict === 'right' && 'text-holds',
                t.verdict === 'wrong' && 'text-short',
              ]}
              aria-hidden="true">{SIGNS[t.verdict]}</span
            >
            <span class="w-24 text-right">{taken[t.lead] != null ? v(taken[t.lead]!) : ''}</span>
            <span class="w-24 text-right text-ink2">{v(t.expected_v)}</span>
            <span class="flex flex-1 items-center justify-end gap-2 text-sm text-ink2">
              {#if t.group_v != null && t.lead}
                <span class="gauge" aria-hidden="true"
                  ><span class="mark" class:off={t.verdict === 'wrong'} style:left={`${place(t.group_v)}%`}
                  ></span></span
                >
                <span class="w-16 text-right">{v(t.group_v)}</span>
              {:else if t.lead === 0}pack’s negative{/if}
            </span>
            <span class="sr-only">{t.verdict}</span>
          </button>
        </li>
      {/each}
      <li class="flex gap-3 px-1 pt-1 text-xs text-ink2" aria-hidden="true">
        <span class="w-8 text-right">lead</span><span class="w-5"></span><span class="w-24 text-right"
          >shows</span
        ><span class="w-24 text-right">expected</span><span class="flex-1 text-right"
          >between it and the one below</span
        >
      </li>
    </ol>
  </div>
{/snippet}

<style>
  .gauge {
    position: relative;
    width: min(42%, 130px);
    height: 14px;
    border: 1px solid var(--color-line);
    background: linear-gradient(var(--color-rule), var(--color-rule)) 50% 0 / 1px 100% no-repeat;
  }
  .mark {
    position: absolute;
    inset-block: -3px;
    width: 5px;
    margin-left: -2.5px;
    background: var(--color-holds);
  }
  .mark.off {
    background: var(--color-short);
  }
</style>
