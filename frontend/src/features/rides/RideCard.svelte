<!-- One ride: what was written down, how it was judged, its track; left out, altered, taken away. -->
<script lang="ts">
  import { dayText, reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import { plain, formatMessage, written } from '$lib/units';
  import Entry from './Entry.svelte';
  import JudgedFigure from './JudgedFigure.svelte';
  import RidePhotos from './RidePhotos.svelte';
  import TrackPlots from './TrackPlots.svelte';
  import type { RideLine, Rides } from './rides.svelte';
  import { runText } from './words';

  let { rides, line, onaway }: { rides: Rides; line: RideLine; onaway: () => void } = $props();
  const ride = $derived(line.ride);
  const judged = $derived(rides.judged(line.id));
  let altering = $state(false);
  let leaving = $state(false);
  let why = $state('');
  const say = (v: number, q: string) => written(v, q, reader.units);
  const told = $derived(
    [
      ride.conditions?.temperature_c != null && say(ride.conditions.temperature_c, 'temperature'),
      ride.conditions?.wind_ms != null &&
        `wind ${say(ride.conditions.wind_ms, 'wind')}${ride.conditions.wind ? ` ${plain(ride.conditions.wind)}` : ''}`,
      ride.conditions?.wet && 'wet',
      ride.rider?.other && 'somebody else rode',
      ride.pack?.ended === 'cut_off' ? 'to the cut-off' : ride.pack?.ended === 'warned' ? 'warned' : '',
      ride.pack?.wh != null && `${say(ride.pack.wh, 'energy')} charged`,
      ride.warm && `motors ${plain(ride.warm)}`,
      line.revision && `board: ${line.revision}`,
      line.record && `record ${line.record}`,
    ].filter(Boolean),
  );
  function remove(): void {
    const kept = { ...ride, id: line.id };
    const track = line.track ?? undefined;
    rides.remove(line.id);
    onaway();
    notices.say('The ride was deleted.', { label: 'Restore', run: () => rides.keep(kept, track) });
  }
</script>

<div class="pb-4" data-testid="ride-card">
  {#if altering}
    <Entry
      {rides}
      of={{ ...ride, id: line.id }}
      onkept={() => (altering = false)}
      onleft={() => (altering = false)}
    />
  {:else}
    {#if told.length}<p class="text-sm text-ink2">{told.join(' · ')}</p>{/if}
    {#each ride.runs ?? [] as run, i (i)}<p class="text-sm">{runText(run)}</p>{/each}
    {#each [ride.broke && `Broke: ${ride.broke}`, ride.wish && `Would change: ${ride.wish}`, ride.note].filter(Boolean) as words (words)}
      <p class="whitespace-pre-line">{words}</p>
    {/each}
    {#if ride.left_out}
      <p class="mt-1 border-l-2 border-rule pl-2" data-testid="left-out">
        Excluded: {ride.left_out}. It is not used for calibration.
      </p>
    {:else if judged}
      <h3 class="mt-2 text-sm">Compared with the prediction before this ride, for that day</h3>
      {#each judged.figures as figure, i (i)}<JudgedFigure {figure} />{/each}
      {#if judged.hint}<p class="mt-1 border-l-[3px] border-unsure pl-2">
          {formatMessage(judged.hint, reader.units)}
        </p>{/if}
    {:else if line.unsent}
      <p class="text-sm text-unsure">Waiting for the network; compared once it is sent.</p>
    {/if}
    <RidePhotos build={rides.build} ride={line.id} />
    {#if line.track}<div class="mt-3"><TrackPlots track={line.track} /></div>{/if}
    {#if leaving}
      <form
        class="mt-2 flex flex-wrap items-end gap-3"
        onsubmit={(e) => {
          e.preventDefault();
          rides.keep(
            { ...ride, id: line.id, left_out: why.trim() || 'it tells nothing' },
            line.track ?? undefined,
          );
          leaving = false;
        }}
      >
        <label class="grow text-xs text-ink2"
          >Why?<input
            class="entry block min-h-[44px] text-sm text-ink"
            bind:value={why}
            maxlength="300"
          /></label
        >
        <Button class="min-h-[44px]">Skip it</Button>
        <button type="button" class="link min-h-[44px]" onclick={() => (leaving = false)}>Include it</button>
      </form>
    {:else}
      <p class="mt-2 flex flex-wrap gap-x-5 text-sm">
        <button class="link min-h-[44px]" onclick={() => (altering = true)}>Edit</button>
        {#if ride.left_out}
          <button
            class="link min-h-[44px]"
            onclick={() => rides.keep({ ...ride, id: line.id, left_out: undefined }, line.track ?? undefined)}
            >Include it again</button
          >
        {:else}<button class="link min-h-[44px]" onclick={() => (leaving = true)}>Exclude it</button>{/if}
        <button
          class="link min-h-[44px]"
          aria-label={`Delete the ride of ${dayText(ride.day)}`}
          onclick={remove}>Remove it</button
        >
      </p>
    {/if}
  {/if}
</div>
