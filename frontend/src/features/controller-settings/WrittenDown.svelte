<!-- The record: what was set on which day, by whom and why; the record of a past day; files and print. -->
<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { api, faultsOf, type SettingsRecord } from '$lib/api/client';
  import { differences } from '$lib/paths';
  import { session } from '$lib/session.svelte';
  import { dayText, today } from '$lib/reader.svelte';
  import Between from './Between.svelte';
  import { paperOf } from './paper';
  import SettingsRecordItem from './SettingsRecordItem.svelte';
  import WhyAndBy from './WhyAndBy.svelte';
  import type { ControllerSettingsPage } from './controller-settings.svelte';

  let { piece }: { piece: ControllerSettingsPage } = $props();
  let on = $state(today());
  let by = $state(session.who?.name ?? '');
  let reason = $state('');
  const NONE = { low_ms: '', middle_ms: '', high_ms: '' };
  /** What was typed of the remote's end points; until then they are those that were measured last. */
  let typed = $state<Partial<typeof NONE>>({});
  const points = $derived({ ...NONE, ...measuredLast(piece.record?.settings_records ?? []), ...typed });
  const POINTS = [
    ['low_ms', 'Remote at full brake'],
    ['middle_ms', 'Remote in the middle'],
    ['high_ms', 'Remote at full throttle'],
  ] as const;
  let refused = $state('');
  let day = $state('');
  let found = $state.raw<SettingsRecord | null>(null);
  let notFound = $state('');

  const records = $derived(piece.record?.settings_records ?? []);
  const latest = $derived(records.at(-1));
  const differsFromWanted = (record: SettingsRecord) =>
    differences([record.settings, ...record.apart], [piece.build.file.settings ?? {}, ...piece.apart])
      .length > 0;

  function measuredLast(records: SettingsRecord[]): Partial<typeof NONE> {
    const measured = records.map((s) => Object.entries(s.end_points).filter(([, v]) => v != null));
    return Object.fromEntries((measured.findLast((m) => m.length) ?? []).map(([k, v]) => [k, String(v)]));
  }

  async function writeDown(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    refused = '';
    const measured: Record<string, number> = {};
    for (const [key, label] of POINTS) {
      const text = points[key].trim();
      const value = Number(text.replace(',', '.'));
      if (text && !Number.isFinite(value)) {
        refused = `${label}: milliseconds such as 1.5, not “${text.slice(0, 20)}”. Nothing was saved.`;
        return;
      }
      if (text) measured[key] = value;
    }
    const { data, error } = await api
      .POST('/api/builds/{id}/controller-settings', {
        params: { path: { id: piece.build.id } },
        body: {
          settings: piece.build.file.settings ?? {},
          apart: piece.apart,
          on,
          by,
          reason,
          end_points: measured,
        },
      })
      .catch(() => ({
        data: undefined,
        error: { message: 'The server cannot be reached; nothing was saved.', faults: [] },
      }));
    if (!data) {
      const refusal = faultsOf(error);
      refused = [refusal.message, ...(refusal.faults ?? []).map((f) => `${f.field}: ${f.reason}`)].join(' ');
      return;
    }
    reason = '';
    typed = {};
    await piece.reload();
  }

  async function lookUp(): Promise<void> {
    found = null;
    notFound = '';
    if (!day) return;
    const answer = await api
      .GET('/api/builds/{id}/controller-settings/on/{day}', { params: { path: { id: piece.build.id, day } } })
      .catch(() => null);
    if (answer?.data) found = answer.data;
    else notFound = answer ? faultsOf(answer.error).message : 'The server cannot be reached.';
  }
</script>

<section class="mt-6 mb-6" aria-labelledby="written-down">
  <div class="flex flex-wrap items-baseline gap-x-3 border-b border-ink pb-1">
    <h2 class="text-base" id="written-down">Settings records</h2>
    <span class="remark text-sm"
      >What was really set, so that a reset costs ten minutes and not an evening.</span
    >
  </div>
  <form class="mt-2 flex flex-wrap items-end gap-2" onsubmit={writeDown}>
    <Field label="Set on" type="date" bind:value={on} required />
    <WhyAndBy bind:reason bind:by />
    {#each POINTS as [key, label] (key)}
      <Field
        label={`${label}, ms`}
        class="w-24"
        inputmode="decimal"
        value={points[key]}
        oninput={(e) => (typed[key] = e.currentTarget.value)}
      />
    {/each}
    <Button main>Save entry</Button>
  </form>
  {#if refused}<p class="mt-1 text-sm text-short" role="alert">{refused}</p>{/if}

  {#if records.length}
    <div class="mt-3 flex flex-wrap items-end gap-2">
      <Field label="Which settings applied on a day?" type="date" bind:value={day} onchange={lookUp} />
      {#if found}<p class="text-sm" data-testid="of-that-day">
          Settings record {found.number}, set on {dayText(found.on)}{found.by ? ` by ${found.by}` : ''}: {found.reason}
          <button class="link" onclick={() => paperOf(piece.build.id, found!.number)}>A4</button>
        </p>{/if}
      {#if records.length > 1}<div class="sm:ml-auto"><Between id={piece.build.id} {records} /></div>{/if}
      {#if notFound}<p class="text-sm text-short" role="alert">{notFound}</p>{/if}
    </div>
    <ol class="m-0 mt-3 list-none p-0">
      {#each records.toReversed() as record (record.number)}
        <SettingsRecordItem
          id={piece.build.id}
          {record}
          onwant={record !== latest || differsFromWanted(record)
            ? () => piece.build.change({ settings: record.settings, settings_apart: record.apart })
            : undefined}
          onchanged={() => void piece.reload()}
        />
      {/each}
    </ol>
  {:else}
    <p class="remark mt-2 text-sm">No settings record yet.</p>
  {/if}
</section>
