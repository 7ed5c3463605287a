<!-- The line from cell to road at a chosen moment: how much of each station is used, and which gives way. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import Term from '$lib/ui/Term.svelte';
  import type { Moment } from '$lib/api/client';
  import { formatMessage, written } from '$lib/units';

  let { moments }: { moments: Moment[] } = $props();
  let picked = $state<Moment['id']>('flat_out');
  const moment = $derived(moments.find((m) => m.id === picked) ?? moments[0]);

  const RADIUS = 15;
  const ROUND = 2 * Math.PI * RADIUS;
  const COLOURS = {
    'over its limit': 'var(--color-short)',
    'at its limit': 'var(--color-short)',
    near: 'var(--color-unsure)',
    easy: 'var(--color-ink)',
  } as const;
</script>

{#if moment}
  <section aria-label="Power flow">
    <div class="flex flex-wrap items-baseline gap-x-4">
      <h2 class="text-base"><Term slug="power-flow" /></h2>
      <div class="ml-auto flex flex-wrap gap-x-4 text-sm" role="group" aria-label="Moment">
        {#each moments as m (m.id)}
          <button class="tab" aria-pressed={m.id === moment.id} onclick={() => (picked = m.id)}
            >{formatMessage(m.title, reader.units)}</button
          >
        {/each}
      </div>
    </div>
    <ol class="line" data-testid="line" data-moment={moment.id}>
      {#each moment.stations as s (s.name)}
        {@const state = s.state}
        <li class="min-w-0 text-center" data-station={s.name} data-use={s.use ?? ''}>
          <svg viewBox="0 0 40 40" width="40" height="40" class="mx-auto block" aria-hidden="true">
            <circle
              cx="20"
              cy="20"
              r={RADIUS}
              fill="var(--color-paper)"
              stroke="var(--color-line)"
              stroke-width="4.5"
            />
            {#if s.use != null}
              <circle
                cx="20"
                cy="20"
                r={RADIUS}
                fill="none"
                stroke={COLOURS[state]}
                stroke-width="4.5"
                stroke-dasharray={`${Math.min(s.use, 1) * ROUND} ${ROUND}`}
                transform="rotate(-90 20 20)"
              />
              <text x="20" y="24" text-anchor="middle" font-size="12" font-weight="700" fill={COLOURS[state]}
                >{Math.round(s.use * 100)}</text
              >
            {:else if s.name === 'road'}
              <path
                d="M6 23c5-6 8-6 14 0s9 6 14 0"
                fill="none"
                stroke="var(--color-ink)"
                stroke-width="1.6"
              />
            {:else}
              <circle cx="20" cy="20" r="3" fill="var(--color-ink)" />
            {/if}
          </svg>
          <span class="block text-sm font-semibold"
            >{s.title}{#if s.use != null}<span class="sr-only">: {Math.round(s.use * 100)} percent used</span
              >{/if}</span
          >
          <span class="block text-xs leading-tight text-ink2">
            {#each s.figures as f, i (i)}{i ? ', ' : ''}<span class="whitespace-nowrap"
                >{written(f.value, f.quantity, reader.units)}</span
              >{/each}
          </span>
          <span
            class="remark block text-xs leading-tight"
            class:text-short={state === 'at its limit' || state === 'over its limit'}
            >{state === 'over its limit' || state === 'at its limit' ? state : s.remark}</span
          >
        </li>
      {/each}
    </ol>
  </section>
{/if}

<style>
  .line {
    position: relative;
    display: grid;
    grid-template-columns: repeat(7, minmax(0, 1fr));
    column-gap: 4px;
    margin: 6px 0 0;
    padding: 0;
    list-style: none;
  }
  .line::before {
    content: '';
    position: absolute;
    top: 20px;
    left: 7%;
    right: 7%;
    height: 1.2px;
    background: var(--color-ink);
  }
  .line li svg {
    position: relative;
  }
  @media (width < 40rem) {
    .line {
      grid-template-columns: repeat(4, minmax(0, 1fr));
      row-gap: 8px;
    }
    .line::before {
      display: none;
    }
  }
</style>
