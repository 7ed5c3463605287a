<!-- A ride in five seconds: day, kilometres, volts before and after. -->
<script lang="ts">
  import { reader, today } from '$lib/reader.svelte';
  import type { Work } from '$lib/steps/work.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { figureSpec, parse, shownUnit } from '$lib/units';

  let { work, onkept }: { work: Work; onkept: () => void } = $props();
  let day = $state(today());
  let km = $state('');
  let before = $state('');
  let after = $state('');
  let note = $state('');
  let faults = $state.raw<Record<string, string>>({});
  const way = $derived(shownUnit('distance', reader.units).unit);

  function figure(key: 'km' | 'start_v' | 'end_v', text: string): number | undefined {
    if (!text.trim()) return undefined;
    const found = parse(text, figureSpec(`log.rode.${key}`), reader.units);
    if ('reason' in found) faults = { ...faults, [key]: found.reason };
    return 'value' in found ? (found.value ?? undefined) : undefined;
  }
  function keep(event: SubmitEvent): void {
    event.preventDefault();
    faults = {};
    const ride = {
      day,
      km: figure('km', km),
      start_v: figure('start_v', before),
      end_v: figure('end_v', after),
      note: note.trim(),
    };
    if (day > today()) faults = { ...faults, day: 'That day has not come yet.' };
    if (Object.keys(faults).length) return;
    work.rode(ride);
    km = before = after = note = '';
    onkept();
  }
</script>

<form
  class="mb-4 rounded border border-ink bg-sheet p-3 [&_.entry]:min-h-[44px]"
  onsubmit={keep}
  aria-label="The ride"
>
  <h2 class="text-lg">The ride, in five seconds</h2>
  <div class="mt-2 grid grid-cols-2 gap-3">
    <Field label="Day" type="date" bind:value={day} fault={faults.day} required />
    <Field label={`Distance, ${way}`} inputmode="decimal" bind:value={km} fault={faults.km} />
    <Field label="Volts before" inputmode="decimal" bind:value={before} fault={faults.start_v} />
    <Field label="Volts after" inputmode="decimal" bind:value={after} fault={faults.end_v} />
  </div>
  <Field label="Note (optional)" class="mt-2" bind:value={note} maxlength={2000} />
  <Button main class="mt-3 min-h-[44px] w-full">Save ride</Button>
</form>
