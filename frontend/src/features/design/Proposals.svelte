<!-- From the brief to builds: what the library could make of it, and what each gives up. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import Button from '$lib/ui/Button.svelte';
  import { plural } from '$lib/plural';
  import { reader } from '$lib/reader.svelte';
  import { api, type Proposal } from '$lib/api/client';
  import Progress from '$lib/jobs/Progress.svelte';
  import { Job, whyNot } from '$lib/sync/job.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import Gauge from '$lib/ui/Gauge.svelte';
  import { formatMessage } from '$lib/units';
  import { STATIONS } from './stations';
  import type { Design } from './design.svelte';

  let { design, wanted = $bindable(false) }: { design: Design; wanted?: boolean } = $props();
  $effect(() => {
    if (!wanted) return;
    wanted = false;
    untrack(() => void propose(false));
  });

  let open = $state(false);
  let around = $state(false);
  let makesPacks = $state(false);
  let proposals = $state.raw<Proposal[] | null>(null);
  let trouble = $state('');
  let job = $state.raw<Job | null>(null);

  const kept = $derived(
    STATIONS.flatMap((s) => s.slots)
      .filter((s) => s.kind !== 'cell' && s.kind !== 'extra' && design.build.value(s.field))
      .map((s) => s.name.toLowerCase()),
  );

  async function propose(keeps: boolean): Promise<void> {
    around = keeps;
    await again();
  }

  async function again(): Promise<void> {
    job?.stop();
    open = true;
    proposals = null;
    trouble = '';
    const document = around ? design.build.board : { ...design.build.board, parts: {}, settings: {} };
    const own = (job = new Job('Boards for this brief', () =>
      api.POST('/api/proposals', { body: { document, board: design.build.id, makes_packs: makesPacks } }),
    ));
    const done = await own.run();
    if (own !== job) return;
    const found =
      done && (await api.GET('/api/proposals/{id}', { params: { path: { id: done.id } } }).catch(() => null));
    if (own !== job) return;
    if (found?.data) proposals = found.data;
    else trouble = whyNot(own) || 'The server cannot be reached; your build is kept.';
  }

  function stop(): void {
    job?.stop();
    job = null;
    open = false;
  }

  async function lay(one: Proposal): Promise<void> {
    if (!(await design.lay(one.build))) {
      trouble = 'The server cannot be reached; your build is kept.';
      return;
    }
    open = false;
    notices.say(
      `Your design is now: ${one.title.toLowerCase()}.`,
      { label: 'Undo', run: () => design.build.undo() },
      design.build,
    );
  }

  const partsOf = (one: Proposal) => {
    const parts = (one.build.parts ?? {}) as Record<
      string,
      { name?: string; count?: number; units?: number }
    >;
    return STATIONS.flatMap((s) => s.slots)
      .filter((s) => s.kind !== 'extra' && s.kind !== 'cell' && parts[s.kind]?.name)
      .map((s) => {
        const part = parts[s.kind]!;
        const times = part.count ?? part.units ?? 1;
        return { slot: s.name, name: `${times > 1 ? `${times} × ` : ''}${part.name}` };
      });
  };
</script>

<div class="mb-3 flex flex-wrap items-center gap-x-3 gap-y-2 rounded border border-line bg-sheet px-3 py-2">
  <p class="min-w-0 flex-1 text-sm">
    {#if kept.length}Say what the board is for, and let Sand Pocket propose one around the parts that you
      chose, or a new one.
    {:else}Say what the board is for below, then get whole boards proposed. Or choose part by part.{/if}
  </p>
  {#if kept.length}
    <Button title={`Keeps ${kept.join(', ')}`} onclick={() => void propose(true)}
      >Build around these parts</Button
    >
  {/if}
  <Button main onclick={() => void propose(false)}>Propose boards for this brief</Button>
</div>

<Dialog
  bind:open
  title="Boards for this brief"
  broad
  remark="From the library’s parts, chosen to fit each other. Nothing changes until you use one."
  onclose={stop}
>
  {#if !(around && design.build.value('parts.pack'))}
    <label class="mb-4 flex w-fit items-center gap-2 text-sm">
      <input type="checkbox" bind:checked={makesPacks} onchange={() => void again()} />
      <span>
        Also packs that I make from cells
        <span class="text-ink2">(spot-welding lithium cells: for those who have practice)</span>
      </span>
    </label>
  {/if}
  {#if trouble}
    <p class="py-6 text-short" role="alert">{trouble}</p>
  {:else if !proposals}
    <div class="py-6" role="status">
      <p class="remark">
        {job?.state === 'running'
          ? 'Comparing thousands of boards with your brief: a few seconds.'
          : 'Waiting: other boards are being calculated.'}
      </p>
      {#if job}<div class="mt-3"><Progress {job} /></div>{/if}
      <Button onclick={stop} class="mt-4">Stop</Button>
    </div>
  {:else}
    <div class="grid gap-6 lg:grid-cols-3">
      {#each proposals as one (one.name)}
        <article class="flex min-w-0 flex-col" data-testid="proposal" data-name={one.name}>
          <h3 class="text-lg">{one.title}</h3>
          <div class="mt-2 grid grid-cols-5 gap-2">
            {#each one.outcomes as outcome (outcome.name)}
              <div class="min-w-0">
                <p class="mb-1 text-xs text-ink2">{outcome.title}</p>
                <Gauge
                  {outcome}
                  units={reader.units}
                  currency={design.build.file.currency}
                  compact
                  height={90}
                  width={56}
                />
              </div>
            {/each}
          </div>
          <h4 class="mt-3 text-sm font-semibold">Compared with the others</h4>
          <ul class="m-0 list-none p-0 text-sm">
            {#each one.gives_up ?? [] as said, i (i)}
              <li>{formatMessage(said, reader.units, design.build.file.currency)}</li>
            {:else}<li class="remark">No disadvantage.</li>{/each}
            {#if one.dangers}<li class="text-short">
                {plural(one.dangers, ['# finding to decide on.', '# findings to decide on.'])}
              </li>{/if}
            {#each one.lacks ?? [] as said, i (i)}
              <li class="text-ink2">{formatMessage(said, reader.units, design.build.file.currency)}</li>
            {/each}
          </ul>
          <details class="mt-2 text-sm">
            <summary class="font-semibold">Its parts</summary>
            <dl class="mt-1 grid grid-cols-[auto_1fr] gap-x-3">
              {#each partsOf(one) as part (part.slot)}
                <dt class="text-ink2">{part.slot}</dt>
                <dd class="m-0">{part.name}</dd>
              {/each}
            </dl>
          </details>
          <Button main onclick={() => lay(one)} class="mt-3 self-start"
            >Use this board<span class="sr-only">: {one.title}</span></Button
          >
        </article>
      {:else}
        <p class="remark">The library has nothing to add to this board.</p>
      {/each}
    </div>
  {/if}
</Dialog>
