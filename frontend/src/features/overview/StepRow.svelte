<!-- One next step: what, why, and the one way in. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import type { Schemas } from '$lib/api/client';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { reader } from '$lib/reader.svelte';
  import { formatMessage } from '$lib/units';

  interface Props {
    build: OpenBuild;
    step: Schemas['NextStep'];
    /** Its place in the order; none where the order does not matter. */
    number?: number;
  }
  let { build, step, number }: Props = $props();
  let taken = $state(false);

  const grave = $derived(step.urgency === 'danger' || step.urgency === 'stop');
  const TONES: Record<string, [string, string]> = {
    danger: ['bg-short text-onink', 'Danger'],
    stop: ['bg-short-wash text-short border border-short', 'Will not work'],
    late: ['bg-unsure text-onink', 'Late'],
    due: ['bg-unsure text-onink', 'Due'],
    next: ['bg-acting text-onink', ''],
    better: ['border border-rule', ''],
  };
  const tone = $derived(TONES[step.urgency]!);
  const say = (message: Schemas['Message']) => formatMessage(message, reader.units, build.file.currency);

  function take(): void {
    taken = true;
    build.changeAndSay(step.fix!.changes, `${say(step.fix!.message)}: done.`);
  }
</script>

<li
  class="flex flex-wrap items-start gap-x-[18px] gap-y-2 border-b border-line py-3 sm:flex-nowrap"
  class:opacity-50={taken}
  data-testid="step"
  data-id={step.id}
  data-urgency={step.urgency}
>
  <span
    class={`mt-px flex size-[22px] shrink-0 items-center justify-center text-sm font-bold ${tone[0]} ${grave ? 'rounded-[3px]' : 'rounded-full'}`}
    aria-hidden="true">{grave ? '!' : (number ?? '')}</span
  >
  <div class="min-w-0 flex-1 basis-[70%]">
    <h3 class="font-sans text-base font-semibold">
      {#if tone[1]}<span class="sr-only">{tone[1]}: </span>{/if}{say(step.title)}
    </h3>
    <p class="text-normal leading-snug text-ink2">{say(step.why)}</p>
  </div>
  {#if step.fix}
    <Button
      main={step.urgency === 'danger' || number === 1}
      disabled={taken}
      onclick={take}
      class="ml-10 min-h-9 shrink-0 sm:ml-0">{say(step.fix.message)}</Button
    >
  {:else}
    <Button
      main={step.urgency === 'danger' || number === 1}
      href={addressOf(build.id, step.page, step.field)}
      class="ml-10 min-h-9 shrink-0 sm:ml-0">{step.label}</Button
    >
  {/if}
</li>
