<!-- The bench test: step by step beside the board on the stand, judged as it is entered, kept, printed. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { shortForm } from '$lib/steps/short-form.svelte';
  import ShortFormSwitch from '$lib/steps/ShortFormSwitch.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { onDestroy } from 'svelte';
  import { addressOf } from '$lib/navigation';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { session } from '$lib/session.svelte';
  import { messageText, today } from '$lib/reader.svelte';
  import { ControllerLink, type ControllerCommand } from '$lib/controller/controller.svelte';
  import Trials from '$lib/controller/Trials.svelte';
  import KeptTests from './KeptTests.svelte';
  import { BenchTest } from './bench-test.svelte';
  import { paperOf } from './paper';
  import StepCard from './StepCard.svelte';
  import { STANDINGS } from './words';

  const build = getBuildContext();
  const test = new BenchTest(build.id);
  const link = new ControllerLink(build.id, () => build.file, heard);
  onDestroy(() => {
    test.close();
    link.close();
  });
  /** The step that is open; null follows the test. */
  let chosen = $state<string | null>(null);
  let on = $state(today());
  let by = $state(session.who?.name ?? '');
  let asking = $state(false);

  /** What the controllers found is entered. */
  function heard(command: ControllerCommand): void {
    const tries = Object.values(test.tests?.tries ?? {});
    if (command.state === 'done' && tries.some((kind) => kind === command.kind)) void test.take(command.id);
  }

  const report = $derived(test.tests?.report);
  const steps = $derived(report?.steps ?? []);
  const shown = $derived(chosen ?? report?.next ?? '');
  const motors = $derived(build.file.parts?.motors?.count ?? 1);
  const done = $derived(steps.filter((s) => s.verdict !== 'open').length);
  const word = $derived(STANDINGS[report?.standing ?? 'not begun']);
  const failing = $derived(steps.filter((s) => s.verdict === 'fails'));

  /** The first open step after this one, else the first open one at all. */
  function after(key: string) {
    const at = steps.findIndex((s) => s.key === key);
    return (
      steps.find((s, i) => i > at && s.verdict === 'open') ??
      steps.find((s) => s.verdict === 'open' && s.key !== key)
    );
  }
  function goTo(key: string | undefined): void {
    chosen = key ?? '';
    if (key)
      queueMicrotask(() => document.getElementById(`step-${key}`)?.scrollIntoView({ block: 'nearest' }));
  }
  async function keep(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    if (await test.keep(on, by)) chosen = null;
  }
  async function beginAnew(): Promise<void> {
    asking = false;
    await test.beginAnew();
    chosen = null;
  }
</script>

<svelte:window ononline={() => test.retry()} onfocus={() => test.retry()} />

<main
  class="mx-auto grid w-full max-w-[1280px] gap-x-8 gap-y-4 px-4 py-4 sm:px-6 lg:grid-cols-[minmax(0,1fr)_318px]"
>
  <div class="min-w-0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1 class="text-xl">Bench test</h1>
      <p class="remark">Before the first ride and after every change, with the wheels in the air.</p>
      {#if report}<span class="ml-auto"><ShortFormSwitch /></span>{/if}
    </div>
    {#if test.offline}
      <p class="mt-1 text-sm text-short" role="alert">
        The server cannot be reached. {test.count
          ? plural(test.count, [
              'One entry waits here and will be sent when it is back.',
              '# entries wait here and will be sent when it is back.',
            ])
          : 'What you enter is kept here and sent when it is back.'}
      </p>
    {/if}
    {#if test.refused}<p class="mt-1 text-sm text-short" role="alert">{test.refused}</p>{/if}
    {#if report}
      <p class="mt-2 flex items-center gap-3 lg:hidden" role="status">
        <span class={`font-semibold ${word[1]}`}>{word[0]}</span>
        <span class="text-sm text-ink2">{done} of {steps.length} checked</span>
      </p>
      <ol class="m-0 mt-2 list-none border-t border-ink p-0">
        {#each steps as step, i (step.key)}
          {@const next = after(step.key)}
          <StepCard
            {test}
            {link}
            {step}
            number={i + 1}
            {motors}
            open={shown === step.key}
            brief={shortForm.current}
            {next}
            ontoggle={() => goTo(shown === step.key ? undefined : step.key)}
            onnext={() => goTo(next?.key)}
          />
        {/each}
      </ol>
      <label class="mt-3 block text-xs text-ink2"
        >Notes<textarea
          class="entry block min-h-16 text-sm text-ink"
          maxlength="2000"
          value={String(test.value('notes') ?? '')}
          onchange={(e) => test.enter({ notes: e.currentTarget.value.trim() || null })}></textarea></label
      >
    {:else if !test.offline}
      <p class="remark py-8">Loading the bench test…</p>
    {/if}
  </div>

  <aside aria-label="How it stands" class="lg:sticky lg:top-2 lg:self-start">
    {#if report}
      <h2 class="text-base">How it stands</h2>
      <p class={`mt-1 font-serif text-2xl font-semibold ${word[1]}`} data-testid="standing">{word[0]}</p>
      <div
        class="mt-1 flex gap-[3px]"
        role="img"
        aria-label={`${done} of ${steps.length} steps checked, ${report.failed} of them fail`}
      >
        {#each steps as s (s.key)}
          <span
            class="h-2.5 flex-1 border"
            class:border-rule={s.verdict === 'open'}
            class:border-holds={s.verdict === 'passes'}
            class:bg-holds={s.verdict === 'passes'}
            class:border-unsure={s.verdict === 'unsure' || s.verdict === 'left out'}
            class:bg-unsure-wash={s.verdict === 'unsure' || s.verdict === 'left out'}
            class:border-short={s.verdict === 'fails'}
            class:bg-short={s.verdict === 'fails'}
          ></span>
        {/each}
      </div>
      <p class="mt-1 text-sm text-ink2">{done} of {steps.length} checked</p>
      {#each failing as s (s.key)}
        <p class="mt-1 text-sm">
          <button class="link text-short" onclick={() => goTo(s.key)}>✕ {s.title}</button>
        </p>
      {/each}
      <p class="mt-2 text-base">{messageText(report.last_word)}</p>
      {#if report.waits}
        <p class="mt-2 border-l-2 border-unsure pl-2 text-sm" data-testid="waits">
          {messageText(report.waits)}
          <a class="link" href={addressOf(build.id, 'design')}>Open Design</a>
        </p>
      {/if}
      {#if report.standing !== 'not begun'}
        <form class="mt-3 border-t border-line pt-2" onsubmit={keep} aria-label="Save this test">
          <div class="flex gap-2">
            <Field label="Tested on" type="date" bind:value={on} required />
            <Field label="By" class="min-w-0 flex-1" bind:value={by} maxlength={60} />
          </div>
          <div class="mt-2 flex flex-wrap gap-2">
            <Button main={report.standing !== 'under way'} class="min-h-11 sm:min-h-[34px]"
              >{report.standing === 'under way' ? 'Keep it as far as it got' : 'Save this test'}</Button
            >
            {#if asking}
              <Button type="button" onclick={beginAnew} class="text-short">Yes, delete the entries</Button>
              <Button type="button" onclick={() => (asking = false)}>No</Button>
            {:else}
              <Button type="button" onclick={() => (asking = true)} class="min-h-11 sm:min-h-[34px]"
                >Start again</Button
              >
            {/if}
          </div>
        </form>
      {/if}
      <p class="mt-3 border-t border-line pt-2 text-sm">
        <button class="link" onclick={() => paperOf(build.id)}
          >{report.standing === 'not begun' ? 'An empty form to print' : 'This far on A4'}</button
        >
        <span class="text-ink2">
          · judged against {test.tests?.record_number
            ? `what record ${test.tests.record_number} says is set`
            : 'the settings you want; no settings record was saved yet'}</span
        >
      </p>
      <KeptTests
        id={build.id}
        kept={test.tests?.kept ?? []}
        latest={test.tests?.record_number}
        noLonger={test.tests?.no_longer ?? []}
      />
      {#if link.seen?.programmable && !link.port}<Trials {link} board />{/if}
      <p class="remark mt-3 border-t border-line pt-2 text-sm">
        Wheels in the air and fingers away. Lithium packs burn: nothing bare, nothing bridged, and someone
        near. Being able to stop on foot is part of riding.
      </p>
    {/if}
  </aside>
</main>
