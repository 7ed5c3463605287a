<!-- All steps as lines to tick: what tells that it is right, and any caution; a touch on the title opens the explanation. -->
<script lang="ts">
  import { messageText, reader } from '$lib/reader.svelte';
  import { formatMessage } from '$lib/units';
  import type { StepStatus, Work } from './work.svelte';

  interface Props {
    work: Work;
    steps: StepStatus[];
    open: (id: string) => void;
  }
  let { work, steps, open }: Props = $props();
  const phases = $derived(
    (work.report?.phases ?? [])
      .map((p) => ({ ...p, own: steps.filter((s) => s.phase === p.phase) }))
      .filter((p) => p.own.length),
  );
  const isDone = (step: StepStatus) => step.state === 'done' || step.state === 'left_out';
  /** What cannot be ticked here: it waits for another step or a part, or something of it has to be measured or looked at. */
  const mustOpen = (step: StepStatus) =>
    !isDone(step) && (step.state !== 'ready' || !!step.checks?.length || step.on_its_page);
</script>

<div class="max-w-[820px]" data-testid="short-list">
  {#each phases as phase (phase.phase)}
    <section class="mb-3" aria-label={phase.title}>
      <h2 class="border-b border-ink pb-0.5 text-base">{phase.title}</h2>
      <ul class="m-0 list-none p-0">
        {#each phase.own as step (step.id)}
          <li class="flex min-h-[44px] items-start gap-3 border-b border-line py-1" data-step={step.id}>
            {#if mustOpen(step)}
              <button
                class="link mt-1.5 w-16 shrink-0 text-left text-sm"
                aria-label={`Open ${messageText(step.title)}`}
                onclick={() => open(step.id)}>{step.checks?.length ? 'measure' : 'open'}</button
              >
            {:else}
              <span class="w-16 shrink-0"
                ><input
                  type="checkbox"
                  class="mt-2 size-6 accent-holds"
                  aria-label={messageText(step.title)}
                  checked={isDone(step)}
                  onchange={(e) => (e.currentTarget.checked ? work.done(step) : work.open(step.id))}
                /></span
              >
            {/if}
            <div class="min-w-0 flex-1">
              <button class="min-h-[32px] text-left font-semibold" onclick={() => open(step.id)}
                >{messageText(step.title)}</button
              >
              <span class="block text-sm text-ink2">{formatMessage(step.right, reader.units)}</span>
              {#if step.caution && !isDone(step)}
                <span class="block text-sm font-semibold text-short"
                  >! {formatMessage(step.caution, reader.units)}</span
                >
              {/if}
            </div>
          </li>
        {/each}
      </ul>
    </section>
  {/each}
</div>
