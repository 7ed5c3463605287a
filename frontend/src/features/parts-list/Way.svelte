<!-- A parcel's way as a line with three stops; the stop that is reached is filled. Each stop is a choice. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import type { State } from './parts-list.svelte';

  interface Props {
    name: string;
    state: State;
    lateDays?: number | null;
    onstand: (state: State) => void;
  }
  let { name, state, lateDays, onstand }: Props = $props();

  const STOPS = [
    ['to_order', 'To order'],
    ['ordered', 'Ordered'],
    ['arrived', 'Here'],
  ] as const;
  const reached = $derived(
    state === 'to_order' || state === 'owned' ? 0 : state === 'ordered' || state === 'late' ? 1 : 2,
  );
  const WORDS: Partial<Record<State, string>> = { faulty: 'Faulty', replaced: 'Replaced', owned: 'In stock' };
  const word = $derived(
    state === 'late' && lateDays
      ? plural(lateDays, ['# day late', '# days late'])
      : (WORDS[state] ?? (state === 'late' ? 'Late' : STOPS[reached]![1])),
  );
  const tone = $derived(
    state === 'late' || state === 'faulty'
      ? 'var(--color-short)'
      : reached === 2 || state === 'owned'
        ? 'var(--color-holds)'
        : reached === 1
          ? 'var(--color-acting)'
          : 'var(--color-ink2)',
  );
</script>

<div class="flex items-center gap-2" style:color={tone}>
  <div class="flex items-center" role="group" aria-label={`How ${name} stands: ${word}`}>
    {#each STOPS as [value, label], i (value)}
      {#if i}<span
          class="h-0 w-4 border-t-2 sm:w-3"
          class:border-dashed={i > reached}
          class:opacity-45={i > reached}
          style:border-color="currentColor"
        ></span>{/if}
      <button
        class="flex size-8 items-center justify-center sm:size-6"
        aria-label={`${name}: ${label}`}
        aria-pressed={i === reached && state !== 'owned'}
        title={label}
        onclick={() => onstand(value)}
      >
        <svg width="14" height="14" viewBox="0 0 14 14" fill="none" stroke="currentColor" stroke-width="1.6">
          {#if i === 2 && state === 'faulty'}<path d="M3 3l8 8M11 3l-8 8" stroke-width="2.2" />
          {:else if i === 2 && reached === 2}<circle cx="7" cy="7" r="5.5" fill="currentColor" /><path
              d="M4.4 7.2 6.3 9 9.8 4.9"
              stroke="var(--color-onink)"
            />
          {:else if i === reached && state !== 'owned'}<circle cx="7" cy="7" r="5.5" fill="currentColor" />
          {:else if i < reached}<circle cx="7" cy="7" r="3.2" fill="currentColor" />
          {:else}<circle cx="7" cy="7" r="4.5" opacity="0.6" />{/if}
        </svg>
      </button>
    {/each}
  </div>
  <span
    class="min-w-16 text-sm whitespace-nowrap"
    class:font-semibold={state === 'late' || state === 'faulty'}>{word}</span
  >
</div>
