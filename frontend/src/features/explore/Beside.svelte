<!-- Up to four boards of the space beside each other. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import Scrolled from '$lib/ui/Scrolled.svelte';
  import { written } from '$lib/units';
  import type { ExploredBoard, Explorer } from './explore.svelte';

  let { explorer }: { explorer: Explorer } = $props();
  const boards = $derived(explorer.pinned);
  const first = $derived(boards[0]);
  const say = (v: number, q: string) => written(v, q, reader.units, explorer.build.file.currency);
  const differs = (what: (b: ExploredBoard) => unknown) => new Set(boards.map(what)).size > 1;
  /** Which of them is best, so that it can be seen at once. */
  const best = (i: number) => {
    const more = first?.outcomes[i]?.more_is_better ? 1 : -1;
    return Math.max(...boards.map((b) => more * (b.outcomes[i]?.mid ?? -Infinity * more)));
  };
</script>

<section class="mt-6" aria-labelledby="beside" data-testid="beside">
  <h2 class="border-b border-ink text-lg" id="beside">Compared</h2>
  <Scrolled class="overflow-x-auto" label="Designs compared">
    <table class="text-sm">
      <tbody>
        {#each first?.chosen ?? [] as row, i (row.path)}
          <tr class="border-b border-line align-top">
            <th scope="row" class="pr-6 text-left font-normal text-ink2">{row.title}</th>
            {#each boards as b (b.number)}
              <td class={['max-w-[14rem] pr-8', differs((o) => o.chosen[i]?.label) && 'font-semibold']}
                >{b.chosen[i]?.label}</td
              >
            {/each}
          </tr>
        {/each}
        {#each first?.outcomes ?? [] as p, i (p.name)}
          <tr class="border-b border-line align-top">
            <th scope="row" class="pr-6 text-left font-normal text-ink2">{p.title}</th>
            {#each boards as b (b.number)}
              {@const own = b.outcomes[i]}
              <td
                class={[
                  'tabular pr-8',
                  differs((o) => o.outcomes[i]?.mid) &&
                    own?.mid != null &&
                    (own.more_is_better ? 1 : -1) * own.mid === best(i) &&
                    'font-semibold text-holds',
                ]}
                >{#if own?.mid != null}{say(
                    own.mid,
                    own.quantity,
                  )}{#if own.low != null && own.high != null}<span class="text-ink2"
                      >, {say(own.low, own.quantity)} to {say(own.high, own.quantity)}</span
                    >{/if}{:else}–{/if}</td
              >
            {/each}
          </tr>
        {/each}
        <tr>
          <th scope="row" class="pr-6 text-left font-normal text-ink2">Meets every target</th>
          {#each boards as b (b.number)}<td class="pr-8 font-semibold">{b.chance_in_words}</td>{/each}
        </tr>
        <tr>
          <td></td>
          {#each boards as b (b.number)}
            <td class="pr-8 whitespace-nowrap">
              <button class="link min-h-[44px]" onclick={() => explorer.lookInto(b.number)}
                >Show details</button
              >
              <button class="link ml-3 min-h-[44px]" onclick={() => explorer.pin(b)}>Remove</button>
            </td>
          {/each}
        </tr>
      </tbody>
    </table>
  </Scrolled>
</section>
