<!-- One station: its candidates, and the figures of what is chosen. -->
<script lang="ts">
  import { messageText, reader } from '$lib/reader.svelte';
  import { flushSync } from 'svelte';
  import Button from '$lib/ui/Button.svelte';
  import { figureSpec } from '$lib/units';
  import Figure from '$lib/ui/Figure.svelte';
  import { notationReader } from '$lib/notation';
  import { notices } from '$lib/ui/notices.svelte';
  import type { Design } from './design.svelte';
  import Proposals from './Proposals.svelte';
  import Candidates from './Candidates.svelte';
  import Handles from './Handles.svelte';
  import KeepPart from './KeepPart.svelte';
  import Underside from './Underside.svelte';
  import { fieldsOf, listAt, touches, type Slot, type Station } from './stations';
  import { decidingText, possessive } from '$lib/parts';

  interface Props {
    design: Design;
    station: Station;
    /** Boards are wanted at once; taken back when they are asked for. */
    proposing?: boolean;
  }
  let { design, station, proposing = $bindable(false) }: Props = $props();

  /** What can be seen of a station: a kind of part, or what is entered beside it. */
  type Topic = { id: string; name: string; field: string; slot?: Slot };
  const topics = $derived<Topic[]>([
    ...station.slots.map((s) => ({ id: s.kind, name: s.name, field: s.field, slot: s })),
    // What is only entered stands on one sheet; beside parts each section has its own.
    ...(station.slots.length ? station.sections : station.sections.slice(0, 1)).map((s) => ({
      id: s.field,
      name: s.name,
      field: s.field,
    })),
  ]);
  let picked = $state('');
  let entering = $state(false);
  let both = $state(false);
  const topic = $derived(topics.find((t) => t.id === picked) ?? topics[0]!);
  const choosing = $derived(topic.slot !== undefined && !entering);
  const list = $derived(topic.slot?.several ? listAt(design.build.file, topic.field) : []);
  /** Whose figures are shown: of a list one, else the part or section itself. */
  let nth = $state(0);
  const field = $derived(
    topic.slot?.several ? `${topic.field}.${Math.min(nth, Math.max(list.length - 1, 0))}` : topic.field,
  );
  const needless = $derived(new Set(design.prediction?.not_of_this_board));
  const said = (path: string) => design.build.value(path) !== undefined && design.build.value(path) !== null;
  const wanted = (paths: string[]) => paths.filter((p) => !needless.has(p) || said(p));
  const fields = $derived(fieldsOf(field));
  // A station without parts shows all its sections on its one sheet.
  const further = $derived(station.slots.length ? [] : station.sections.slice(1));
  const record = $derived(design.build.value(field) as Record<string, unknown> | undefined);
  let candidates = $state<Candidates>();

  function look(id: string): void {
    picked = id;
    entering = false;
  }

  const wrong = $derived(
    (design.prediction?.findings ?? []).filter(
      (f) => f.severity !== 'note' && !f.accepted && station.id !== 'brief' && touches(station, f),
    ),
  );
  function toFinding(id: string): void {
    const found = document.querySelector<HTMLElement>(`[data-testid="finding"][data-id="${id}"]`);
    found?.scrollIntoView({ block: 'center' });
    found?.querySelector('button')?.focus();
  }

  export function find(): void {
    const first = topics.find((t) => t.slot);
    if (!first) return;
    // At once: the next key typed belongs into the field already.
    if (!choosing) flushSync(() => look(first.id));
    candidates?.find();
  }

  const estimates = $derived(
    Object.fromEntries(
      (design.prediction?.estimated ?? []).map((e) => [e.field, { value: e.value, rule: e.rule }]),
    ),
  );

  /** To the topic with a field of the build file, and into the field. */
  export function show(path: string): void {
    const holding = topics
      .filter((t) => path.startsWith(`${t.field}.`))
      .toSorted((a, b) => b.field.length - a.field.length)[0];
    if (holding) {
      picked = holding.id;
      nth = Number(/\.(\d+)\./.exec(path)?.[1] ?? 0);
      // The name of a part that is not there is asked for by choosing one.
      entering = !(holding.slot && path.endsWith('.name') && !design.build.value(holding.field));
    }
    requestAnimationFrame(() =>
      document.querySelector<HTMLElement>(`[data-path="${path}"] :is(input, select)`)?.focus(),
    );
  }

  async function takeOff(path: string): Promise<void> {
    if (!(await design.build.takeOff(path)))
      notices.say('The server cannot be reached; nothing was changed.');
  }

  function measuredMark(path: string): { by?: string | null; day?: string | null } | null {
    const dot = path.lastIndexOf('.');
    const own = design.build.value(`${path.slice(0, dot)}.measured`) as string[] | undefined;
    return design.measured(path) ?? (own?.includes(path.slice(dot + 1)) ? {} : null);
  }
</script>

<section class="flex min-h-0 flex-1 flex-col" aria-label={`${station.name} station`}>
  <div class="mb-1 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-sm">
    <h2 class="text-base">{station.name}</h2>
    {#if topic.slot}
      {@const slot = topic.slot}
      <div class="flex gap-x-4" role="group" aria-label={slot.name}>
        <button class="tab" aria-pressed={choosing} onclick={() => (entering = false)}
          >Choose {slot.name.toLowerCase()}</button
        >
        <button class="tab" aria-pressed={!choosing} onclick={() => (entering = true)}
          >{possessive(slot.name)} figures</button
        >
      </div>
    {/if}
    <div class="ml-auto flex flex-wrap gap-x-4" role="group" aria-label="What to see of this station">
      {#each topics.length > 1 ? topics : [] as t (t.id)}
        <button class="tab" aria-pressed={t.id === topic.id} onclick={() => look(t.id)}>{t.name}</button>
      {/each}
    </div>
  </div>
  <p class="remark mb-2 text-sm">
    {station.remark}
    {#if station.schools.length}
      <button class="link" aria-expanded={both} onclick={() => (both = !both)}
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
            onclick={() => toFinding(f.id)}>{f.severity === 'warn' ? '~' : '!'} {messageText(f.title)}</button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if station.id === 'brief'}<Proposals {design} bind:wanted={proposing} />{/if}
  {#if station.handles.length}<Handles {design} handles={station.handles} />{/if}

  {#if topic.slot?.several && list.length}
    <ul class="m-0 mb-1 flex list-none flex-wrap gap-x-3 gap-y-1 p-0 text-sm">
      {#each list as one, i (i)}
        <li class="flex items-center gap-1.5 rounded border border-line bg-sheet px-2">
          <button
            class:font-semibold={!choosing && i === nth}
            onclick={() => {
              nth = i;
              entering = true;
            }}>{(one.count ?? 1) > 1 ? `${one.count} × ` : ''}{one.name ?? topic.name}</button
          >
          <button
            class="size-6 text-ink2 hover:text-short"
            aria-label={`Remove ${one.name ?? topic.name.toLowerCase()}`}
            onclick={() => takeOff(`${topic.field}.${i}`)}>✕</button
          >
        </li>
      {/each}
    </ul>
  {:else if topic.slot && !topic.slot.several && record && !choosing}
    <p class="mb-2 flex flex-wrap items-baseline gap-x-3 text-sm">
      <span class="font-semibold">{record.name ?? topic.name}</span>
      <span class="remark">{decidingText(topic.slot.kind, record, reader.units)}</span>
      <span class="ml-auto flex gap-3">
        <KeepPart kind={topic.slot.kind} {record} />
        <button class="link" onclick={() => takeOff(topic.field)}>Remove it from the board</button>
      </span>
    </p>
  {/if}
  {#if choosing && topic.slot}
    {#key topic.id}<Candidates bind:this={candidates} {design} slot={topic.slot} />{/key}
  {:else}
    <div class="min-h-0 flex-1 overflow-auto pr-1 pb-2">
      {#if topic.slot?.several && !list.length}
        <p class="remark py-2 text-sm">The board has none.</p>
        <Button onclick={() => design.build.set(`${topic.field}.0.name`, topic.name)}>Add one by hand</Button>
      {:else}
        {#if topic.slot && !record}
          <p class="remark mb-2 text-sm">Nothing chosen: enter what you have, or choose from the library.</p>
        {/if}
        {@render figures(wanted(fields.deciding))}
        {#if topic.id === 'deck'}<Underside {design} />{/if}
        {#if fields.bought.length}
          <h3 class="mt-4 mb-1 border-t border-line pt-2 text-sm">Bought</h3>
          {@render figures(wanted(fields.bought))}
        {/if}
      {/if}
      {#each further as section (section.field)}
        <h3 class="mt-4 mb-1 border-t border-line pt-2 text-sm">{section.name}</h3>
        {@render figures(wanted(fieldsOf(section.field).deciding))}
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
          value={design.build.value(path)}
          currency={design.build.file.currency}
          fault={design.faults[path]}
          estimate={estimates[path]}
          measured={measuredMark(path)}
          onmeasured={figureSpec(path).measurable ? (m) => design.mark(path, m && { path, ...m }) : undefined}
          onchange={(v) => design.build.set(path, v)}
          onnotation={notationReader(
            path,
            () => design.build.board,
            (changes) => design.build.change(changes),
          )}
        />
      </div>
    {/each}
  </div>
{/snippet}
