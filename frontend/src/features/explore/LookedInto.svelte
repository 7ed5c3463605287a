<!-- One board: what a step of each part buys, where another limit takes over, the nearest real parts, and its way to the bench. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { go, addressOf } from '$lib/navigation';
  import { messageText, reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import Scrolled from '$lib/ui/Scrolled.svelte';
  import { shownUnit, written } from '$lib/units';
  import type { Explorer } from './explore.svelte';

  let { explorer, looked }: { explorer: Explorer; looked: Schemas['LookedInto'] } = $props();
  const build = $derived(explorer.build);
  let trouble = $state('');
  const say = (p: Schemas['Outcome']) =>
    p.mid == null ? '–' : written(p.mid, p.quantity, reader.units, build.file.currency);
  type Beside = Schemas['StepValue'];
  const outcome = (v: { outcomes: Schemas['Outcome'][] }, name: string) =>
    v.outcomes.find((p) => p.name === name)!;
  /** Another limit than beside it: there it takes over. */
  const takesOver = (values: Beside[], i: number, name: string) =>
    i > 0 && outcome(values[i]!, name).limit !== outcome(values[i - 1]!, name).limit;
  const unitOf = (path: string) => {
    const number = explorer.may?.numbers.find((n) => n.path === path);
    return number ? shownUnit(number.quantity, {}).unit : '';
  };
  const TONE = { likely: 'bg-holds', uncertain: 'bg-unsure', unlikely: 'bg-rule' } as const;

  async function lay(parts: Record<string, unknown>, settings?: Record<string, unknown>): Promise<void> {
    trouble = (await explorer.lay(parts, settings))
      ? ''
      : 'The server cannot be reached; your build is kept.';
    if (trouble) return;
    notices.say('This board is now your design.', { label: 'Undo', run: () => build.undo() }, build);
    go(addressOf(build.id, 'design'));
  }
</script>

<section
  class="mt-6"
  aria-labelledby="looked-into"
  data-testid="looked-into"
  data-number={looked.board.number}
>
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-ink pb-1">
    <h2 class="text-lg" id="looked-into">This design, step by step</h2>
    <p class="text-sm">
      {looked.board.chosen.map((c) => c.label).join(', ')}: meets every target,
      <b>{looked.board.chance_in_words}</b>.
    </p>
    <Button main class="ml-auto" onclick={() => lay(looked.parts, looked.settings)}>Use this board</Button>
  </div>
  {#if trouble}<p class="text-short" role="alert">{trouble}</p>{/if}
  {#if looked.board.grave.length}<p class="mt-1 text-sm text-short">
      ✕ {looked.board.grave.map((title) => messageText(title)).join('; ')}.
    </p>{/if}
  {#if looked.board.also.length}
    <p class="mt-1 text-sm text-unsure">
      It also needs another: {looked.board.also
        .map((title) => messageText(title))
        .join('; ')
        .toLowerCase()}. The Design page shows how.
    </p>
  {/if}
  {#each looked.steps as axis (axis.path)}
    <h3 class="mt-3 text-base">{axis.title}{unitOf(axis.path) ? `, ${unitOf(axis.path)}` : ''}</h3>
    <Scrolled class="overflow-x-auto" label={axis.title}>
      <table class="w-full text-sm" data-testid="steps" data-path={axis.path}>
        <thead>
          <tr class="text-left text-ink2">
            <th scope="col" class="font-normal">{axis.title}</th>
            <th scope="col" class="font-normal">Keeps it</th>
            {#each axis.values[0]?.outcomes ?? [] as p (p.name)}<th scope="col" class="text-right font-normal"
                >{p.title}</th
              >{/each}
            <th scope="col" class="pl-4 font-normal">Limit at top speed</th>
            <th scope="col" class="pl-4 font-normal">Limit on the hill</th>
          </tr>
        </thead>
        <tbody>
          {#each axis.values as v, i (v.number)}
            <tr
              class={['border-t border-line', v.here && 'bg-sand/40 font-semibold', !v.fits && 'text-ink2']}
            >
              <th scope="row" class="max-w-[16rem] py-[3px] text-left font-[inherit]">
                {#if v.here || !v.fits}{v.label}{:else}<button
                    class="link text-left"
                    onclick={() => explorer.lookInto(v.number)}>{v.label}</button
                  >{/if}
              </th>
              <td class="whitespace-nowrap">
                {#if v.fits}
                  <span class="inline-block h-[10px] w-[60px] bg-line align-middle"
                    ><span
                      class={['block h-full', TONE[v.likelihood]]}
                      style:width={`${Math.round(v.chance * 100)}%`}
                    ></span></span
                  >
                  {v.in_short}
                {:else}does not fit{/if}
              </td>
              {#each v.outcomes as p (p.name)}<td class="tabular text-right whitespace-nowrap">{say(p)}</td
                >{/each}
              <td class={['pl-4', takesOver(axis.values, i, 'speed') && 'border-t-2 border-unsure']}
                >{outcome(v, 'speed').limit ?? ''}</td
              >
              <td class={['pl-4', takesOver(axis.values, i, 'hill') && 'border-t-2 border-unsure']}
                >{outcome(v, 'hill').limit ?? ''}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </Scrolled>
  {/each}
  {#if looked.real.length}
    <h3 class="mt-4 text-base">The nearest real parts</h3>
    <ul class="m-0 list-none p-0 text-sm" data-testid="real-parts">
      {#each looked.real as part (part.path + part.name)}
        <li class="flex flex-wrap items-center gap-x-4 border-t border-line">
          <span class="min-w-[15rem]"
            >{part.name}<span class="text-ink2">{part.maker ? `, ${part.maker}` : ''}</span></span
          >
          <span>{part.in_short} likely</span>
          <span class="tabular text-ink2">{part.outcomes.map(say).join(' · ')}</span>
          <button class="link ml-auto min-h-[44px]" onclick={() => lay(part.parts)}
            >Use this board with this part</button
          >
        </li>
      {/each}
    </ul>
  {/if}
</section>
