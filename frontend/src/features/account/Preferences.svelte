<!-- Units by quantity, and the theme. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import { reader } from '$lib/reader.svelte';
  import { QUANTITIES } from '$lib/api/tables.gen';
  import { session } from '$lib/session.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';

  let { open = $bindable() }: { open: boolean } = $props();

  const NAMES: Record<string, string> = {
    speed: 'Speed',
    distance: 'Distance',
    way: 'Hills and heights',
    grade: 'Grade',
    length: 'Parts’ lengths',
    mass: 'Parts’ masses',
    body_mass: 'Rider and board',
    body_height: 'Rider’s height',
    temperature: 'Temperature',
    wind: 'Wind',
    energy_per_distance: 'Consumption',
  };
  const choosable = Object.entries(NAMES).map(([name, label]) => ({
    name,
    label,
    units: Object.keys(QUANTITIES[name]!.shown),
  }));
  const chosen = (name: string) => reader.units[name] ?? Object.keys(QUANTITIES[name]!.shown)[0]!;

  function all(which: number): void {
    const units = Object.fromEntries(
      choosable.filter((q) => q.name !== 'grade').map((q) => [q.name, q.units[which] ?? q.units[0]!]),
    );
    void session.prefer({ units: { ...reader.units, ...units } });
  }
</script>

<Dialog bind:open title="Units and light">
  <div class="mb-4 flex flex-wrap items-center gap-2" role="group" aria-label="Light">
    {#each [['day', 'Day'], ['night', 'Night'], ['system', 'As the device']] as const as [theme, label] (theme)}
      <Button
        main={session.who?.preferences.theme === theme}
        aria-pressed={session.who?.preferences.theme === theme}
        onclick={() => session.prefer({ theme })}>{label}</Button
      >
    {/each}
  </div>
  <div class="mb-2 flex items-baseline gap-3">
    <h3 class="text-base">Units</h3>
    <button class="link text-sm" onclick={() => all(0)}>all metric</button>
    <button class="link text-sm" onclick={() => all(1)}>all imperial</button>
  </div>
  <div class="grid grid-cols-[1fr_auto] items-center gap-y-1">
    {#each choosable as q (q.name)}
      <span>{q.label}</span>
      <div class="flex gap-1" role="group" aria-label={q.label}>
        {#each q.units as unit (unit)}
          <button
            class="min-w-14 rounded border px-2 py-0.5 text-sm"
            class:border-ink={chosen(q.name) === unit}
            class:font-semibold={chosen(q.name) === unit}
            class:border-line={chosen(q.name) !== unit}
            aria-pressed={chosen(q.name) === unit}
            onclick={() => session.prefer({ units: { ...reader.units, [q.name]: unit } })}>{unit}</button
          >
        {/each}
      </div>
    {/each}
  </div>
  <p class="remark mt-3 text-sm">
    Any field accepts any unit typed after the number: 3.5 in, 22 mph, 160 lb.
  </p>
</Dialog>
