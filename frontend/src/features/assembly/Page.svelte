<!-- Assembly: the steps of this very board, one at a time beside it; what can be done when, tools, the log, what one would change. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { addressOf } from '$lib/navigation';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { shortForm } from '$lib/steps/short-form.svelte';
  import ShortFormSwitch from '$lib/steps/ShortFormSwitch.svelte';
  import ShortList from '$lib/steps/ShortList.svelte';
  import Waiting from '$lib/steps/Waiting.svelte';
  import Walk from '$lib/steps/Walk.svelte';
  import { between } from '$lib/steps/words';
  import { Work } from '$lib/steps/work.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import LogBook from './LogBook.svelte';
  import Methods from './Methods.svelte';
  import Tools from './Tools.svelte';
  import When from './When.svelte';
  import Wishes from './Wishes.svelte';

  const build = getBuildContext();
  const work = new Work(build, 'assembly');
  onDestroy(() => work.close());

  const VIEWS = [
    ['steps', 'Steps'],
    ['when', 'When'],
    ['tools', 'Tools'],
    ['methods', 'Methods'],
    ['log', 'Log'],
    ['wishes', 'Next time'],
  ] as const;
  const asked = new URLSearchParams(location.search);
  let view = $state<(typeof VIEWS)[number][0]>(VIEWS.find(([v]) => v === asked.get('view'))?.[0] ?? 'steps');
  let chosen = $state(asked.get('at') ?? '');
  const steps = $derived(work.steps);
  const empty = $derived(!Object.keys(build.file.parts ?? {}).length);
  const planned = $derived((build.file.stage ?? 'planned') === 'planned');
  const finished = $derived(
    steps.length > 0 && steps.every((s) => s.state === 'done' || s.state === 'left_out'),
  );

  function go(id: string): void {
    chosen = id;
    view = 'steps';
    window.scrollTo({ top: 0 });
  }
</script>

<svelte:window ononline={() => work.retry()} onfocus={() => work.retry()} />

<main class="mx-auto w-full max-w-[1240px] px-4 py-3 sm:px-6">
  <div class="mb-2 flex flex-wrap items-center gap-x-5 gap-y-1">
    <h1 class="text-xl max-sm:sr-only">Assembly</h1>
    <nav class="flex flex-wrap gap-x-4" aria-label="Views of the work">
      {#each VIEWS as [slug, name] (slug)}
        <button class="tab min-h-[44px]" aria-pressed={view === slug} onclick={() => (view = slug)}
          >{name}</button
        >
      {/each}
    </nav>
    {#if view === 'steps' && work.report}<ShortFormSwitch />{/if}
    {#if work.report}<p class="ml-auto text-sm text-ink2 max-sm:hidden" data-testid="left">
        {work.report.done} of {steps.length} done{finished ? '' : `, ${between(work.report.left)} left`}
      </p>{/if}
  </div>
  <Waiting {work} />
  {#if empty}
    <p class="mb-3 border-l-2 border-unsure pl-3" data-testid="only-planned">
      No parts chosen yet: the steps follow from deck, trucks, drive, pack and enclosure.
      <a class="link" href={addressOf(build.id, 'design')}>Open Design</a>
    </p>
  {:else if planned && work.report}
    <p class="mb-3 border-l-2 border-unsure pl-3" data-testid="only-planned">
      This board is still a plan{work.report.agenda.blocked.length
        ? `: ${work.report.agenda.blocked.length} of its parts have not arrived`
        : ''}. You can read the steps now; they wait for the parts.
      <a class="link mr-3" href={addressOf(build.id, 'parts-list')}>Open Parts list</a>
      <button
        class="link min-h-6"
        onclick={() => build.changeAndSay({ stage: 'building' }, 'It is being built.')}
        >It is being built</button
      >
    </p>
  {/if}
  {#if !work.report}
    <Awaiting
      asked={work.loading}
      waiting="Loading the steps…"
      lost="The steps cannot be loaded at the moment; what you entered is saved on this device."
    />
  {:else if view === 'when'}
    <When {work} {steps} {go} />
  {:else if view === 'tools'}
    <Tools {work} {steps} {go} />
  {:else if view === 'methods'}
    <Methods {work} />
  {:else if view === 'log'}
    <LogBook {work} {steps} {go} />
  {:else if view === 'wishes'}
    <Wishes {work} {steps} {go} step={chosen || null} />
  {:else if shortForm.current && !chosen}
    <ShortList {work} {steps} open={go} />
  {:else}
    {#if shortForm.current}<button class="link min-h-[44px]" onclick={() => (chosen = '')}
        >Back to the short form</button
      >{/if}
    <Walk
      {work}
      bind:chosen
      onwish={(step) => {
        chosen = step;
        view = 'wishes';
      }}
      onmethod={() => (view = 'methods')}
    >
      {#snippet before()}
        {#if finished}
          <p class="mb-3 rounded border-2 border-holds bg-sheet px-3 py-2 text-lg" data-testid="finished">
            ✓ Everything is done. <a class="link" href={addressOf(build.id, 'first-ride')}>Open First ride</a>
          </p>
        {/if}
      {/snippet}
    </Walk>
  {/if}
</main>
