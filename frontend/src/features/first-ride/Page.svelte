<!-- The first ride, guided on a phone in the hand: before, the first metres, step by step faster, afterwards; ends with five seconds
     of writing down. -->
<script lang="ts">
  import { onDestroy } from 'svelte';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { go as open, addressOf } from '$lib/navigation';
  import { dayText, reader } from '$lib/reader.svelte';
  import Waiting from '$lib/steps/Waiting.svelte';
  import Walk from '$lib/steps/Walk.svelte';
  import { Work } from '$lib/steps/work.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import { written } from '$lib/units';
  import RideEntry from './RideEntry.svelte';

  const build = getBuildContext();
  const work = new Work(build, 'first-ride');
  onDestroy(() => work.close());
  let chosen = $state(new URLSearchParams(location.search).get('at') ?? '');
  const rides = $derived(work.answer?.rides ?? []);
</script>

<svelte:window ononline={() => work.retry()} onfocus={() => work.retry()} />

<main class="mx-auto w-full max-w-[1240px] px-4 py-3 sm:px-6">
  <div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl max-sm:sr-only">First ride</h1>
    <p class="remark text-sm">Pads on, slow mode, empty level ground. Nothing here says that it is safe.</p>
  </div>
  <Waiting {work} />
  {#if !work.report}
    <Awaiting
      asked={work.loading}
      waiting="Loading the steps…"
      lost="The steps cannot be loaded at the moment; what you entered is saved on this device."
    />
  {:else}
    <Walk
      {work}
      bind:chosen
      onwish={(step) => open(`${addressOf(build.id, 'assembly')}?view=wishes&at=${step}`)}
    >
      {#snippet before(step)}
        {#if step.id === 'fr-write'}<RideEntry {work} onkept={() => (chosen = 'fr-write')} />{/if}
      {/snippet}
      {#snippet beneath()}
        {#if rides.length}
          <section aria-label="Ridden" class="mt-2">
            <h2 class="flex items-baseline border-b border-ink text-base">
              Ridden<a class="link ml-auto font-sans text-sm font-normal" href={addressOf(build.id, 'rides')}
                >Open Rides</a
              >
            </h2>
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
      {/snippet}
    </Walk>
  {/if}
</main>
