<!-- A board that begins with a kit: one purchase, several parts. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { NEW_BUILD } from '$lib/api/tables.gen';
  import { api, type BuildFile, type Candidate } from '$lib/api/client';
  import { reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { written } from '$lib/units';

  interface Props {
    busy: boolean;
    begin: (file: BuildFile, to: string) => Promise<boolean>;
  }
  let { busy, begin }: Props = $props();

  let kits = $state.raw<Candidate[] | null>(null);
  let failed = $state(false);
  onMount(async () => {
    const body = { document: NEW_BUILD, kind: 'kit' };
    const answer = await api.POST('/api/candidates', { body }).catch(() => null);
    failed = !answer?.data;
    kits = answer?.data?.candidates ?? [];
  });
  const with_ = (kit: Candidate): BuildFile =>
    ({ ...NEW_BUILD, name: kit.name, parts: { ...kit.parts } }) as BuildFile;
</script>

<p class="remark">The kit has the price; its parts have none. Choose the deck yourself.</p>
{#if failed}
  <p class="py-6 text-short" role="alert">The library cannot be loaded at the moment.</p>
{:else if kits === null}
  <p class="remark py-6">Loading the library…</p>
{:else}
  <ul class="m-0 mt-3 list-none border-t border-line p-0">
    {#each kits as kit (kit.id)}
      <li
        class="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line py-3"
        data-testid="kit"
        data-name={kit.name}
      >
        <div class="min-w-0 flex-1">
          <p class="font-semibold">{kit.name}</p>
          <p class="text-sm text-ink2">
            {[kit.maker, kit.own?.brings?.words].filter(Boolean).join(': ')}
          </p>
        </div>
        {#if kit.price != null}
          <span>{written(kit.price, 'money', reader.units, NEW_BUILD.currency)}</span>
        {/if}
        <Button disabled={busy} onclick={() => void begin(with_(kit), '?at=parts.deck.name')}
          >Start with it</Button
        >
      </li>
    {:else}
      <li class="remark py-6">The library has no kits yet.</li>
    {/each}
  </ul>
{/if}
