<!-- One part of the library: what it states, what the model assumes for the rest, and where the figures came from. -->
<script lang="ts">
  import { onDestroy, untrack } from 'svelte';
  import Button from '$lib/ui/Button.svelte';
  import { reader } from '$lib/reader.svelte';
  import { api, faultsOf } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import { figureSpec, valueText, written } from '$lib/units';
  import { valueAt } from '$lib/paths';
  import { OpenPart } from './part.svelte';
  import { figurePath, figureKeys, kindName } from '$lib/parts';

  interface Props {
    id: string;
    /** A figure of it changed. */
    onaltered: () => void;
    /** It is another part now, or none. */
    onchosen: (id: string | null) => void;
  }
  let { id, onaltered, onchosen }: Props = $props();

  // Another part is another panel.
  const open = untrack(
    () =>
      new OpenPart(
        id,
        (part) => Object.values(figureKeys(part.kind)).flat(),
        () => onaltered(),
      ),
  );
  onDestroy(() => open.close());
  const part = $derived(open.part);

  async function duplicate(): Promise<void> {
    const { data, error } = await api
      .POST('/api/parts/{id}/duplicate', { params: { path: { id } } })
      .catch(() => ({ data: undefined, error: { message: 'The server cannot be reached.' } }));
    if (data) {
      onchosen(data.id);
      notices.say(`“${data.record.name}” was copied to your library.`);
    } else notices.say(faultsOf(error).message);
  }

  async function takeOut(): Promise<void> {
    const path = { params: { path: { id } } };
    const name = part?.record.name;
    const answer = await api.DELETE('/api/parts/{id}', path).catch(() => null);
    if (!answer?.response.ok) return notices.say('The server cannot be reached; nothing was changed.');
    onchosen(null);
    notices.say(`“${name}” was deleted from your library.`, {
      label: 'Undo',
      run: () =>
        void api.POST('/api/parts/{id}/restore', path).then(({ data, error }) => {
          if (data) onchosen(data.id);
          else notices.say(faultsOf(error).message);
        }),
    });
  }

  const assumed = $derived(Object.fromEntries((part?.missing ?? []).map((m) => [m.key, m])));
  const keys = $derived(part ? figureKeys(part.kind) : { figures: [], bought: [] });
  const stated = $derived(keys.figures.filter((k) => valueAt(part?.record, k) != null));
  const lacking = $derived(keys.figures.filter((k) => assumed[k]));
  const brings = $derived(
    Object.entries((part?.record.contents ?? {}) as Record<string, { name?: string }>).map(
      ([kind, one]) => [kind, one.name ?? 'without a name'] as const,
    ),
  );
  const estimate = (key: string) => {
    const m = assumed[key];
    return m?.value != null && m.rule ? { value: m.value, rule: m.rule } : undefined;
  };
</script>

{#if part}
  {@const record = part.record as Record<string, unknown>}
  <section aria-label={`${record.name}`} data-testid="part-panel">
    <div class="flex flex-wrap items-baseline gap-x-3">
      <h2 class="min-w-0 text-base">{record.name}</h2>
      <span class="remark text-sm">{kindName(part.kind)}, {part.own ? 'yours' : 'shared'}</span>
    </div>
    <div class="mt-1 mb-2 flex flex-wrap gap-2">
      {#if part.own}
        <Button disabled={!open.history.canUndo} onclick={() => void open.undo()}>undo</Button>
        <Button onclick={duplicate}>Duplicate</Button>
        <Button onclick={takeOut}>Delete</Button>
      {:else}
        <Button main onclick={duplicate}>Duplicate to change it</Button>
      {/if}
    </div>
    {#if open.message}<p class="mb-2 text-sm text-short" role="alert">{open.message}</p>{/if}
    {#if part.own}
      {@render form(keys.bought)}
      <h3 class="mt-3 mb-1 border-t border-line pt-2 text-sm">Figures</h3>
      {@render form(keys.figures)}
    {:else}
      <dl class="m-0 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-sm">
        {#each [...keys.bought.filter((k) => record[k] != null && k !== 'name' && k !== 'currency'), ...stated] as key (key)}
          {@const path = figurePath(part.kind, key)}
          <dt class="text-ink2">{figureSpec(path).title}</dt>
          <dd class="m-0">
            {valueText(path, valueAt(record, key), reader.units, record.currency as string)}
          </dd>
        {/each}
      </dl>
    {/if}
    {#if brings.length}
      <h3 class="mt-3 mb-1 border-t border-line pt-2 text-sm">What it contains</h3>
      <ul class="m-0 list-none p-0 text-sm" data-testid="brings">
        {#each brings as [kind, name] (kind)}<li>
            <span class="text-ink2">{kindName(kind)}:</span>
            {name}
          </li>{/each}
      </ul>
    {/if}
    {#if lacking.length}
      <h3 class="mt-3 mb-1 border-t border-line pt-2 text-sm">Not stated: what the model assumes</h3>
      <dl class="m-0 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-sm" data-testid="assumed">
        {#each lacking as key (key)}
          {@const path = figurePath(part.kind, key)}
          {@const guess = estimate(key)}
          <dt class="text-ink2">{figureSpec(path).title}</dt>
          <dd class="m-0">
            {#if guess}≈ {written(
                Number(guess.value.toPrecision(3)),
                figureSpec(path).quantity ?? 'count',
                reader.units,
              )}
              <span class="remark">from {guess.rule}</span>
            {:else if assumed[key]?.needed}<span class="text-short">needed: no prediction without it</span>
            {:else}<span class="remark">does without it</span>{/if}
          </dd>
        {/each}
      </dl>
    {/if}
  </section>
{:else if open.failed}
  <p class="text-short" role="alert">This part cannot be loaded at the moment.</p>
{:else}
  <p class="remark">Loading…</p>
{/if}

{#snippet form(of: string[])}
  <div class="grid grid-cols-2 gap-x-3 gap-y-2">
    {#each of as key (key)}
      {@const path = figurePath(part!.kind, key)}
      <div class:col-span-full={key === 'name' || key === 'notes' || key === 'source'}>
        <Figure
          {path}
          value={open.value(key)}
          currency={(part!.record as Record<string, unknown>).currency as string}
          fault={open.faults[key]}
          estimate={estimate(key)}
          onchange={(v) => open.set(key, v)}
        />
      </div>
    {/each}
  </div>
{/snippet}
