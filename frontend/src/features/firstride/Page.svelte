<!-- The first ride, guided on a phone in the hand: before, the first metres, step by step faster, afterwards; ends with five seconds
     of writing down. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { theBuild } from '$lib/build/build.svelte';
  import { go as open, roomOf } from '$lib/going';
  import { dayText, reader } from '$lib/reader.svelte';
  import StepCard from '$lib/steps/StepCard.svelte';
  import StepList from '$lib/steps/StepList.svelte';
  import Waiting from '$lib/steps/Waiting.svelte';
  import { Work } from '$lib/steps/work.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { written } from '$lib/units';
  import RideEntry from './RideEntry.svelte';

  const build = theBuild();
  const work = new Work(build, 'firstride');
  onDestroy(() => work.close());
  let chosen = $state(new URLSearchParams(location.search).get('at') ?? '');
  let listed = $state(false);
  const steps = $derived(work.steps);
  const current = $derived(
    steps.find((s) => s.id === chosen) ?? steps.find((s) => s.id === work.next) ?? steps.at(-1),
  );
  const rides = $derived(work.answer?.rides ?? []);

  function go(id: string): void {
    chosen = id;
    listed = false;
    window.scrollTo({ top: 0 });
  }
</script>

<svelte:window ononline={() => work.retry()} onfocus={() => work.retry()} />

<main class="mx-auto w-full max-w-[1240px] px-4 py-3 sm:px-6">
  <div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl max-sm:sr-only">First ride</h1>
    <p class="remark text-sm">Padded, slow mode, empty level ground. Nothing here says that it is safe.</p>
  </div>
  <Waiting {work} />
  {#if !work.report}
    <Awaiting
      asked={work.loading}
      waiting="Laying the steps out…"
      lost="The steps cannot be had just now; what you entered is kept."
    />
  {:else}
    <div class="grid gap-x-10 lg:grid-cols-[340px_minmax(0,680px)]">
      <div class={['min-w-0 lg:self-start', !listed && 'max-lg:hidden']}>
        <StepList {work} {steps} current={current?.id ?? ''} {go} />
        {#if rides.length}
          <section aria-label="Ridden" class="mt-2">
            <h2 class="border-b border-ink text-base">Ridden</h2>
            {#each rides as ride (ride.id)}
              <p class="border-b border-line py-1.5" data-testid="ride">
                {dayText(ride.day)}{ride.km != null
                  ? `, ${written(ride.km, 'distance', reader.units)}`
                  : ''}{ride.start_v != null && ride.end_v != null
                  ? `, ${written(ride.start_v, 'voltage', reader.units)} to ${written(ride.end_v, 'voltage', reader.units)}`
                  : ''}
                {ride.note}
              </p>
            {/each}
          </section>
        {/if}
      </div>
      <div class={['min-w-0', listed && 'max-lg:hidden']}>
        {#if current?.id === 'fr-write'}
          <RideEntry {work} onkept={() => go('')} />
        {/if}
        {#if current}
          <StepCard
            onwish={() => open(`${roomOf(build.id, 'assembly')}?view=wishes&at=${current!.id}`)}
            {work}
            step={current}
            {steps}
            {go}
            ondone={() => go(work.next ?? current!.id)}
          />
        {/if}
      </div>
      <Button class="mt-2 min-h-[44px] lg:hidden" onclick={() => (listed = !listed)}
        >{listed ? 'Back to the step' : `All ${steps.length} steps`}</Button
      >
    </div>
  {/if}
</main>
