<!-- What differs between any two settings records. -->
<script lang="ts">
  import DataTable from '$lib/ui/DataTable.svelte';
  import { api, type Schemas, type SettingsRecord } from '$lib/api/client';
  import { valueText } from '$lib/units';
  import { reader, dayText } from '$lib/reader.svelte';
  import { nameOf } from './naming';

  let { id, records }: { id: string; records: SettingsRecord[] } = $props();
  let one = $state(0);
  let other = $state(0);
  let found = $state.raw<Schemas['Difference'][] | null>(null);
  let failed = $state(false);

  async function look(): Promise<void> {
    found = null;
    failed = false;
    if (!one || !other || one === other) return;
    const { data } = await api
      .GET('/api/builds/{id}/controller-settings/{one}/against/{other}', {
        params: { path: { id, one, other } },
      })
      .catch(() => ({ data: undefined }));
    if (data) found = data;
    else failed = true;
  }
  const text = (path: string, value: unknown) => valueText(path, value, reader.units);
</script>

<div class="flex flex-wrap items-end gap-2">
  <label class="text-xs text-ink2"
    >What differs between<select
      class="entry block w-auto text-sm text-ink"
      aria-label="The first record"
      bind:value={one}
      onchange={look}
      ><option value={0}>a record</option>{#each records as s (s.number)}<option value={s.number}
          >record {s.number}, {dayText(s.on)}</option
        >{/each}</select
    ></label
  >
  <label class="text-xs text-ink2"
    >and<select
      class="entry block w-auto text-sm text-ink"
      aria-label="The other record"
      bind:value={other}
      onchange={look}
      ><option value={0}>another</option>{#each records as s (s.number)}<option value={s.number}
          >record {s.number}, {dayText(s.on)}</option
        >{/each}</select
    ></label
  >
</div>
{#if failed}<p class="text-sm text-short" role="alert">The server cannot be reached.</p>{/if}
{#if found}
  <div data-testid="between" class="mt-1 text-sm">
    {#if found.length}
      <DataTable heads={['Setting', `Record ${one}`, `Record ${other}`]}>
        <tbody>
          {#each found as d (d.path)}
            <tr class="border-b border-line"
              ><th class="py-0.5 text-left font-normal" scope="row">{nameOf(d.path)}</th
              >{#each d.values as v, i (i)}<td class="px-3 py-0.5 font-semibold">{text(d.path, v)}</td
                >{/each}</tr
            >
          {/each}
        </tbody>
      </DataTable>
    {:else}Nothing: both say the same.{/if}
  </div>
{/if}
