<!-- A ride in five seconds at the door: day, kilometres, volts before and after; all else beneath, for whoever has a minute. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { reader, today } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';
  import { figureSpec, parse, toShown } from '$lib/units';
  import RideFigure from './RideFigure.svelte';
  import type { RideFile, Rides } from './rides.svelte';

  interface Props {
    rides: Rides;
    /** A ride that is altered; without one a new one is written. */
    of?: RideFile | null;
    onkept: (id: string) => void;
    onleft?: () => void;
  }
  let { rides, of = null, onkept, onleft }: Props = $props();

  const FIRST = ['way.distance_km', 'pack.start_v', 'pack.end_v'];
  const MORE: [string, string[]][] = [
    [
      'The end',
      ['pack.ended', 'pack.rested_s', 'pack.by', 'pack.wh', 'pack.start_pct', 'pack.end_pct', 'warm'],
    ],
    ['The way', ['way.ascent_m', 'way.moving_s', 'way.stops']],
    [
      'The day',
      [
        'conditions.temperature_c',
        'conditions.wind_ms',
        'conditions.wind',
        'conditions.surface',
        'conditions.wet',
      ],
    ],
    ['Who rode', ['rider.mass_kg', 'rider.carried_kg', 'rider.other']],
  ];
  const WORDS = ['broke', 'wish', 'note'];
  const EVERY = [...FIRST, ...MORE.flatMap(([, paths]) => paths), ...WORDS];

  /** What stands in a ride at a path, as it is written in a field. */
  function textAt(path: string): string {
    let found: unknown = of;
    for (const key of path.split('.')) found = (found as Record<string, unknown> | null | undefined)?.[key];
    if (found === null || found === undefined) return '';
    const { quantity, yesNo } = figureSpec(`ride.${path}`);
    if (yesNo) return found ? 'yes' : 'no';
    return typeof found === 'number' && quantity
      ? String(Number(toShown(found, quantity, reader.units).toFixed(3)))
      : String(found);
  }
  let texts = $state(untrack(() => Object.fromEntries(EVERY.map((p) => [p, textAt(p)]))));
  let day = $state(untrack(() => of?.day ?? today()));
  let revision = $state(untrack(() => of?.revision ?? ''));
  let more = $state(untrack(() => of !== null));
  let faults = $state.raw<Record<string, string>>({});
  // What the server would not take stands again where it was entered.
  let sent = $state('');
  const refusal = $derived(sent ? rides.refused[sent] : undefined);
  const faultAt = (path: string) => faults[path] ?? refusal?.find((f) => f.field === path)?.reason;
  const whole = $derived(
    faults[''] ??
      refusal
        ?.filter((f) => !EVERY.includes(f.field) && f.field !== 'day')
        .map((f) => f.reason)
        .join('; '),
  );

  function keep(event: SubmitEvent): void {
    event.preventDefault();
    const found: Record<string, string> = {};
    const ride: Record<string, unknown> = { ...(of ?? {}), day, revision: revision || undefined };
    for (const path of EVERY) {
      const [holder, key] = path.includes('.') ? (path.split('.') as [string, string]) : ['', path];
      const spec = figureSpec(`ride.${path}`);
      let value: unknown = texts[path]!.trim() || undefined;
      if (value !== undefined && spec.yesNo) value = value === 'yes';
      else if (value !== undefined && spec.quantity) {
        const parsed = parse(String(value), spec, reader.units);
        if ('reason' in parsed) found[path] = parsed.reason;
        else value = parsed.value ?? undefined;
      }
      if (holder) ride[holder] = { ...(ride[holder] as object), [key]: value };
      else ride[key] = value;
    }
    if (day > today()) found.day = 'That day has not come yet.';
    const measured = ['way.distance_km', 'pack.end_v', 'pack.wh', 'way.moving_s'].some((p) =>
      texts[p]!.trim(),
    );
    if (!measured && !of?.runs?.length) found[''] = 'Enter one measurement: kilometres are enough.';
    faults = found;
    if (Object.keys(found).length) {
      if (Object.keys(found).some((p) => p && p !== 'day' && !FIRST.includes(p))) more = true;
      return;
    }
    const id = rides.keep(ride);
    sent = id;
    if (of) return onkept(id);
    kept = { ...texts };
    texts = Object.fromEntries(EVERY.map((p) => [p, '']));
    more = false;
    onkept(id);
  }
  let kept: Record<string, string> | null = null;
  // A new ride that the server refused is entered again, not lost.
  $effect(() => {
    if (refusal && kept && !of) {
      texts = kept;
      kept = null;
    }
  });
</script>

<form
  class="rounded border border-ink bg-sheet p-3 [&_.entry]:min-h-[44px]"
  onsubmit={keep}
  aria-label={of ? 'Alter the ride' : 'A new ride'}
  data-testid="ride-entry"
>
  <h2 class="text-lg">{of ? 'The ride' : 'A ride, in five seconds'}</h2>
  <div class="mt-2 grid grid-cols-2 gap-3 sm:grid-cols-4">
    <Field label="Day" type="date" bind:value={day} fault={faultAt('day')} required />
    {#each FIRST as path (path)}<RideFigure {path} bind:text={texts[path]!} fault={faultAt(path)} />{/each}
  </div>
  {#if whole}<p class="mt-2 text-sm text-short" role="alert">{whole}</p>{/if}
  {#if more}
    {#each MORE as [title, paths] (title)}
      <div class="mt-3 border-t border-line pt-1" role="group" aria-label={title}>
        <h3 class="text-sm">{title}</h3>
        <div class="grid grid-cols-2 gap-3 pt-1 sm:grid-cols-3">
          {#each paths as path (path)}<RideFigure
              {path}
              bind:text={texts[path]!}
              fault={faultAt(path)}
            />{/each}
        </div>
      </div>
    {/each}
    <div class="mt-3 grid gap-3 border-t border-line pt-2 sm:grid-cols-3">
      {#each WORDS as path (path)}<RideFigure {path} bind:text={texts[path]!} fault={faultAt(path)} />{/each}
    </div>
    {#if rides.answer?.points.length}
      <label class="mt-3 block text-xs text-ink2"
        >The board as it was<select class="entry block text-sm text-ink sm:w-1/3" bind:value={revision}>
          <option value="">by the day</option>
          {#each rides.answer.points as point (point)}<option>{point}</option>{/each}
        </select></label
      >
    {/if}
  {/if}
  <div class="mt-3 flex flex-wrap items-center gap-3">
    <Button main class="min-h-[44px] grow sm:grow-0 sm:px-10">Save ride</Button>
    <button type="button" class="link min-h-[44px]" aria-expanded={more} onclick={() => (more = !more)}
      >{more ? 'Only the first four' : 'More of it'}</button
    >
    {#if onleft}<button type="button" class="link min-h-[44px]" onclick={onleft}>Cancel</button>{/if}
  </div>
</form>
