<!-- A board to look at: what is chosen, what it does, how surely all is kept. -->
<script lang="ts">
  import { messageText, reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { shownUnit, written } from '$lib/units';
  import type { ExploredBoard } from './explore.svelte';

  interface Props {
    board: ExploredBoard;
    title: string;
    currency?: string | null;
    pinned: boolean;
    onlook: () => void;
    onpin: () => void;
  }
  let { board, title, currency, pinned, onlook, onpin }: Props = $props();
  const say = (v: number, q: string) => written(v, q, reader.units, currency);
  const SIGN = {
    'on target': '✓',
    uncertain: '~',
    short: '✕',
    over: '✕',
    'no target': '',
    'not predicted': '',
  } as const;
  const INK = {
    'on target': 'text-holds',
    uncertain: 'text-unsure',
    short: 'text-short',
    over: 'text-short',
    'no target': '',
    'not predicted': '',
  };
  const chosen = (c: ExploredBoard['chosen'][number]) =>
    c.value == null || !c.quantity
      ? c.label
      : `${c.title.toLowerCase()} ${c.label}${shownUnit(c.quantity, {}).unit ? ` ${shownUnit(c.quantity, {}).unit}` : ''}`;
</script>

<article
  class="flex flex-col border-t-2 border-ink pt-1"
  data-testid="explored-board"
  data-number={board.number}
  data-chance={board.chance}
>
  <h2 class="text-base">{title}</h2>
  <p class="text-sm"><b>Meets every target: {board.chance_in_words}.</b></p>
  <ul class="m-0 list-none p-0 text-sm">
    {#each board.outcomes as p (p.name)}
      {#if p.mid != null}
        <li class="flex justify-between gap-2 border-b border-line">
          <span><span class={INK[p.verdict]} aria-label={p.verdict}>{SIGN[p.verdict]}</span> {p.title}</span>
          <span class="tabular text-right"
            >{say(p.mid, p.quantity)}{#if p.low != null && p.high != null}<span
                class="block text-xs text-ink2">{say(p.low, p.quantity)} to {say(p.high, p.quantity)}</span
              >{/if}</span
          >
        </li>
      {/if}
    {/each}
  </ul>
  <p class="mt-1 text-sm text-ink2">{board.chosen.map(chosen).join('; ')}.</p>
  {#if board.also.length}<p class="text-sm text-unsure">
      Also needs: {board.also
        .map((title) => messageText(title))
        .join('; ')
        .toLowerCase()}.
    </p>{/if}
  {#if board.grave.length}<p class="text-sm text-short">
      ✕ {board.grave.map((title) => messageText(title)).join('; ')}.
    </p>{/if}
  <div class="mt-auto flex gap-2 pt-2">
    <Button onclick={onlook} aria-label={`Details: ${title}`}>Show details</Button>
    <Button onclick={onpin} aria-pressed={pinned} aria-label={`Compare: ${title}`}
      >{pinned ? 'Compared ✓' : 'Compare'}</Button
    >
  </div>
</article>
