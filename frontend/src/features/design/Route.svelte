<!-- The stations as a route, with what is chosen at each and what is wrong there. -->
<script lang="ts">
  import { messageText, reader } from '$lib/reader.svelte';
  import type { Finding } from '$lib/api/client';
  import { STATIONS, stationSummary, touches, type Station } from './stations';
  import type { Design } from './design.svelte';

  interface Props {
    design: Design;
    current: string;
    go: (id: string) => void;
  }
  let { design, current, go }: Props = $props();

  const findings = $derived(design.prediction?.findings ?? []);

  function worst(station: Station): Finding | undefined {
    return findings.find((f) => f.severity !== 'note' && !f.accepted && touches(station, f));
  }
</script>

<nav aria-label="Stations">
  <ol
    class="relative m-0 list-none p-0 before:absolute before:top-4 before:bottom-5 before:left-[10px] before:w-px before:bg-rule"
  >
    {#each STATIONS as station, i (station.id)}
      {@const summary = stationSummary(station, design.build.file, reader.units)}
      {@const finding = worst(station)}
      {@const on = station.id === current}
      <li>
        <button
          class="relative grid w-full grid-cols-[30px_1fr_auto] items-start rounded-l py-[7px] pr-3 text-left hover:bg-sheet"
          class:bg-sheet={on}
          class:on
          aria-current={on ? 'step' : undefined}
          data-testid={`station-${station.id}`}
          onclick={() => go(station.id)}
        >
          <span class="dot" class:chosen={summary.chosen}>{i + 1}</span>
          <span class="font-semibold">{station.name}</span>
          <span class="pl-2 text-right text-sm text-ink2">{summary.figure}</span>
          <span class="col-span-2 col-start-2 text-sm text-ink2" class:truncate={!on}>{summary.part}</span>
          {#if finding}
            <span class="mark" class:grave={finding.severity === 'danger' || finding.severity === 'stop'}>
              {finding.severity === 'warn' ? '~' : '!'}<span class="sr-only"
                >{messageText(finding.title)}</span
              >
            </span>
          {/if}
        </button>
      </li>
    {/each}
  </ol>
</nav>

<style>
  .on {
    box-shadow: inset 0 0 0 1px var(--color-line);
  }
  .dot {
    grid-row: 1 / 3;
    width: 21px;
    height: 21px;
    margin-top: 5px;
    border-radius: 50%;
    display: grid;
    place-items: center;
    font-size: 12px;
    font-weight: 600;
    background: var(--color-paper);
    border: 1.2px dashed var(--color-rule);
    position: relative;
  }
  .dot.chosen {
    border: 1.2px solid var(--color-ink);
  }
  .on .dot {
    background: var(--color-ink);
    border: 1.2px solid var(--color-ink);
    color: var(--color-onink);
  }
  .mark {
    position: absolute;
    left: 14px;
    top: 24px;
    width: 16px;
    height: 16px;
    border-radius: 50%;
    display: grid;
    place-items: center;
    font-size: 12px;
    font-weight: 800;
    color: var(--color-paper);
    background: var(--color-unsure);
  }
  .mark.grave {
    background: var(--color-short);
    border-radius: 2px;
  }
</style>
