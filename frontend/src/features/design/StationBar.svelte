<!-- On a phone: every station within reach of the thumb, wherever the page is scrolled to. -->
<script lang="ts">
  import { STATIONS } from './stations';

  let { current, go }: { current: string; go: (id: string) => void } = $props();
  const at = $derived(STATIONS.findIndex((s) => s.id === current));
  const beside = (by: number) => STATIONS[(at + by + STATIONS.length) % STATIONS.length]!;
</script>

<nav class="station-bar lg:hidden" aria-label="Stations at the thumb">
  <button class="step" aria-label={`Before: ${beside(-1).name}`} onclick={() => go(beside(-1).id)}>‹</button>
  <label class="min-w-0 flex-1">
    <span class="sr-only">Station</span>
    <select class="entry min-h-11 font-semibold" value={current} onchange={(e) => go(e.currentTarget.value)}>
      {#each STATIONS as station, i (station.id)}<option value={station.id}>{i + 1} {station.name}</option
        >{/each}
    </select>
  </label>
  <button class="step" aria-label={`Next: ${beside(1).name}`} onclick={() => go(beside(1).id)}>›</button>
</nav>

<style>
  .station-bar {
    position: fixed;
    inset: auto 0 calc(57px + env(safe-area-inset-bottom));
    z-index: 15;
    display: flex;
    gap: 6px;
    padding: 5px 10px;
    background: var(--color-paper);
    border-top: 1px solid var(--color-line);
  }
  @media (width >= 64rem) {
    .station-bar {
      display: none;
    }
  }
  .step {
    width: 52px;
    min-height: 44px;
    border: 1px solid var(--color-rule);
    border-radius: 3px;
    background: var(--color-sheet);
    font-size: 22px;
    line-height: 1;
  }
</style>
