<!-- One station: its candidates, and the figures of what is chosen. -->
<script lang="ts">
  import { session } from '$lib/session.svelte';
  import { figureSpec } from '$lib/units';
  import Figure from '$lib/ui/Figure.svelte';
  import type { Bench } from '../bench/bench.svelte';
  import Candidates from './Candidates.svelte';
  import { decidingText, fieldsOf, type Station } from './stations';

  interface Props {
    bench: Bench;
    station: Station;
  }
  let { bench, station }: Props = $props();

  type Sheet = {
    id: string;
    label: string;
    kind: 'choose' | 'figures';
    field: string;
    slot?: Station['slots'][number];
  };

  const sheets = $derived.by<Sheet[]>(() => [
    ...station.slots.flatMap<Sheet>((s) => [
      {
        id: `choose-${s.kind}`,
        label: `Choose ${s.name.toLowerCase()}`,
        kind: 'choose',
        field: s.field,
        slot: s,
      },
      ...(s.kind === 'extra'
        ? []
        : [
            {
              id: `figures-${s.kind}`,
              label: `${s.name}’s figures`,
              kind: 'figures' as const,
              field: s.field,
              slot: s,
            },
          ]),
    ]),
    ...station.sections.map<Sheet>((s) => ({ id: s.field, label: s.name, kind: 'figures', field: s.field })),
  ]);
  let picked = $state('');
  const sheet = $derived(sheets.find((s) => s.id === picked) ?? sheets[0]!);
  const fields = $derived(fieldsOf(sheet.field));
  const record = $derived(bench.value(sheet.field) as Record<string, unknown> | undefined);
  let candidates = $state<Candidates>();

  export function find(): void {
    const choose = sheets.find((s) => s.kind === 'choose');
    if (!choose) return;
    if (sheet.kind !== 'choose') picked = choose.id;
    requestAnimationFrame(() => candidates?.find());
  }

  const extras = $derived(station.id === 'extras' ? (bench.file.parts?.extras ?? []) : []);
</script>

<section class="flex min-h-0 flex-1 flex-col" aria-label={`${station.name} station`}>
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
    <h2 class="text-base">{station.name}</h2>
    <div
      class="ml-auto flex flex-wrap gap-x-4 text-[13px]"
      role="group"
      aria-label="What to see of this station"
    >
      {#each sheets as s (s.id)}
        <button class="tab" aria-pressed={s.id === sheet.id} onclick={() => (picked = s.id)}>{s.label}</button
        >
      {/each}
    </div>
  </div>
  <p class="remark mb-2 text-[13.5px]">{station.remark}</p>

  {#if sheet.kind === 'choose' && sheet.slot}
    {#if station.id === 'extras' && extras.length}
      <ul class="mb-2 flex flex-wrap gap-2">
        {#each extras as extra, i (i)}
          <li class="flex items-center gap-2 rounded border border-line bg-sheet px-2 py-0.5 text-[13px]">
            {(extra.count ?? 1) > 1 ? `${extra.count} × ` : ''}{extra.name ?? 'Extra'}
            <button
              class="text-ink2 hover:text-short"
              aria-label={`Take off ${extra.name ?? 'extra'}`}
              onclick={() => bench.set(`parts.extras.${i}`, null)}>✕</button
            >
          </li>
        {/each}
      </ul>
    {/if}
    {#key sheet.id}<Candidates bind:this={candidates} {bench} slot={sheet.slot} />{/key}
  {:else}
    <div class="min-h-0 flex-1 overflow-auto pr-1 pb-2">
      {#if sheet.slot}
        <div class="mb-2 flex flex-wrap items-baseline gap-3">
          {#if record}
            <span class="font-semibold">{record.name ?? sheet.slot.name}</span>
            <span class="remark text-[13px]">{decidingText(sheet.slot.kind, record, session.units)}</span>
            <button class="link ml-auto text-[13px]" onclick={() => bench.set(sheet.field, null)}
              >Take it off the board</button
            >
          {:else}
            <span class="remark text-[13px]"
              >Nothing chosen: enter what you have, or choose from the library.</span
            >
          {/if}
        </div>
      {/if}
      <div class="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3 lg:grid-cols-4">
        {#each fields.deciding as path (path)}
          {#if figureSpec(path).longest !== 2000 && figureSpec(path).longest !== 4000}
            <Figure
              {path}
              value={bench.value(path)}
              currency={bench.file.currency}
              fault={bench.faults[path]}
              onchange={(v) => bench.set(path, v)}
            />
          {:else}
            <div class="col-span-full">
              <Figure
                {path}
                value={bench.value(path)}
                fault={bench.faults[path]}
                onchange={(v) => bench.set(path, v)}
              />
            </div>
          {/if}
        {/each}
      </div>
      {#if fields.bought.length}
        <h3 class="mt-4 mb-1 border-t border-line pt-2 text-[13.5px]">Bought</h3>
        <div class="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3 lg:grid-cols-4">
          {#each fields.bought as path (path)}
            <Figure
              {path}
              value={bench.value(path)}
              currency={bench.file.currency}
              fault={bench.faults[path]}
              onchange={(v) => bench.set(path, v)}
            />
          {/each}
        </div>
      {/if}
    </div>
  {/if}
</section>
