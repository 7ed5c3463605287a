<!-- Every setting: recommended with its safe span, wanted, as last set; its reason and what it trades on demand. -->
<script lang="ts">
  import type { Schemas, SetSheet, SheetLine } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { figureSpec, spoken, valueText, written } from '$lib/units';
  import type { SheetPiece } from './sheet.svelte';

  interface Props {
    piece: SheetPiece;
    latest?: SetSheet;
    /** What the controllers were last seen to hold; it counts before the record, which may be old. */
    seen?: Schemas['LinkOut'] | null;
  }
  let { piece, latest, seen }: Props = $props();
  let open = $state<string | null>(null);

  const lines = $derived(piece.sheet?.lines ?? []);
  const groups = $derived([...new Set(lines.map((l) => l.group))]);
  const path = (line: SheetLine) => `settings.${line.field}`;
  const say = (line: SheetLine, value: unknown) => valueText(path(line), value, session.units);
  const span = (line: SheetLine) =>
    typeof line.value === 'number' && line.low != null && line.high != null && line.low < line.high
      ? `${say(line, line.low)} to ${say(line, line.high)}`
      : '';
  const MARKS: Record<SheetLine['stand'], [string, string]> = {
    'as recommended': ['✓', 'text-holds'],
    'within the span': ['~', 'text-unsure'],
    'outside the span': ['✕', 'text-short'],
    'not set': ['', 'text-ink2'],
  };
  const holds = $derived(seen?.held ?? (latest ? [latest.settings as Record<string, unknown>] : null));
  const inIt = (line: SheetLine) =>
    [...new Set((holds ?? []).map((h) => say(line, h[line.field])))].join(' and ');
  const differs = (line: SheetLine) =>
    seen?.held
      ? (seen.differs ?? []).some((d) => d.key === line.field)
      : inIt(line) !== say(line, line.set_to ?? null);
  const gain = (line: SheetLine) =>
    line.changes
      .map(
        (c) =>
          `${c.name} ${(c.change ?? 0) > 0 ? '+' : '−'}${written(Math.abs(c.change ?? 0), c.quantity, session.units, piece.file.currency)}`,
      )
      .join(', ');
</script>

{#each groups as group (group)}
  <section class="mt-3" aria-label={group}>
    <h2 class="border-b border-ink pb-1 text-base">{group}</h2>
    <ul class="m-0 list-none p-0">
      {#each lines.filter((l) => l.group === group) as line (line.field)}
        {@const [mark, tone] = MARKS[line.stand]}
        <li
          class="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] items-start gap-x-4 gap-y-1 border-b border-line py-1.5 sm:grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)_150px_minmax(0,0.8fr)]"
          data-testid="setting"
          data-field={line.field}
          data-stand={line.stand}
        >
          <div class="col-span-2 min-w-0 sm:col-span-1">
            <button
              class="text-left hover:underline"
              aria-expanded={open === line.field}
              onclick={() => (open = open === line.field ? null : line.field)}
              >{figureSpec(path(line)).title}</button
            >
            {#if figureSpec(path(line)).about}<p class="remark text-[12.5px]">
                {figureSpec(path(line)).about}
              </p>{/if}
          </div>
          <div>
            <p class="text-xs text-ink2">recommended</p>
            <p>
              <span class="font-semibold">{say(line, line.value)}</span>
              {#if line.stand !== 'as recommended'}
                <button
                  class="link text-[13px]"
                  aria-label={`Take ${say(line, line.value)} for ${figureSpec(path(line)).title}`}
                  onclick={() => piece.take([line.field])}>take it</button
                >
              {/if}
            </p>
            {#if span(line)}<p class="text-[12.5px] text-ink2">within {span(line)}</p>{/if}
          </div>
          <div class="relative">
            <Figure
              path={path(line)}
              label="wanted"
              value={piece.value(path(line))}
              fault={piece.faults[path(line)]}
              onchange={(v) => piece.set(path(line), v)}
            />
          </div>
          <div class="text-[13.5px]">
            <p class={tone}>
              <span aria-hidden="true">{mark}</span>
              {line.stand}
            </p>
            {#if holds}
              <p class:text-short={differs(line)} class:text-ink2={!differs(line)}>
                in the controller: {inIt(line)}
              </p>
            {/if}
          </div>
          {#if open === line.field}
            <div class="col-span-full pb-1 text-[13.5px]">
              <p>{spoken(line.why, session.units)}</p>
              <p class="remark">{spoken(line.trades, session.units)}</p>
              {#if line.changes.length}<p class="text-ink2">Taking it changes: {gain(line)}.</p>{/if}
            </div>
          {/if}
        </li>
      {/each}
    </ul>
  </section>
{/each}
