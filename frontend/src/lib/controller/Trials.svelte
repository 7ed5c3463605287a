<!-- What may go wrong on a bench, on the simulated controller: to see what happens, before it happens on a real one. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import { untrack } from 'svelte';
  import type { Schemas } from '$lib/api/client';
  import type { ControllerLink } from './controller.svelte';

  interface Props {
    link: ControllerLink;
    /** Only what may be wrong with the board; the rest belongs to setting it. */
    board?: boolean;
  }
  let { link, board: boardOnly = false }: Props = $props();
  type Board = NonNullable<Schemas['ControllerCommandIn']['board']>[number];
  type LinkFault = NonNullable<Schemas['ControllerCommandIn']['link']>[number];

  const BOARD: [Board, string][] = [
    ['swapped_phase', 'two phases swapped'],
    ['hall_wire', 'a Hall wire off'],
    ['weak_motor', 'one weak motor'],
    ['sagging_pack', 'a sagging pack'],
  ];
  const LINK: [string, string, LinkFault[]][] = [
    ['', 'nothing', []],
    [
      'cut',
      'the cable is pulled in the middle, once',
      [{ what: 'cut_after', at: 'set', after: 2, times: 1 }],
    ],
    [
      'restart',
      'it restarts in the middle, once',
      [{ what: 'restart_before', at: 'set', after: 3, times: 1 }],
    ],
    ['garbage', 'noise on every tenth answer', [{ what: 'garbage', after: 9, times: 3 }]],
    [
      'torn',
      'its current fails while it keeps the values',
      [{ what: 'torn', at: 'keep', after: 0, times: -1 }],
    ],
    [
      'dead',
      'it falls silent while it keeps the values',
      [
        { what: 'request_lost', at: 'keep', after: 0, times: -1 },
        { what: 'request_lost', at: 'read', after: 2, times: -1 },
      ],
    ],
  ];
  let board = $state<Board[]>(untrack(() => (link.seen?.pretends ?? []) as Board[]));
  let fault = $state('');

  function pretend(): void {
    void link.send('pretend', { board, link: LINK.find(([k]) => k === fault)?.[2] ?? [] });
  }
</script>

<details class="mt-1 text-sm" data-testid="trials" bind:open={link.trying}>
  <summary class="text-ink2">Simulate a fault, to see how it is found and fixed</summary>
  <div class="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2">
    <fieldset class="flex flex-wrap gap-x-3 gap-y-1 border-0 p-0">
      <legend class="text-xs text-ink2">On the board</legend>
      {#each BOARD as [value, label] (value)}
        <label class="flex min-h-7 items-center gap-1.5"
          ><input type="checkbox" {value} bind:group={board} />{label}</label
        >
      {/each}
    </fieldset>
    {#if !boardOnly}<label class="text-xs text-ink2"
        >While it is set<select class="entry block w-auto text-sm text-ink" bind:value={fault}
          >{#each LINK as [value, label] (value)}<option {value}>{label}</option>{/each}</select
        ></label
      >{/if}
    <Button disabled={link.busy} onclick={pretend}>Apply</Button>
    {#if !boardOnly}<Button disabled={link.busy} onclick={() => link.send('reset')}
        >Reset it to its factory values</Button
      >{/if}
  </div>
</details>
