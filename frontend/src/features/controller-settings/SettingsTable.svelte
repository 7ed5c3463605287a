<!-- Every setting: recommended with its safe span, wanted, as last set; its reason and what it trades on demand. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import type { Schemas, SettingsRecord, SettingLine } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { figureSpec, formatMessage, valueText, written } from '$lib/units';
  import { ofEach } from './naming';
  import type { ControllerSettingsPage } from './controller-settings.svelte';

  interface Props {
    piece: ControllerSettingsPage;
    latest?: SettingsRecord;
    /** What the controllers were last seen to hold; it counts before the record, which may be old. */
    seen?: Schemas['LinkOut'] | null;
  }
  let { piece, latest, seen }: Props = $props();
  let open = $state<string | null>(null);

  const lines = $derived(piece.recommended?.lines ?? []);
  const groups = $derived([...new Set(lines.map((l) => l.group))]);
  const path = (line: SettingLine) => `settings.${line.field}`;
  const say = (line: SettingLine, value: unknown) => valueText(path(line), value, reader.units);
  const span = (line: SettingLine) =>
    typeof line.value === 'number' && line.low != null && line.high != null && line.low < line.high
      ? `${say(line, line.low)} to ${say(line, line.high)}`
      : '';
  const MARKS: Record<SettingLine['stand'], [string, string]> = {
    'as recommended': ['✓', 'text-holds'],
    'within its range': ['~', 'text-unsure'],
    'outside its range': ['✕', 'text-short'],
    'not set': ['', 'text-ink2'],
  };
  type Values = Record<string, unknown>;
  const holds = $derived(seen?.held ?? (latest ? (latest.each as Values[]) : null));
  const said = (line: SettingLine, values: unknown[]) => ofEach(values.map((v) => say(line, v)));
  const held = (line: SettingLine) => said(line, holds?.map((v) => v[line.field]) ?? []);
  const differs = (line: SettingLine) =>
    seen?.held
      ? (seen.differs ?? []).some((d) => d.key === line.field)
      : held(line) !== said(line, line.set_each);
  const gain = (line: SettingLine) =>
    line.changes
      .map(
        (c) =>
          `${c.name} ${(c.change ?? 0) > 0 ? '+' : '−'}${written(Math.abs(c.change ?? 0), c.quantity, reader.units, piece.build.file.currency)}`,
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
            {#if figureSpec(path(line)).about}<p class="remark text-sm">
                {figureSpec(path(line)).about}
              </p>{/if}
          </div>
          <div>
            <p class="text-xs text-ink2">recommended</p>
            <p>
              <span class="font-semibold">{say(line, line.value)}</span
              >{#each line.further ?? [] as value, i (i)}, controller {i + 2}
                <span class="font-semibold">{say(line, value)}</span>{/each}
              {#if line.stand !== 'as recommended'}
                <button
                  class="link text-sm"
                  disabled={!piece.fresh}
                  aria-label={`Use ${say(line, line.value)} for ${figureSpec(path(line)).title}`}
                  onclick={() => piece.take([line.field])}>use it</button
                >
              {/if}
            </p>
            {#if span(line)}<p class="text-sm text-ink2">within {span(line)}</p>{/if}
          </div>
          <div class="relative">
            <Figure
              path={path(line)}
              label={piece.controllers === 1
                ? 'wanted'
                : piece.apart.some((row) => line.field in row)
                  ? 'controller 1'
                  : 'wanted of all'}
              value={piece.build.value(path(line))}
              fault={piece.faults[path(line)]}
              onchange={(v) => piece.build.set(path(line), v)}
            />
            {#each piece.apart as row, unit (unit)}
              {#if line.field in row}
                <div class="mt-1 flex items-end gap-1" data-testid="apart">
                  <Figure
                    path={`settings_apart.${unit}.${line.field}`}
                    label={`controller ${unit + 2}`}
                    value={row[line.field]}
                    onchange={(v) => piece.setApart(unit, line.field, v ?? undefined)}
                  />
                  <button
                    class="px-1 pb-1.5 text-ink2"
                    aria-label={`${figureSpec(path(line)).title} of controller ${unit + 2} as of all`}
                    onclick={() => piece.setApart(unit, line.field, undefined)}>✕</button
                  >
                </div>
              {/if}
            {/each}
          </div>
          <div class="text-sm">
            <p class={tone}>
              <span aria-hidden="true">{mark}</span>
              {line.stand}
            </p>
            {#if holds}
              <p class:text-short={differs(line)} class:text-ink2={!differs(line)}>
                in the controller{holds.length > 1 ? 's' : ''}: {held(line)}
              </p>
            {/if}
          </div>
          {#if open === line.field}
            <div class="col-span-full pb-1 text-sm">
              <p>{formatMessage(line.why, reader.units)}</p>
              <p class="remark">{formatMessage(line.trades, reader.units)}</p>
              {#each piece.apart as row, unit (unit)}
                {#if !(line.field in row) && line.set_each[0] != null}
                  <button class="link mr-3" onclick={() => piece.setApart(unit, line.field, line.set_each[0])}
                    >Set controller {unit + 2} separately</button
                  >
                {/if}
              {/each}
              {#if line.changes.length}<p class="text-ink2">Using it changes: {gain(line)}.</p>{/if}
            </div>
          {/if}
        </li>
      {/each}
    </ul>
  </section>
{/each}
