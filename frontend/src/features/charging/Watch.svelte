<!-- A charge under watch: the next look is timed, each is judged as it is entered, and all of it is kept. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { onDestroy } from 'svelte';
  import type { Schemas } from '$lib/api/client';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import { momentText, reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { figureSpec, parse, formatMessage, written } from '$lib/units';
  import { beganAt, hoursOf, nowText } from './clock';
  import Course from './Course.svelte';

  let { build, report }: { build: OpenBuild; report: Schemas['ChargingReport'] } = $props();
  let now = $state(Date.now());
  const ticking = setInterval(() => (now = Date.now()), 1000);
  onDestroy(() => clearInterval(ticking));

  let brick = $state(1);
  const charges = $derived(build.file.pack_assembly?.charges ?? []);
  const judged = $derived(report.charges);
  const mine = $derived(charges.at(-1));
  const groupsOf = (which?: number | null) => report.groups?.[(which ?? 1) - 1] ?? 0;
  /** The charge under way; without the server it is kept and timed, and judged when it is back. */
  const going = $derived.by((): Schemas['MonitoredCharge'] | null => {
    if (!mine || mine.ended) return null;
    const known = judged[charges.length - 1];
    if (known && known.looks.length === (mine.looks?.length ?? 0)) return known;
    const looks = (mine.looks ?? []).map((l) => ({
      ...l,
      groups_v: l.groups_v ?? [],
      verdict: 'good' as const,
      said: [],
    }));
    const word = {
      text: 'Saved on this device; not checked yet.',
      template: 'Saved on this device; not checked yet.',
      values: {},
    };
    return {
      number: charges.length,
      began: mine.began,
      brick: mine.brick,
      looks,
      due_minute: looks.length ? looks.at(-1)!.minute + report.every_min : 0,
      verdict: 'good',
      last_word: word,
      ceiling_v: report.ceiling_v ?? 0,
      groups: groupsOf(mine.brick),
    };
  });
  const finished = $derived(judged.filter((c) => c.ended).reverse());
  const minute = $derived(going ? Math.max((now - beganAt(going.began)) / 60_000, 0) : 0);
  const left = $derived(going?.due_minute == null ? null : going.due_minute - minute);
  const groups = $derived(going?.groups ?? groupsOf(brick));
  const bricks = $derived(report.groups?.length ?? 0);
  let typed = $state<string[]>([]);
  let amperes = $state('');
  let warmth = $state<'cool' | 'warm' | 'hot' | null>(null);
  let faults = $state<Record<string, string>>({});
  let first = $state<HTMLInputElement>();
  const WARMTHS = ['cool', 'warm', 'hot'] as const;
  const volts = figureSpec('pack_assembly.cells.0.found_v');
  const say = (s: Schemas['Message']) => formatMessage(s, reader.units);
  const cell = (v: number) => written(v, 'cell_voltage', reader.units);

  const due = $derived(left !== null && left <= 0 && (going?.looks.length ?? 0) > 0);
  $effect(() => {
    // A phone on the bench is felt when nobody looks at it.
    if (due) navigator.vibrate?.([250, 120, 250]);
  });

  function keep(list: unknown[]): void {
    build.change({ 'pack_assembly.charges': list.length ? list : null });
  }
  function begin(): void {
    keep([...charges, { began: nowText(Date.now()), ...(bricks > 1 ? { brick } : {}) }]);
  }
  function look(event: SubmitEvent): void {
    event.preventDefault();
    faults = {};
    const read = Array.from({ length: groups }, (_, i) => {
      const text = (typed[i] ?? '').trim();
      if (!text) return null;
      const value = parse(text, volts, reader.units);
      if ('reason' in value) faults[i] = value.reason;
      return 'value' in value ? value.value : null;
    });
    const current = amperes.trim()
      ? parse(amperes, figureSpec('pack_assembly.charges.0.looks.0.current_a'), reader.units)
      : null;
    if (current && 'reason' in current) faults.current = current.reason;
    if (!read.some((v) => v !== null) && !warmth && !current)
      faults.all = 'enter at least one group, the current or the warmth';
    if (Object.keys(faults).length) return;
    const made = {
      minute: Math.round(((Date.now() - beganAt(going!.began)) / 60_000) * 10) / 10,
      ...(read.some((v) => v !== null) ? { groups_v: read } : {}),
      ...(current && 'value' in current && current.value !== null ? { current_a: current.value } : {}),
      ...(warmth ? { warmth } : {}),
    };
    const mine = charges.at(-1)!;
    keep([
      ...charges.slice(0, -1),
      { ...mine, looks: [...(mine.looks ?? []), { ...made, minute: Math.max(made.minute, 0) }] },
    ]);
    typed = [];
    amperes = '';
    warmth = null;
    first?.focus();
  }
  function end(ended: 'by_itself' | 'stopped'): void {
    keep([...charges.slice(0, -1), { ...charges.at(-1)!, ended }]);
  }
  /** The last look was a slip of the pen. */
  function takeBack(): void {
    keep([...charges.slice(0, -1), { ...charges.at(-1)!, looks: charges.at(-1)!.looks?.slice(0, -1) }]);
  }
  /** Takes a charge away, by its number. */
  function drop(number: number): void {
    const left = charges.filter((_, i) => i !== number - 1);
    build.changeAndSay({ 'pack_assembly.charges': left.length ? left : null }, 'That charge is not kept.');
  }
  const full = $derived(charges.length >= (report.most_charges ?? 0));
  const looked = $derived((mine?.looks?.length ?? 0) >= (report.most_looks ?? 0));
</script>

<section class="min-w-0" aria-label="Watched charge">
  <h2 class="text-lg">Watched charge</h2>
  {#if going}
    <div
      class={[
        'mt-1 rounded border p-3',
        going.verdict === 'stop' ? 'border-2 border-short bg-sheet' : 'border-ink bg-sheet',
      ]}
      data-testid="watch"
    >
      {#if going.stop}
        <p class="text-lg font-semibold text-short" role="alert">✕ Stop now. {say(going.stop)}</p>
      {:else}
        <p class="flex flex-wrap items-baseline justify-between gap-x-4">
          <span class="font-serif text-2xl font-semibold" data-testid="due" role="timer">
            {#if left !== null && left > 0}Next reading in {Math.floor(left)}:{String(
                Math.floor((left % 1) * 60),
              ).padStart(2, '0')}{:else}<span class="text-unsure">Take the reading now</span>{/if}
          </span>
          <span class="text-ink2"
            >{going.brick ? `brick ${going.brick}, ` : ''}{hoursOf(minute)} on the charger, {plural(
              going.looks.length,
              ['# reading', '# readings'],
            )}</span
          >
        </p>
        <p>{say(going.last_word)}</p>
      {/if}
      {#each going.looks.at(-1)?.said ?? [] as said, i (i)}
        {#if !going.stop}<p class="mt-1 border-l-[3px] border-unsure pl-2">{say(said)}</p>{/if}
      {/each}
      {#if going.stop}
        <div class="mt-3 flex flex-wrap gap-2">
          <Button main class="min-h-12" onclick={() => end('stopped')}>The charger is off</Button>
          <Button class="min-h-12" onclick={takeBack}>Wrong entry: delete this reading</Button>
        </div>
      {:else}
        <form class="mt-3" onsubmit={look} aria-label="A look">
          <div class="grid grid-cols-3 gap-2 sm:grid-cols-5">
            {#each { length: groups } as _, i (i)}
              <label class="text-xs text-ink2"
                >Group {i + 1}
                {#if i === 0}
                  <input
                    bind:this={first}
                    bind:value={typed[i]}
                    class="entry min-h-11 text-base text-ink sm:min-h-[34px]"
                    inputmode="decimal"
                    aria-invalid={faults[i] ? 'true' : undefined}
                  />
                {:else}
                  <input
                    bind:value={typed[i]}
                    class="entry min-h-11 text-base text-ink sm:min-h-[34px]"
                    inputmode="decimal"
                    aria-invalid={faults[i] ? 'true' : undefined}
                  />
                {/if}
                {#if faults[i]}<span class="text-short" role="alert">{faults[i]}</span>{/if}
              </label>
            {/each}
          </div>
          <div class="mt-2 flex flex-wrap items-end gap-3">
            <label class="w-24 text-xs text-ink2"
              >Current, A<input
                bind:value={amperes}
                class="entry min-h-11 text-base text-ink sm:min-h-[34px]"
                inputmode="decimal"
                aria-invalid={faults.current ? 'true' : undefined}
              />{#if faults.current}<span class="text-short" role="alert">{faults.current}</span>{/if}</label
            >
            <div role="group" aria-label="By hand" class="flex gap-1">
              {#each WARMTHS as w (w)}
                <Button
                  type="button"
                  aria-pressed={warmth === w}
                  onclick={() => (warmth = warmth === w ? null : w)}
                  class={[
                    'min-h-11 sm:min-h-[34px]',
                    warmth === w &&
                      (w === 'hot'
                        ? 'border-short bg-short-wash font-semibold'
                        : 'border-holds bg-holds-wash font-semibold'),
                  ]}>{w}</Button
                >
              {/each}
            </div>
            <Button main disabled={looked} class="min-h-11 sm:min-h-[34px]">Save reading</Button>
          </div>
          {#if looked}
            <p class="mt-1 text-sm text-unsure" role="status">
              {report.most_looks} readings are saved per charge. End this one, and continue in a new one.
            </p>
          {/if}
          {#if faults.all}<p class="mt-1 text-sm text-short" role="alert">{faults.all}</p>{/if}
        </form>
      {/if}
      {#if going.looks.length > 1}<Course charge={going} />{/if}
      <div class={['mt-3 flex flex-wrap gap-2 border-t border-line pt-2', going.stop && 'hidden']}>
        <Button class="min-h-11 sm:min-h-[34px]" onclick={() => end('by_itself')}>It stopped by itself</Button
        >
        <Button class="min-h-11 text-short sm:min-h-[34px]" onclick={() => end('stopped')}
          >I stopped it</Button
        >
        {#if !going.looks.length}<Button class="min-h-11 sm:min-h-[34px]" onclick={() => drop(charges.length)}
            >It did not start</Button
          >{/if}
      </div>
    </div>
  {:else if groups}
    <div class="mt-1 rounded border border-line bg-sheet p-3">
      <p>
        {judged.length
          ? 'Watch another charge, for example after a repair or a winter.'
          : bricks > 1
            ? 'The first charge shows whether a brick is right: measure every cell at its balance plug every ten minutes, feel it, and watch whether the charger stops by itself.'
            : 'The first charge shows whether the pack is right: measure every group every ten minutes, feel the block, and watch whether the current falls and the BMS stops at the set voltage.'}
      </p>
      <p class="mt-1 border-l-[3px] border-short pl-2 text-sm">
        On stone or outdoors, nothing near that burns, a way out, and you stay. Water ready for what is around
        it.
      </p>
      {#if bricks > 1}
        <label class="mt-2 block w-32 text-xs text-ink2"
          >Which brick<select class="entry text-sm text-ink" bind:value={brick}
            >{#each { length: bricks } as _, i (i)}<option value={i + 1}>brick {i + 1}</option>{/each}</select
          ></label
        >
      {/if}
      <Button main disabled={full} class="mt-2 min-h-11 sm:min-h-[34px]" onclick={begin}
        >{judged.length ? 'Watch a charge' : 'Begin the first charge'}</Button
      >
      {#if full}
        <p class="mt-1 text-sm text-unsure" role="status">
          {report.most_charges} charges are saved; delete one first.
        </p>
      {/if}
    </div>
  {:else}
    <p class="remark">There is no pack yet.</p>
  {/if}
  {#each finished as charge (charge.number)}
    <article class="mt-4 border-t border-ink pt-2" data-testid="kept-charge">
      <h3 class="text-base">
        Charge {charge.number}, {momentText(charge.began)}
        <span class={charge.verdict === 'good' ? 'text-holds' : 'text-short'}
          >{charge.verdict === 'good'
            ? '✓ nothing unusual'
            : charge.verdict === 'odd'
              ? '~ something unusual'
              : '✕ had to be stopped'}</span
        >
      </h3>
      <p class="text-sm">{say(charge.last_word)}</p>
      {#if charge.looks.length > 1}<Course {charge} />{/if}
      {#if charge.looks.length}
        {@const end = charge.looks.at(-1)!}
        <p class="text-sm text-ink2">
          {plural(charge.looks.length, ['# reading', '# readings'])} in {hoursOf(end.minute)}{end.spread_v !=
          null
            ? `; at the end the groups ${cell(end.spread_v)} apart`
            : ''}.
        </p>
      {/if}
      <button class="link text-sm" onclick={() => drop(charge.number)}>Delete charge {charge.number}</button>
    </article>
  {/each}
</section>
