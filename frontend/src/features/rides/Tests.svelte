<!-- Guided tests: what to do, what spoils it, how sure it is, and where the figures go. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { reader, today } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { figureSpec, parse } from '$lib/units';
  import RideFigure from './RideFigure.svelte';
  import type { Rides } from './rides.svelte';

  let { rides, onkept }: { rides: Rides; onkept: (id: string) => void } = $props();
  type Guide = Schemas['TestGuide'];
  let open = $state('');
  let texts = $state<Record<string, string>>({});
  let faults = $state.raw<Record<string, string>>({});

  /** The fields of a test, each with a name of its own here: a second speed is that of the other way. */
  const fieldsOf = (guide: Guide) =>
    guide.enters.map((path, i) => (guide.enters.indexOf(path) < i ? `${path}.back` : path));
  const LABELS: Record<string, string> = {
    'speed.kmh': 'One way',
    'speed.kmh.back': 'The other way',
    weighed_kg: 'The board',
  };
  const specOf = (path: string) =>
    path.startsWith('speed.kmh')
      ? { ...figureSpec('ride.hill.top_kmh'), title: LABELS[path]!, low: 2, high: 150 }
      : path === 'weighed_kg'
        ? figureSpec('weighed_kg')
        : figureSpec(`ride.${path}`);

  function show(guide: Guide): void {
    open = open === guide.kind ? '' : guide.kind;
    texts = Object.fromEntries(fieldsOf(guide).map((p) => [p, '']));
    faults = {};
  }

  function keep(event: SubmitEvent, guide: Guide): void {
    event.preventDefault();
    const values: Record<string, unknown> = {};
    const found: Record<string, string> = {};
    for (const path of fieldsOf(guide)) {
      const text = (texts[path] ?? '').trim();
      const spec = specOf(path);
      if (!text) continue;
      if (spec.yesNo) values[path] = text === 'yes';
      else if (spec.choices) values[path] = text;
      else {
        const parsed = parse(text, spec, reader.units);
        if ('reason' in parsed) found[path] = parsed.reason;
        else values[path] = parsed.value ?? undefined;
      }
    }
    if (!Object.keys(values).length && !Object.keys(found).length)
      found[fieldsOf(guide)[0]!] = 'Enter what you measured.';
    faults = found;
    if (Object.keys(found).length) return;
    if (guide.kind === 'weigh') {
      rides.build.changeAndSay({ weighed_kg: values.weighed_kg }, 'The weighed value is used.');
      open = '';
      return;
    }
    const ride: Record<string, unknown> = {
      day: today(),
      kind: guide.kind === 'range' ? 'range_test' : 'test',
      title: guide.title,
    };
    if (guide.kind === 'range') {
      for (const [path, value] of Object.entries(values)) {
        const [holder, key] = path.split('.') as [string, string];
        ride[holder] = { ...(ride[holder] as object), [key]: value };
      }
      ride.pack = { ...(ride.pack as object), ended: 'cut_off' };
    } else {
      const run: Record<string, unknown> = { kind: guide.kind };
      for (const [path, value] of Object.entries(values)) run[path.split('.')[1]!] = value;
      if (guide.kind === 'speed')
        run.kmh = ['speed.kmh', 'speed.kmh.back'].map((p) => values[p]).filter((v) => typeof v === 'number');
      ride.runs = [run];
    }
    open = '';
    onkept(rides.keep(ride));
  }
</script>

<p class="remark mb-2 text-sm">An hour on a quiet street shows more than ten rides. Shortest first.</p>
{#each rides.answer?.guides ?? [] as guide (guide.kind)}
  <section class="border-b border-line py-1" aria-label={guide.title}>
    <h2 class="text-base">
      <button
        class="flex min-h-[44px] w-full flex-wrap items-center gap-x-3 text-left"
        aria-expanded={open === guide.kind}
        onclick={() => show(guide)}
        ><span class="link">{guide.title}</span><span class="font-sans text-sm font-normal text-ink2"
          >{guide.minutes} min, ± {guide.error_pct} %; improves {guide.tells.join(', ')}</span
        ></button
      >
    </h2>
    {#if open === guide.kind}
      <div class="grid gap-x-8 gap-y-3 pb-4 lg:grid-cols-2" data-testid={`guide-${guide.kind}`}>
        <div>
          {#if guide.caution}<p class="mb-2 border-l-[3px] border-short pl-2">{guide.caution}</p>{/if}
          <ol class="list-decimal space-y-1 pl-5">
            {#each guide.steps as step (step)}<li>{step}</li>{/each}
          </ol>
          <p class="mt-2 text-sm text-ink2">Not valid with {guide.spoils.join('; ')}.</p>
        </div>
        <form
          class="self-start rounded border border-ink bg-sheet p-3 [&_.entry]:min-h-[44px]"
          aria-label={`${guide.title}: what was measured`}
          onsubmit={(e) => keep(e, guide)}
        >
          <div class="grid grid-cols-2 gap-3">
            {#each fieldsOf(guide) as path (path)}
              <RideFigure
                path={path.startsWith('speed.kmh')
                  ? 'hill.top_kmh'
                  : path === 'weighed_kg'
                    ? 'rider.mass_kg'
                    : path}
                label={LABELS[path]}
                bind:text={texts[path]!}
                fault={faults[path]}
              />
            {/each}
          </div>
          <Button main class="mt-3 min-h-[44px] w-full">Save entry</Button>
        </form>
      </div>
    {/if}
  </section>
{/each}
