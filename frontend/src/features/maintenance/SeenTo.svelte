<!-- What is written down when something was seen to: how it was found, what was taken out of the drawer, what was measured. -->
<script lang="ts">
  import { reader, today } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { session } from '$lib/session.svelte';
  import { parse, figureSpec, shownUnit } from '$lib/units';
  import type { Done, TaskStatus, MaintenancePage } from './maintenance.svelte';

  let { page, task, onclose }: { page: MaintenancePage; task: TaskStatus; onclose: () => void } = $props();
  let on = $state(today());
  let found = $state<'good' | 'worn' | 'failed'>('good');
  let changed = $state(false);
  let note = $state('');
  let measured = $state('');
  let spare = $state('');
  let count = $state('1');
  let wrong = $state('');
  const groups = $derived(page.build.file.parts?.pack?.series ?? 0);
  const spares = $derived((page.kept.spares ?? []).filter((s) => s.count));
  const MEASURES: Partial<
    Record<TaskStatus['id'], { key: 'diameter_mm' | 'volts' | 'capacity_pct'; label: string }>
  > = {
    wheels_worn: { key: 'diameter_mm', label: 'Diameter now' },
    group_volts: { key: 'volts', label: 'Volts of the groups, from the negative end' },
    capacity: { key: 'capacity_pct', label: 'Capacity left' },
  };
  const measure = $derived(MEASURES[task.id]);
  const wears = $derived(
    !!task.life || ['wheels_worn', 'bushings', 'tyres', 'pulleys', 'chain'].includes(task.id),
  );

  async function keep(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    wrong = '';
    const done: Omit<Done, 'id'> = { task: task.id, on, found, by: session.who?.name ?? null };
    if (changed || found !== 'good') done.changed = changed || null;
    if (note.trim()) done.note = note.trim();
    if (spare) Object.assign(done, { spare, count: Math.max(Math.round(Number(count)) || 1, 1) });
    if (measure && measured.trim()) {
      if (measure.key === 'volts') {
        const volts = measured
          .trim()
          .split(/[\s;]+/)
          .map((v) => Number(v.replace(',', '.')));
        if (volts.some((v) => !Number.isFinite(v)) || (groups && volts.length !== groups)) {
          wrong = `${groups} volts belong here, with spaces between; these are ${volts.length}.`;
          return;
        }
        done.volts = volts;
      } else {
        const read = parse(measured, figureSpec(`maintenance.done.*.${measure.key}`), reader.units);
        if ('reason' in read) return void (wrong = read.reason);
        if (read.value !== null) done[measure.key] = read.value;
      }
    }
    if (await page.seenTo(done)) onclose();
  }
</script>

<form class="my-2 grid gap-3 border-l-4 border-ink pl-3 sm:grid-cols-2" onsubmit={keep} data-testid="seen-to">
  <Field label="On" type="date" max={today()} bind:value={on} required />
  <label class="block text-xs text-ink2"
    >It was<select class="entry block text-sm text-ink" bind:value={found}>
      <option value="good">good</option>
      <option value="worn">worn: replaced in time</option>
      <option value="failed">failed: it broke</option>
    </select></label
  >
  {#if measure}
    <Field
      label={`${measure.label}${measure.key === 'diameter_mm' ? `, ${shownUnit('length', reader.units).unit}` : measure.key === 'capacity_pct' ? ', %' : ', V'}`}
      bind:value={measured}
      fault={wrong}
      inputmode="decimal"
      class={measure.key === 'volts' ? 'sm:col-span-2' : ''}
    />
  {/if}
  {#if wears}
    <label class="flex min-h-[44px] items-center gap-2"
      ><input type="checkbox" class="size-[18px]" bind:checked={changed} /> Replaced with a new one</label
    >
  {/if}
  {#if spares.length}
    <label class="block text-xs text-ink2"
      >From stock<select class="entry block text-sm text-ink" bind:value={spare}>
        <option value="">nothing</option>
        {#each spares as s (s.id)}<option value={s.id}>{s.name} ({s.count})</option>{/each}
      </select></label
    >
    {#if spare}<Field
        label="How many"
        inputmode="numeric"
        bind:value={count}
        fault={page.faults['done.count']}
      />{/if}
  {/if}
  <Field label="Note" bind:value={note} maxlength={600} class="sm:col-span-2" />
  {#if page.refused}<p class="text-sm text-short sm:col-span-2" role="alert">{page.refused}</p>{/if}
  <div class="flex gap-2 sm:col-span-2">
    <Button main type="submit" disabled={page.sending}>Save entry</Button>
    <Button onclick={onclose}>Not now</Button>
  </div>
</form>
