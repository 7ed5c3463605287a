<!-- All steps by phase, each with how it stands; a touch opens it. -->
<script lang="ts">
  import { messageText } from '../reader.svelte';
  import { STATES } from './words';
  import type { StepStatus, Work } from './work.svelte';

  interface Props {
    work: Work;
    steps: StepStatus[];
    current: string;
    go: (id: string) => void;
  }
  let { work, steps, current, go }: Props = $props();
  const phases = $derived(
    (work.report?.phases ?? []).map((p) => ({ ...p, own: steps.filter((s) => s.phase === p.phase) })),
  );
  const number = (id: string) => steps.findIndex((s) => s.id === id) + 1;
</script>

{#each phases as phase (phase.phase)}
  {@const done = phase.own.filter((s) => s.state === 'done' || s.state === 'left_out').length}
  <section class="mb-3" aria-label={phase.title}>
    <h2 class="flex items-baseline justify-between border-b border-ink pb-0.5 text-base">
      <span>{phase.title}</span>
      <span class="font-sans text-sm font-normal text-ink2">{done} of {phase.own.length}</span>
    </h2>
    <ol class="m-0 list-none p-0">
      {#each phase.own as step (step.id)}
        {@const mark = STATES[step.state]}
        <li data-testid="step-row" data-step={step.id} data-state={step.state}>
          <button
            class="flex min-h-[44px] w-full items-center gap-2 border-b border-line py-1 text-left hover:bg-sheet"
            class:bg-sheet={step.id === current}
            class:font-semibold={step.id === current}
            aria-current={step.id === current ? 'step' : undefined}
            onclick={() => go(step.id)}
          >
            <span class={`w-5 shrink-0 text-center text-base font-bold ${mark.tone}`} aria-hidden="true"
              >{mark.sign}</span
            >
            <span class="w-6 shrink-0 text-right text-sm text-ink2">{number(step.id)}</span>
            <span
              class="min-w-0 flex-1 leading-snug"
              class:text-ink2={step.state === 'done' || step.state === 'waits' || step.state === 'parcel'}
              >{messageText(step.title)}</span
            >
            {#if step.judged.verdict === 'wrong' || step.judged.verdict === 'unsure'}<span
                class={step.judged.verdict === 'wrong' ? 'text-short' : 'text-unsure'}
                >{step.judged.verdict === 'wrong' ? '✕' : '?'}<span class="sr-only">
                  measured {step.judged.verdict === 'wrong' ? 'and not right' : 'and odd'}</span
                ></span
              >{/if}
            <span class="sr-only">{mark.word}</span>
          </button>
        </li>
      {/each}
    </ol>
  </section>
{/each}
