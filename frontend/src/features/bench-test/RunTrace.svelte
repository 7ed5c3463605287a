<!-- A run with the wheels in the air: live while it goes on, as a figure against the prediction afterwards. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import type { Schemas } from '$lib/api/client';
  import Plot from '$lib/charts/Plot.svelte';
  import { written } from '$lib/units';

  let { command }: { command: Schemas['ControllerCommandOut'] } = $props();

  const live = $derived(command.live);
  const runs = $derived(command.result?.kind === 'run' ? command.result.runs : []);
  const say = (value: number, quantity: string) => written(value, quantity, reader.units);
</script>

{#if live}
  <dl class="m-0 mt-2 flex flex-wrap gap-x-6 gap-y-1 text-base" data-testid="live">
    {#each live.motors as motor, i (i)}
      <div>
        <dt class="text-xs text-ink2">motor {(live.unit ?? 0) * live.motors.length + i + 1}</dt>
        <dd class="m-0 font-semibold">
          {say(motor.erpm, 'electrical_speed')} · {say(motor.current_a, 'current')}
        </dd>
      </div>
    {/each}
    <div>
      <dt class="text-xs text-ink2">pack</dt>
      <dd class="m-0 font-semibold">{say(live.pack_v, 'voltage')} · {say(live.pack_a, 'current')}</dd>
    </div>
    <div>
      <dt class="text-xs text-ink2">{live.phase === 'spin' ? 'full throttle' : 'full brake'}</dt>
      <dd class="m-0 font-semibold">{say(live.t, 'seconds')}</dd>
    </div>
  </dl>
{:else}
  {#each runs as run, i (i)}
    <details class="mt-2 max-w-[36rem] text-sm" data-testid="run">
      <summary class="text-ink2"
        >{runs.length > 1 ? `Controller ${i + 1}: t` : 'T'}he run as a figure; at rest again after {say(
          run.stopped_in_s,
          'seconds',
        )}</summary
      >
      <Plot plot={run.figure} name={`run-${i + 1}`} />
    </details>
  {/each}
{/if}
