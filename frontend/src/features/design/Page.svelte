<!-- The design: the stations on the left, the board and the chosen station in the middle, the outcomes on the right. -->
<script lang="ts">
  import { OUTCOME_TITLES } from '$lib/api/tables.gen';
  import { onMount, untrack } from 'svelte';
  import { forgetSearchParam, searchParam } from '$lib/navigation';
  import { reader } from '$lib/reader.svelte';
  import { getBuildContext } from '$lib/build/build.svelte';
  import BoardView from '$lib/drawings/BoardView.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Term from '$lib/ui/Term.svelte';
  import Gauge from '$lib/ui/Gauge.svelte';
  import { formatMessage } from '$lib/units';
  import { Design } from './design.svelte';
  import Findings from './Findings.svelte';
  import PowerLine from './PowerLine.svelte';
  import Route from './Route.svelte';
  import StationBar from './StationBar.svelte';
  import Sureness from './Sureness.svelte';
  import WhyPanel from './WhyPanel.svelte';
  import { STATIONS, stationOf } from './stations';
  import { partNames } from '$lib/parts';
  import StationPanel from './StationPanel.svelte';

  const design = new Design(getBuildContext());
  let stationId = $state('brief');
  let explaining = $state<'speed' | 'hill' | 'range' | 'carry' | 'money'>('speed');
  let asking = $state(false);
  let helping = $state(false);
  let proposing = $state(false);
  let panel = $state<StationPanel>();

  const station = $derived(STATIONS.find((s) => s.id === stationId) ?? STATIONS[0]!);
  const prediction = $derived(design.prediction);
  const outcomes = $derived(prediction?.outcomes);
  const lit = $derived(station.slots.flatMap((s) => (s.kind === 'cell' ? ['pack'] : [s.kind])));
  const explained = $derived(outcomes?.find((p) => p.name === explaining));

  const VIEWS = [
    ['side', 'from the side'],
    ['under', 'from below'],
    ['behind', 'from behind'],
    ['drive', 'the drive'],
  ] as const;

  function goToPart(part: string): void {
    const kind = part === 'protection' ? 'pack' : part;
    const found = STATIONS.find((s) => s.slots.some((slot) => slot.kind === kind));
    if (found) go(found.id);
  }

  function goToField(path: string): void {
    const found = stationOf(path);
    if (!found) return;
    go(found.id);
    // Once the station's panel stands.
    requestAnimationFrame(() => panel?.show(path));
  }

  /** On the way to a field of which the page does not stand yet: what comes above it moves it. */
  let arriving = $state(false);
  $effect(() => {
    if (!arriving || !prediction) return;
    arriving = false;
    intoView();
  });

  // A link from another page, or from the find box, leads to a field.
  $effect(() => {
    const at = searchParam('at');
    if (!at) return;
    untrack(() => goToField(at));
    arriving = true;
    forgetSearchParam('at');
  });
  onMount(() => {
    // From the six questions straight to their answer; once, not again after a reload.
    if (new URLSearchParams(location.search).has('propose')) {
      history.replaceState(history.state, '', location.pathname);
      proposing = true;
    }
  });

  /** To a station; on a phone, where the route stands below it, into view. */
  function go(id: string): void {
    stationId = id;
    intoView();
  }
  function intoView(): void {
    if (window.matchMedia('(width < 64rem)').matches)
      requestAnimationFrame(() => document.querySelector('[data-station-panel]')?.scrollIntoView());
  }

  function onkeydown(event: KeyboardEvent): void {
    const typing =
      event.target instanceof HTMLElement &&
      event.target.matches('input:not([type=checkbox], [type=range]), textarea, select');
    if (typing || event.ctrlKey || event.metaKey || event.altKey || document.querySelector('[role="dialog"]'))
      return;
    else if (/^[0-9]$/.test(event.key)) {
      stationId = STATIONS[(Number(event.key) + 9) % 10]!.id;
    } else if (event.key === 'f') {
      event.preventDefault();
      panel?.find();
    } else if (event.key === '?') helping = true;
    else if (event.key === '[' || event.key === ']') {
      const i = STATIONS.findIndex((s) => s.id === stationId) + (event.key === ']' ? 1 : -1);
      stationId = STATIONS[(i + STATIONS.length) % STATIONS.length]!.id;
    }
  }
</script>

<svelte:window {onkeydown} />
<div class="grid min-h-0 flex-1 grid-cols-1 max-lg:pb-16 lg:grid-cols-[236px_minmax(0,1fr)_318px]">
  <!-- Below a list that is still coming: what is above it stays where it is. -->
  <aside
    class="order-3 border-line px-3 pt-2 [overflow-anchor:none] lg:order-1 lg:overflow-y-auto lg:border-r lg:pr-0"
  >
    <Route {design} current={stationId} {go} />
  </aside>

  <main class="order-2 flex min-h-0 min-w-0 flex-col gap-2 px-4 pt-2 lg:px-5 lg:pb-3">
    <div class="flex items-baseline">
      <h1 class="text-base max-sm:sr-only">The board as chosen</h1>
      <div class="ml-auto flex gap-4 text-sm" role="group" aria-label="View of the board">
        {#each VIEWS as [view, label] (view)}
          <button class="tab" aria-pressed={design.view === view} onclick={() => (design.view = view)}
            >{label}</button
          >
        {/each}
      </div>
    </div>
    <div class="h-36 shrink-0 rounded border border-line bg-sheet px-2 py-1 sm:h-[186px]">
      {#if prediction?.drawing}
        <BoardView
          drawing={prediction.drawing}
          units={reader.units}
          chosen={lit}
          names={partNames(design.build.file)}
          onpart={goToPart}
        />
      {/if}
    </div>
    {#if prediction?.line.length}<PowerLine moments={prediction.line} />{/if}
    <div class="flex flex-1 scroll-mt-2 flex-col lg:min-h-0" data-station-panel>
      {#key station.id}<StationPanel bind:this={panel} {design} {station} bind:proposing />{/key}
    </div>
  </main>

  <aside
    class="order-1 border-line px-4 pt-3 lg:order-3 lg:overflow-y-auto lg:border-l"
    aria-label="Outcomes and targets"
  >
    <h2 class="mb-2 text-base"><Term slug="predicted-range">Outcomes and targets</Term></h2>
    {#if outcomes}
      <div class="grid grid-cols-5 gap-2">
        {#each outcomes as outcome (outcome.name)}
          <div class="min-w-0">
            <p class="mb-1 text-sm font-semibold">{outcome.title}</p>
            <Gauge {outcome} units={reader.units} currency={design.build.file.currency} />
          </div>
        {/each}
      </div>
      {#if design.asked.failed}
        <p class="mt-2 text-sm text-short" role="alert">
          The server cannot be reached: these are the last predictions.
        </p>
      {/if}
      <div class="mt-2 flex gap-3 text-sm" role="group" aria-label="What limits it">
        {#each ['speed', 'hill', 'range', 'carry', 'money'] as const as name (name)}
          <button class="tab" aria-pressed={explaining === name} onclick={() => (explaining = name)}
            >{OUTCOME_TITLES[name].toLowerCase()}</button
          >
        {/each}
      </div>
      <p class="remark mt-1 min-h-14 text-sm" data-testid="limit">
        {#if explained?.message}{formatMessage(explained.message, reader.units, design.build.file.currency)}
        {:else if explaining === 'carry'}The sum of the parts, as carried.
        {:else if explaining === 'money'}No prices entered yet.
        {:else}Not predicted yet: choose the missing parts.{/if}
        {#if prediction && explained?.mid != null}
          <button
            class="link"
            onclick={() => (asking = true)}
            aria-label={`Why this ${OUTCOME_TITLES[explaining].toLowerCase()}?`}>Why</button
          >
        {/if}
      </p>
      {#if explained && prediction}
        <Sureness {design} outcome={explained} {prediction} {goToField} why={() => (asking = true)} />
      {/if}
      {#if prediction}
        <Findings {design} findings={prediction.findings} needs={prediction.needs} {goToField} />
      {/if}
    {:else if design.asked.failed}
      <p class="text-short" role="alert">
        The prediction cannot be loaded at the moment; your board is saved.
      </p>
    {:else}
      <p class="remark">Predicting…</p>
    {/if}
  </aside>
</div>

<StationBar current={stationId} {go} />

{#if prediction}
  <WhyPanel
    bind:open={asking}
    name={explaining}
    {prediction}
    currency={design.build.file.currency}
    {goToField}
  />
{/if}
<Dialog bind:open={helping} title="Keys">
  <dl class="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
    {#each [['1 – 9, 0', 'to a station'], ['[   ]', 'station before, station after'], ['f', 'find among the candidates'], ['/ or Ctrl K', 'find a page, board, part, field, finding or word'], ['↑ ↓, Enter', 'in the table: look, choose'], ['↑ ↓ in a field', 'one up, one down; with Shift ten'], ['Ctrl Z, Ctrl Shift Z', 'undo, redo'], ['?', 'this list']] as const as [keys, does] (keys)}
      <dt class="font-semibold whitespace-pre">{keys}</dt>
      <dd class="m-0">{does}</dd>
    {/each}
  </dl>
</Dialog>
