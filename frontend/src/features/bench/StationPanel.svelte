<!-- One station: its candidates, and the figures of what is chosen. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import { flushSync } from 'svelte';
  import { figureSpec } from '$lib/units';
  import Figure from '$lib/ui/Figure.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import type { Bench } from './bench.svelte';
  import Proposals from './Proposals.svelte';
  import Candidates from './Candidates.svelte';
  import Handles from './Handles.svelte';
  import { fieldsOf, touches, type Station } from './stations';
  import { decidingText, possessive } from '$lib/parts';

  interface Props {
    bench: Bench;
    station: Station;
    /** Boards are wanted at once; taken back when they are asked for. */
    proposing?: boolean;
  }
  let { bench, station, proposing = $bindable(false) }: Props = $props();

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
              label: `${possessive(s.name)} figures`,
              kind: 'figures' as const,
              field: s.field,
              slot: s,
            },
          ]),
    ]),
    // What is only entered stands on one sheet; beside parts each section has its own.
    ...(station.slots.length ? station.sections : station.sections.slice(0, 1)).map<Sheet>((s) => ({
      id: s.field,
      label: s.name,
      kind: 'figures',
      field: s.field,
    })),
  ]);
  let picked = $state('');
  let both = $state(false);
  const sheet = $derived(sheets.find((s) => s.id === picked) ?? sheets[0]!);
  const fields = $derived(fieldsOf(sheet.field));
  // A station without parts shows all its sections on its one sheet.
  const further = $derived(station.slots.length ? [] : station.sections.slice(1));
  const record = $derived(bench.build.value(sheet.field) as Record<string, unknown> | undefined);
  let candidates = $state<Candidates>();

  const wrong = $derived(
    (bench.prediction?.findings ?? []).filter(
      (f) => f.severity !== 'note' && !f.aside && station.id !== 'brief' && touches(station, f),
    ),
  );
  function toFinding(id: string): void {
    const found = document.querySelector<HTMLElement>(`[data-testid="finding"][data-id="${id}"]`);
    found?.scrollIntoView({ block: 'center' });
    found?.querySelector('button')?.focus();
  }

  export function find(): void {
    const choose = sheets.find((s) => s.kind === 'choose');
    if (!choose) return;
    // At once: the next key typed belongs into the field already.
    if (sheet.kind !== 'choose') flushSync(() => (picked = choose.id));
    candidates?.find();
  }

  const estimates = $derived(
    Object.fromEntries(
      (bench.prediction?.estimated ?? []).map((e) => [e.field, { value: e.value, rule: e.rule }]),
    ),
  );

  /** To the sheet with a field of the build file, and into the field. */
  export function show(path: string): void {
    const holding = sheets
      .filter((s) => s.kind === 'figures' && path.startsWith(`${s.field}.`))
      .toSorted((a, b) => b.field.length - a.field.length)[0];
    const part = holding?.slot && !bench.build.value(holding.field);
    if (part) picked = `choose-${holding.slot!.kind}`;
    else if (holding) picked = holding.id;
    requestAnimationFrame(() =>
      document.querySelector<HTMLElement>(`[data-path="${path}"] :is(input, select)`)?.focus(),
    );
  }

  async function takeOff(path: string): Promise<void> {
    if (!(await bench.build.takeOff(path))) notices.say('The server cannot be reached; nothing was changed.');
  }

  function measuredMark(path: string): { by?: string | null; day?: string | null } | null {
    const dot = path.lastIndexOf('.');
    const own = bench.build.value(`${path.slice(0, dot)}.measured`) as string[] | undefined;
    return bench.measured(path) ?? (own?.includes(path.slice(dot + 1)) ? {} : null);
  }

  const extras = $derived(station.id === 'extras' ? (bench.build.file.parts?.extras ?? []) : []);
</script>

<section class="flex min-h-0 flex-1 flex-col" aria-label={`${station.name} station`}>
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
    <h2 class="text-base">{station.name}</h2>
    <div class="ml-auto flex flex-wrap gap-x-4 text-sm" role="group" aria-label="What to see of this station">
      {#each sheets.length > 1 ? sheets : [] as s (s.id)}
        <button class="tab" aria-pressed={s.id === sheet.id} onclick={() => (picked = s.id)}>{s.label}</button
        >
      {/each}
    </div>
  </div>
  <p class="remark mb-2 text-sm">
    {station.remark}
    {#if station.schools.length}
      <button class="link not-italic" aria-expanded={both} onclick={() => (both = !both)}
        >{both ? 'Less' : 'Both sides'}</button
      >
    {/if}
  </p>
  {#if both}
    <dl class="mb-2 grid grid-cols-[auto_1fr_1fr] gap-x-4 gap-y-1 border-y border-line py-1.5 text-sm">
      {#each station.schools as { question, one, other } (question)}
        <dt class="text-ink2">{question}</dt>
        <dd class="m-0">{one}</dd>
        <dd class="m-0">{other}</dd>
      {/each}
    </dl>
  {/if}
  {#if wrong.length}
    <ul class="mb-2 flex list-none flex-wrap gap-x-4 gap-y-1 p-0 text-sm" aria-label="What is wrong here">
      {#each wrong as f (f.id)}
        <li>
          <button
            class="link"
            class:text-short={f.severity === 'danger' || f.severity === 'stop'}
            class:text-unsure={f.severity === 'warn'}
            onclick={() => toFinding(f.id)}>{f.severity === 'warn' ? '~' : '!'} {f.title}</button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if station.id === 'brief'}<Proposals {bench} bind:wanted={proposing} />{/if}
  {#if station.handles.length}<Handles {bench} handles={station.handles} />{/if}

  {#if sheet.kind === 'choose' && sheet.slot}
    {#if station.id === 'extras' && extras.length}
      <ul class="mb-2 flex flex-wrap gap-2">
        {#each extras as extra, i (i)}
          <li class="flex items-center gap-2 rounded border border-line bg-sheet px-2 py-0.5 text-sm">
            {(extra.count ?? 1) > 1 ? `${extra.count} × ` : ''}{extra.name ?? 'Extra'}
            <button
              class="text-ink2 hover:text-short"
              aria-label={`Take off ${extra.name ?? 'extra'}`}
              onclick={() => takeOff(`parts.extras.${i}`)}>✕</button
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
            <span class="remark text-sm">{decidingText(sheet.slot.kind, record, reader.units)}</span>
            <button class="link ml-auto text-sm" onclick={() => takeOff(sheet.field)}
              >Take it off the board</button
            >
          {:else}
            <span class="remark text-sm"
              >Nothing chosen: enter what you have, or choose from the library.</span
            >
          {/if}
        </div>
      {/if}
      {@render figures(fields.deciding)}
      {#if fields.bought.length}
        <h3 class="mt-4 mb-1 border-t border-line pt-2 text-sm">Bought</h3>
        {@render figures(fields.bought)}
      {/if}
      {#each further as section (section.field)}
        <h3 class="mt-4 mb-1 border-t border-line pt-2 text-sm">{section.name}</h3>
        {@render figures(fieldsOf(section.field).deciding)}
      {/each}
    </div>
  {/if}
</section>

{#snippet figures(paths: string[])}
  <div class="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3 lg:grid-cols-4">
    {#each paths as path (path)}
      <div class:col-span-full={(figureSpec(path).longest ?? 0) >= 2000}>
        <Figure
          {path}
          value={bench.build.value(path)}
          currency={bench.build.file.currency}
          fault={bench.faults[path]}
          estimate={estimates[path]}
          measured={measuredMark(path)}
          onmeasured={figureSpec(path).measurable ? (m) => bench.mark(path, m && { path, ...m }) : undefined}
          onchange={(v) => bench.build.set(path, v)}
        />
      </div>
    {/each}
  </div>
{/snippet}
