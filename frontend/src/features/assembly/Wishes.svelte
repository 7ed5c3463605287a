<!-- What I would change: written down where it is noticed, with what it would do; the list becomes the second version. -->
<script lang="ts">
  import { api, faultsOf, type Schemas } from '$lib/api/client';
  import { changeText } from '$lib/changes';
  import { go as open, addressOf } from '$lib/navigation';
  import { messageText, momentText, reader } from '$lib/reader.svelte';
  import type { StepStatus, Work } from '$lib/steps/work.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { billed, figureSpec, placeOf, valueText } from '$lib/units';

  interface Props {
    work: Work;
    steps: StepStatus[];
    go: (id: string) => void;
    /** The step at which one is. */
    step: string | null;
  }
  let { work, steps, go, step }: Props = $props();
  function nameOf(id: string): string {
    const step = steps.find((s) => s.id === id);
    return step ? messageText(step.title).split(':')[0]! : id;
  }
  let path = $state('');
  let value = $state<unknown>(null);
  let why = $state('');
  let cost = $state('');
  let effect = $state.raw<Schemas['Effect'][] | null>(null);
  let refused = $state('');
  let left = $state.raw<Record<string, boolean>>({});
  const wishes = $derived(work.answer?.wishes ?? []);
  const chosen = $derived(wishes.filter((w) => !left[w.id]));
  const currency = $derived(work.build.file.currency);

  async function look(changed: string, now: unknown): Promise<void> {
    value = now;
    effect = null;
    refused = '';
    if (!changed || now === null) return;
    const { data, error } = await api
      .POST('/api/builds/{id}/assembly/effect', {
        params: { path: { id: work.build.id } },
        body: { changes: { [changed]: now as number } },
      })
      .catch(() => ({
        data: undefined,
        error: {
          message: 'Without the server the effect cannot be predicted; you can save the idea all the same.',
        },
      }));
    if (data) effect = data;
    else {
      const said = faultsOf(error);
      refused = [said.message, ...(said.faults ?? []).map((f) => `${f.reason}.`)].join(' ');
    }
  }
  function keep(event: SubmitEvent): void {
    event.preventDefault();
    const price = Number(cost.replace(',', '.'));
    work.wish(
      step,
      why.trim(),
      path && value !== null ? { [path]: value } : {},
      cost && price >= 0 ? price : undefined,
    );
    path = why = cost = '';
    value = null;
    effect = null;
  }
  async function second(): Promise<void> {
    refused = '';
    const { data, error } = await api
      .POST('/api/builds/{id}/assembly/second', {
        params: { path: { id: work.build.id } },
        body: { wishes: chosen.map((w) => w.id) },
      })
      .catch(() => ({
        data: undefined,
        error: { message: 'The server cannot be reached; nothing was created.' },
      }));
    if (data) open(addressOf(data.id));
    else refused = faultsOf(error).message;
  }
  const named = (p: string) => [placeOf(p), figureSpec(p).title].filter(Boolean).join(': ');
</script>

<div class="grid gap-x-12 gap-y-6 lg:grid-cols-[minmax(0,420px)_minmax(0,1fr)]">
  <form
    class="self-start rounded border border-ink bg-sheet p-3 [&_.entry]:min-h-[44px]"
    onsubmit={keep}
    aria-label="What I would change"
  >
    <h2 class="text-lg">What I would change</h2>
    <p class="remark text-sm">Record it now, before you forget it.</p>
    <Field label="Why" class="mt-2" bind:value={why} maxlength={2000} required />
    <label class="mt-2 block text-xs text-ink2"
      >Which figure (optional)<select
        class="entry min-h-[44px] text-sm text-ink"
        bind:value={path}
        onchange={() => look('', null)}
      >
        <option value="">none, only in words</option>
        {#each work.answer?.to_wish ?? [] as p (p)}<option value={p}>{named(p)}</option>{/each}
      </select></label
    >
    {#if path}
      <div class="mt-2 grid grid-cols-2 items-end gap-3">
        <Figure {path} {value} label="to be" onchange={(v) => look(path, v)} />
        <p class="pb-2 text-sm text-ink2">
          now {valueText(path, work.build.value(path), reader.units)}
        </p>
      </div>
    {/if}
    {#if effect}
      <ul class="m-0 mt-2 flex list-none flex-wrap gap-x-4 p-0" data-testid="effect">
        {#each effect as change (change.name)}
          {@const shown = changeText(change, reader.units)}
          <li>{change.title} <b class={shown.tone}>{shown.text}</b></li>
        {:else}<li class="text-ink2">It changes no outcome.</li>{/each}
      </ul>
    {/if}
    <Field label="What it would cost (optional)" class="mt-2" inputmode="decimal" bind:value={cost} />
    <Button main class="mt-3 min-h-[44px] w-full">Save entry</Button>
  </form>
  <section aria-label="Wishes">
    {#each wishes as wish (wish.id)}
      <div class="flex gap-3 border-b border-line py-2" data-testid="wish">
        {#if Object.keys(wish.changes).length}
          <label class="flex min-h-[44px] items-center"
            ><input
              type="checkbox"
              class="size-5"
              checked={!left[wish.id]}
              onchange={(e) => (left = { ...left, [wish.id]: !e.currentTarget.checked })}
              aria-label={`Include: ${wish.why}`}
            /></label
          >
        {/if}
        <div class="min-w-0 flex-1">
          <p class="text-base">{wish.why}</p>
          <p class="text-sm text-ink2">
            {#each Object.entries(wish.changes) as [p, v] (p)}{named(p)} → {valueText(p, v, reader.units)}.
            {/each}
            {wish.cost != null ? billed(wish.cost, currency) : ''}
            {momentText(wish.at)}{#if wish.step}, <button class="link min-h-6" onclick={() => go(wish.step!)}
                >{nameOf(wish.step)}</button
              >{/if}
          </p>
        </div>
        <button
          class="min-h-[44px] px-2 text-ink2"
          aria-label={`Undo: ${wish.why}`}
          onclick={() => work.takeBack(wish.id)}>✕</button
        >
      </div>
    {:else}
      <p class="remark">No ideas yet. At every step “I would change…” leads here.</p>
    {/each}
    {#if wishes.some((w) => Object.keys(w.changes).length)}
      <Button
        class="mt-3 min-h-[44px]"
        disabled={!chosen.some((w) => Object.keys(w.changes).length)}
        onclick={second}>Make the second version with these changes</Button
      >
      <p class="mt-1 text-sm text-ink2">A new board as a plan; this one does not change.</p>
    {/if}
    {#if refused}<p class="mt-2 text-short" role="alert">{refused}</p>{/if}
  </section>
</div>
