<!-- The explorer: every board of what is left open, against what is wished for. -->
<script lang="ts">
  import { getBuildContext } from '$lib/build/build.svelte';
  import { messageText, reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { formatMessage, written } from '$lib/units';
  import Beside from './Beside.svelte';
  import BoardCard from './BoardCard.svelte';
  import CloudPlot from './CloudPlot.svelte';
  import LookedInto from './LookedInto.svelte';
  import OpenList from './OpenList.svelte';
  import WishRuler from './WishRuler.svelte';
  import { Explorer } from './explore.svelte';
  import { OUTCOME_TITLES as TITLES } from '$lib/api/tables.gen';

  const build = getBuildContext();
  const explorer = new Explorer(build);
  $effect(() => {
    void explorer.begin();
    return () => explorer.close();
  });
  const found = $derived(explorer.explored);
  const money = $derived(build.file.currency);
  const picked = $derived(
    (found?.picks ?? []).flatMap((p) => {
      const board = found?.front.find((b) => b.number === p.number);
      return board ? [{ ...p, board }] : [];
    }),
  );
  const further = $derived(
    Object.entries(explorer.faults).filter(([field]) => !/^open\.numbers\.\d+\./.test(field)),
  );
  const nothing = $derived(!(explorer.open.kinds?.length || explorer.open.numbers?.length));
  let bottom = $state<HTMLElement>();
  async function lookInto(number: number): Promise<void> {
    await explorer.lookInto(number);
    bottom?.scrollIntoView({ block: 'start', behavior: 'instant' });
  }
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-3 sm:px-6">
  <div class="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
    <h1 class="text-xl">Explore designs</h1>
    <p class="remark text-sm">
      Choose what may change; every combination in the library is compared with your targets.
    </p>
  </div>
  <div class="grid grid-cols-1 gap-x-8 gap-y-4 lg:grid-cols-[230px_minmax(0,1fr)_250px]">
    <div class="order-1">
      <div class="mb-2 flex flex-wrap gap-2">
        {#if explorer.running}
          <Button onclick={() => explorer.stop()}>Stop</Button>
        {:else}
          <Button main disabled={nothing || !explorer.may} onclick={() => explorer.run()}>Search</Button>
        {/if}
      </div>
      {#if nothing && explorer.may}<p class="mt-1 text-sm text-ink2">
          Choose something that may change first.
        </p>{/if}
      {#if explorer.refused}
        <div class="mt-2 text-sm text-short" role="alert">
          {#if further.length}{#each further as [field, reason] (field)}<p class="first-letter:uppercase">
                {reason}.
              </p>{/each}
          {:else if Object.keys(explorer.faults).length}Nothing was searched: correct the marked fields below.
          {:else}{explorer.refused}{/if}
        </div>
      {/if}
      <OpenList {explorer} />
    </div>
    <div class="order-2 min-w-0">
      {#if explorer.running && (found?.progress ?? 1) < 1}
        <progress class="h-[6px] w-full" value={found?.progress ?? 0} aria-label="Boards tried"></progress>
      {:else if explorer.running && !found}
        <p class="remark" role="status">Searching…</p>
      {/if}
      {#if found}
        <p class="mb-2 text-base" data-testid="says" role="status">
          {formatMessage(found.says, reader.units, money)}
        </p>
        {#if found.completed}
          <p class="mb-1 text-sm text-ink2" data-testid="completed">{messageText(found.completed)}</p>
        {/if}
        {#if found.chosen_from}
          <p class="mb-1 text-sm text-ink2" data-testid="chosen-from">
            A random sample of {found.of.toLocaleString('en')} combinations. Fix a part or narrow a range, and all
            of them are compared.
          </p>
        {/if}
        {#if found.give_up.length > 1}
          <ul class="mb-2 list-none p-0 text-sm" data-testid="give-up">
            {#each found.give_up as g (g.name)}
              <li>
                Or {TITLES[g.name].toLowerCase()}
                <b>{written(g.attainable, g.quantity, reader.units, money)}</b> instead of {written(
                  g.wanted,
                  g.quantity,
                  reader.units,
                  money,
                )}, all other targets as they are.
                <button class="link min-h-[28px]" onclick={() => explorer.pull(g.name, g.attainable)}
                  >Use that target</button
                >
              </li>
            {/each}
          </ul>
        {/if}
        {#each found.lacks as l, i (i)}<p class="mb-1 text-sm text-ink2">
            {formatMessage(l, reader.units, money)}
          </p>{/each}
        {#if found.looked_at}
          <CloudPlot
            explored={found}
            wishes={explorer.wishes}
            currency={money}
            chosen={explorer.looked?.board.number}
            onpick={lookInto}
            onaxes={(across, up) => explorer.show(across, up)}
          />
        {/if}
        {#if found.left_out.length}
          <details class="mt-1 text-sm">
            <summary class="min-h-[32px] cursor-pointer text-ink2"
              >{found.left_out.reduce((n, l) => n + l.boards, 0).toLocaleString('en')} more do not fit together</summary
            >
            <ul class="m-0 list-none p-0">
              {#each found.left_out as l (l.why.text)}<li>
                  {l.boards.toLocaleString('en')}: {formatMessage(l.why, reader.units).toLowerCase()}
                </li>{/each}
            </ul>
          </details>
        {/if}
        {#if picked.length}
          <section class="mt-4" aria-label="To look at">
            <div class="grid gap-x-5 gap-y-6 sm:grid-cols-3">
              {#each picked as p (p.number)}
                <BoardCard
                  board={p.board}
                  title={p.title}
                  currency={money}
                  pinned={explorer.isPinned(p.number)}
                  onlook={() => lookInto(p.number)}
                  onpin={() => explorer.pin(p.board)}
                />
              {/each}
            </div>
          </section>
        {/if}
      {:else if !explorer.running}
        <p class="max-w-[34rem] text-base">
          Choose on the left which parts may change and within which limits, then search. Everything else
          stays as it is. With targets in your brief, the search starts by itself.
        </p>
      {/if}
    </div>
    <div class="order-3">
      <h2 class="border-b border-ink text-base font-semibold">Targets</h2>
      {#if found}
        {#each found.spreads as s (s.name)}
          <WishRuler
            spread={s}
            title={TITLES[s.name]}
            wanted={explorer.wishes[s.name]}
            currency={money}
            onpull={(v) => explorer.pull(s.name, v)}
          />
        {/each}
        {#if explorer.pulled}
          <div class="mt-2 flex flex-wrap gap-2">
            <Button onclick={() => explorer.intoBrief()}>Save to the brief</Button>
            <Button onclick={() => explorer.asBriefed()}>As in the brief</Button>
          </div>
        {/if}
      {:else}
        <ul class="m-0 list-none p-0">
          {#each Object.entries(explorer.wishes) as [w, v] (w)}
            <li class="flex justify-between border-b border-line py-1">
              <span>{TITLES[w as 'speed']}</span><b
                >{v == null
                  ? 'no target'
                  : written(
                      v,
                      {
                        speed: 'speed',
                        hill: 'grade',
                        range: 'distance',
                        carry: 'body_mass',
                        money: 'money',
                      }[w] ?? 'count',
                      reader.units,
                      money,
                    )}</b
              >
            </li>
          {/each}
        </ul>
        <p class="mt-2 text-sm text-ink2">As in the brief. After a search you can change each here.</p>
      {/if}
    </div>
  </div>
  {#if explorer.pinned.length}<Beside {explorer} />{/if}
  <div bind:this={bottom}>
    {#if explorer.looked}<LookedInto {explorer} looked={explorer.looked} />{/if}
    {#if explorer.looking && !explorer.looked}<p class="remark mt-4" role="status">
        Loading the details…
      </p>{/if}
  </div>
</main>
