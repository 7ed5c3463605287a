<!-- A step of the bench test: closed a line with what was found, open what to do, the entries, and the verdict. -->
<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { reader } from '$lib/reader.svelte';
  import { formatMessage } from '$lib/units';
  import Cable from '$lib/controller/Cable.svelte';
  import type { ControllerLink } from '$lib/controller/controller.svelte';
  import Answer from './Answer.svelte';
  import RangeGauge from './RangeGauge.svelte';
  import RunTrace from './RunTrace.svelte';
  import type { BenchTest, Step } from './bench-test.svelte';
  import { VERDICTS } from './words';

  interface Props {
    test: BenchTest;
    link?: ControllerLink;
    step: Step;
    number: number;
    motors: number;
    open: boolean;
    /** Whether its entries are shown as a line where it is closed. */
    brief: boolean;
    /** The step that comes after, where this one is done. */
    next?: Step;
    ontoggle: () => void;
    onnext: () => void;
  }
  let { test, link, step, number, motors, open, brief, next, ontoggle, onnext }: Props = $props();

  const TRY: Record<string, string> = {
    run: 'Let the controller run the motors',
    cut_off: 'Let the controller try its cut-off',
    lose_remote: 'Switch the simulated remote off',
  };
  const TITLES: Record<string, string> = {
    electrical_speed: 'Electrical speed',
    turns: 'Wheel',
    current: 'Out of the pack',
  };
  const FOUND: Record<string, string> = { electrical_speed: 'erpm', turns: 'wheel_rpm' };

  const mark = $derived(VERDICTS[step.verdict]);
  const command = $derived(test.tests?.tries[step.key]);
  const runs = $derived(command === 'run' && link?.command?.kind === 'run' ? link.command : null);
  const several = $derived(motors > 1);
  /** What has to pass before anything turns. */
  const held = $derived(test.tests?.report.steps.find((s) => s.key === test.tests?.report.held));
  /** A step with nothing but one yes or no needs no further button. */
  const short = $derived(step.fields.length + step.motor_fields.length === 1);
  let leaving = $state(false);
  let word = $state('');

  const live = $derived(runs?.live);

  /** What stands at the gauge: the motors as they run, then what was entered. */
  function found(quantity: string): { name: string; value: number }[] {
    if (live && quantity === 'electrical_speed')
      return live.motors.map((motor, i) => ({
        name: several ? `${(live.unit ?? 0) * live.motors.length + i + 1}` : '',
        value: Math.abs(motor.erpm),
      }));
    if (quantity === 'current') {
      const amps = test.value('pack_current_a');
      return typeof amps === 'number' ? [{ name: '', value: amps }] : [];
    }
    return Array.from({ length: motors }, (_, i) => ({
      name: several ? `${i + 1}` : '',
      value: test.value(`motors.${i}.${FOUND[quantity]}`),
    })).filter((f): f is { name: string; value: number } => typeof f.value === 'number');
  }

  function leaveOut(event: SubmitEvent): void {
    event.preventDefault();
    test.enter({ [`left_out.${step.key}`]: word.trim() || null });
    leaving = false;
    onnext();
  }
</script>

<li
  class="border-b border-line"
  class:bg-sheet={open}
  data-testid="step"
  data-key={step.key}
  data-verdict={step.verdict}
>
  <h2 class="m-0 text-base">
    <button
      class="flex min-h-11 w-full items-baseline gap-2 px-2 py-2 text-left"
      aria-expanded={open}
      aria-controls={`step-${step.key}`}
      onclick={ontoggle}
    >
      <span class={`w-5 shrink-0 text-center font-sans ${mark[1]}`} aria-hidden="true">{mark[0]}</span>
      <span class="font-serif font-semibold whitespace-nowrap">{number}. {step.title}</span>
      {#if !open && step.said && step.verdict !== 'open'}
        <span class="min-w-0 truncate font-sans text-sm font-normal text-ink2"
          >{formatMessage(step.said, reader.units)}</span
        >
      {/if}
      <span
        class={`ml-auto shrink-0 font-sans text-sm font-normal ${mark[1]}`}
        class:sr-only={step.verdict === 'open'}>{mark[2]}</span
      >
    </button>
  </h2>
  {#if open}
    <div id={`step-${step.key}`} class="px-2 pb-3 sm:pl-9">
      <p class="max-w-[46rem] text-base">
        {formatMessage(step.do, reader.units)}
      </p>
      {#each step.predicted as band (band.quantity)}
        <div class="mt-2 max-w-[34rem]">
          <RangeGauge
            {band}
            title={TITLES[band.quantity] ?? ''}
            found={found(band.quantity)}
            wrong={!live && step.verdict === 'fails'}
          />
        </div>
      {/each}
      {#if command && link}
        <div class="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
          <Button
            disabled={link.busy || !!held}
            onclick={() => link.send(command)}
            class="min-h-11 sm:min-h-[34px]">{TRY[command]}</Button
          >
          <Cable {link} />
          {#if held}
            <span class="text-sm text-ink2">First: {held.title.toLowerCase()}.</span>
          {:else if link.busy && link.command?.kind === command}
            <span class="text-sm" role="status">{link.step}…</span>
            <Button onclick={() => link.stop()}>Stop</Button>
          {:else if link.command?.kind === command && link.command.state === 'failed'}
            <span class="text-sm text-short" role="alert">{link.command.message}</span>
          {:else if command === 'run'}
            <span class="remark text-sm">Three seconds at full throttle, then the brake.</span>
          {/if}
        </div>
        {#if link.refused}<p class="mt-1 text-sm text-short" role="alert">{link.refused}</p>{/if}
        {#if runs}<RunTrace command={runs} />{/if}
      {/if}
      {@render entries()}
      {#if step.said && step.verdict !== 'open'}
        <p class={`mt-2 text-base font-semibold ${mark[1]}`} data-testid="said">
          <span aria-hidden="true">{mark[0]}</span>
          {formatMessage(step.said, reader.units)}
        </p>
      {:else if step.said}
        <p class="mt-2 text-base text-ink2" data-testid="said">{formatMessage(step.said, reader.units)}</p>
      {/if}
      {#if step.remedy}
        <p
          class="mt-1 max-w-[46rem] border-l-4 pl-2 text-base"
          class:border-short={step.verdict === 'fails'}
          class:border-unsure={step.verdict !== 'fails'}
          class:font-semibold={step.grave && step.verdict === 'fails'}
          role="alert"
          data-testid="remedy"
        >
          {formatMessage(step.remedy, reader.units)}
        </p>
      {/if}
      <div class="mt-3 flex flex-wrap items-center gap-3">
        {#if next && step.verdict !== 'open' && !(held?.key === step.key && step.verdict === 'fails')}
          <Button main={step.verdict === 'passes'} onclick={onnext} class="min-h-11 sm:min-h-[34px]"
            >On to {next.title.charAt(0).toLowerCase()}{next.title.slice(1)}</Button
          >
        {/if}
        {#if step.verdict === 'left out'}
          <button class="link text-sm" onclick={() => test.enter({ [`left_out.${step.key}`]: null })}
            >I can do it after all</button
          >
        {:else if step.optional && step.verdict === 'open'}
          {#if leaving}
            <form class="flex flex-wrap items-end gap-2" onsubmit={leaveOut}>
              <Field
                label="Why can you not do it here?"
                class="w-60"
                placeholder="no bench supply, no tachometer"
                bind:value={word}
                maxlength={200}
                required
              />
              <Button>Skip it</Button>
              <Button type="button" onclick={() => (leaving = false)}>Cancel</Button>
            </form>
          {:else}
            <button class="link text-sm" onclick={() => (leaving = true)}>I cannot do this here…</button>
          {/if}
        {/if}
      </div>
    </div>
  {:else if brief && (step.fields.length || step.motor_fields.length)}
    <div class="px-2 pb-2 sm:pl-9">{@render entries()}</div>
  {/if}
</li>

{#snippet entries()}
  <div class="mt-3 grid grid-cols-2 items-end gap-x-4 gap-y-2 sm:grid-cols-3">
    {#each step.fields as path (path)}
      <Answer {test} {path} onanswer={(v) => short && v === true && onnext()} />
    {/each}
    {#if step.motor_fields.length}
      {#each Array.from({ length: motors }, (_, i) => i) as i (i)}
        <fieldset
          class="col-span-full m-0 grid grid-cols-3 items-end gap-x-3 gap-y-2 border-0 p-0 sm:gap-x-4"
        >
          {#if several}<legend class="mb-0.5 p-0 text-sm font-semibold">Motor {i + 1}</legend>{/if}
          {#each step.motor_fields as key (key)}
            <Answer {test} path={`motors.${i}.${key}`} />
          {/each}
        </fieldset>
      {/each}
    {/if}
  </div>
{/snippet}
