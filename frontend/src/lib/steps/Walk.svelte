<!-- Steps gone through one at a time: the list beside the card of the one that is open; on a phone one or the other. -->
<script lang="ts">
  import { tick, type Snippet } from 'svelte';
  import Button from '$lib/ui/Button.svelte';
  import StepCard from './StepCard.svelte';
  import StepList from './StepList.svelte';
  import type { StepStatus, Work } from './work.svelte';

  interface Props {
    work: Work;
    /** The step that is open; without one the next to do. */
    chosen: string;
    onwish: (step: string) => void;
    /** Opens the ways of working that the builder can choose. */
    onmethod?: () => void;
    /** Before the card of a step. */
    before?: Snippet<[StepStatus]>;
    /** Beneath the list. */
    beneath?: Snippet;
  }
  let { work, chosen = $bindable(), onwish, onmethod, before, beneath }: Props = $props();
  let listed = $state(false);
  const steps = $derived(work.steps);
  const current = $derived(
    steps.find((s) => s.id === chosen) ?? steps.find((s) => s.id === work.next) ?? steps.at(-1),
  );

  async function go(id: string): Promise<void> {
    chosen = id;
    listed = false;
    await tick();
    window.scrollTo({ top: 0 });
  }
</script>

<div class="grid gap-x-10 lg:grid-cols-[340px_minmax(0,680px)]">
  <div
    class={[
      'min-w-0 lg:sticky lg:top-2 lg:max-h-[calc(100dvh-16px)] lg:self-start lg:overflow-y-auto lg:pr-2',
      !listed && 'max-lg:hidden',
    ]}
  >
    <StepList {work} {steps} current={current?.id ?? ''} {go} />
    {@render beneath?.()}
  </div>
  <div class={['min-w-0', listed && 'max-lg:hidden']}>
    {#if current}
      {@render before?.(current)}
      <StepCard
        {work}
        step={current}
        {steps}
        {go}
        ondone={() => go(work.next ?? current!.id)}
        onwish={() => onwish(current!.id)}
        {onmethod}
      />
    {/if}
  </div>
  <Button class="mt-2 min-h-[44px] lg:hidden" onclick={() => (listed = !listed)}
    >{listed ? 'Back to the step' : `All ${steps.length} steps`}</Button
  >
</div>
