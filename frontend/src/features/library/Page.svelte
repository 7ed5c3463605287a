<!-- The library: the shared parts and one's own, what each states and what is assumed for the rest. -->
<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { reader } from '$lib/reader.svelte';
  import { untrack } from 'svelte';
  import { searchParam } from '$lib/navigation';
  import { api, faultsOf, type Schemas } from '$lib/api/client';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Menu from '$lib/ui/Menu.svelte';
  import { written } from '$lib/units';
  import { decidingText, kindName, LIBRARY_KINDS } from '$lib/parts';
  import PartPanel from './PartPanel.svelte';
  import PartsFile from './PartsFile.svelte';

  type Row = Schemas['PartOut'];
  const PAGE = 40;
  const ORDER = LIBRARY_KINDS;

  let page = $state.raw<Schemas['PartsPage'] | null>(null);
  let rows = $state.raw<Row[]>([]);
  let failed = $state(false);
  let kind = $state('motors');
  let find = $state('');
  let own = $state(false);
  let chosen = $state<string | null>(null);
  let adding = $state(false);
  let newKind = $state('motors');
  let newName = $state('');
  let refused = $state('');
  let file = $state<PartsFile>();
  let asked = 0;

  // A link leads to a kind of part, or to one part.
  $effect(() => {
    const wanted = searchParam('kind');
    const part = searchParam('part');
    untrack(() => {
      if (wanted && ORDER.includes(wanted)) {
        kind = wanted;
        chosen = part;
        find = '';
        rows = [];
      }
      void load();
    });
  });

  async function load(further = false): Promise<void> {
    const mine = ++asked;
    const offset = further ? rows.length : 0;
    const query = {
      kind,
      find: find.trim(),
      own,
      offset,
      limit: further ? PAGE : Math.min(Math.max(rows.length, PAGE), 200),
    };
    const answer = await api.GET('/api/parts', { params: { query } }).catch(() => null);
    if (mine !== asked) return;
    failed = !answer?.data;
    if (!answer?.data) return;
    page = answer.data;
    rows = further ? [...rows, ...answer.data.parts] : answer.data.parts;
    // A search that finds nothing of this kind goes to where it finds something.
    const kinds = answer.data.kinds;
    if (!further && !rows.length && find.trim()) {
      const other = ORDER.find((k) => kinds[k]);
      if (other) await show(other);
    }
  }

  async function show(other: string): Promise<void> {
    kind = other;
    rows = [];
    await load();
  }

  let pause: ReturnType<typeof setTimeout> | undefined;
  function search(): void {
    clearTimeout(pause);
    pause = setTimeout(() => {
      rows = [];
      void load();
    }, 200);
  }

  async function changed(id: string | null): Promise<void> {
    chosen = id;
    await load();
  }

  async function add(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    refused = '';
    const { data, error } = await api
      .POST('/api/parts', { body: { kind: newKind, record: { name: newName.trim() } } })
      .catch(() => ({ data: undefined, error: { message: 'The server cannot be reached.' } }));
    if (!data) {
      refused = faultsOf(error).message;
      return;
    }
    adding = false;
    newName = '';
    kind = newKind;
    find = '';
    rows = [];
    await changed(data.id);
  }

  /** On a phone the part stands above the table. */
  function choose(id: string): void {
    chosen = id;
    if (window.matchMedia('(width < 64rem)').matches) window.scrollTo({ top: 0 });
  }

  const fileOf = (form: string, all = false) =>
    (window.location.href = `/api/parts/file?form=${form}&own=${all ? 'false' : 'true'}`);
  const money = (row: Row) => {
    const r = row.record as { price?: number; currency?: string };
    return r.price != null ? written(r.price, 'money', reader.units, r.currency) : '–';
  };
  const mass = (row: Row) => {
    const g = (row.record as { mass_g?: number }).mass_g;
    return g != null ? written(g, 'mass', reader.units) : '–';
  };
</script>

<svelte:head><title>Library – Sand Pocket</title></svelte:head>
<PartsFile bind:this={file} ontaken={() => void load()} />

<main class="mx-auto w-full max-w-[1280px] px-4 py-4 sm:px-6">
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-2">
    <h1 class="text-xl">Library</h1>
    <p class="remark">The shared parts, and your own as you measured or found them.</p>
    <label class="ml-auto flex items-center gap-1.5 text-sm">
      <input
        type="checkbox"
        class="size-4 accent-ink"
        bind:checked={own}
        onchange={() => {
          rows = [];
          void load();
        }}
      />only mine
    </label>
    <Menu
      label="Files"
      items={[
        { label: 'Import parts, CSV or JSON', run: () => file?.pick() },
        { label: 'Export my parts as CSV', run: () => fileOf('csv') },
        { label: 'Export my parts as JSON', run: () => fileOf('json') },
        { label: 'Export all parts as CSV', run: () => fileOf('csv', true) },
      ]}>Files <span aria-hidden="true">▾</span></Menu
    >
    <Button
      main
      onclick={() => {
        newKind = kind;
        adding = true;
      }}>Add a part</Button
    >
    <input
      class="entry w-full sm:w-60"
      type="search"
      aria-label="Find by name or maker"
      placeholder="find by name or maker"
      bind:value={find}
      oninput={search}
    />
  </div>

  <div class="mt-3 grid gap-x-6 gap-y-3 lg:grid-cols-[130px_minmax(0,1fr)_340px]">
    <nav aria-label="Kinds of part" class="flex flex-wrap gap-x-4 gap-y-0.5 lg:block">
      {#each ORDER as k (k)}
        <button
          class="tab flex items-baseline justify-between gap-2 lg:w-full"
          aria-pressed={k === kind}
          onclick={() => show(k)}
          ><span>{kindName(k)}</span><span class="text-xs font-normal text-ink2">{page?.kinds[k] ?? 0}</span
          ></button
        >
      {/each}
    </nav>

    <div class="min-w-0">
      {#if failed}
        <p class="py-6 text-short" role="alert">
          The library cannot be loaded at the moment. <button class="link" onclick={() => load()}
            >Try again</button
          >
        </p>
      {:else if page}
        {#if rows.length}
          <table class="w-full border-collapse text-sm">
            <thead>
              <tr class="text-left text-xs text-ink2">
                <th class="border-b border-ink py-1 font-normal">{kindName(kind).toLowerCase()}</th>
                <th class="border-b border-ink px-2 py-1 font-normal max-sm:hidden">Key figures</th>
                <th class="border-b border-ink px-2 py-1 text-right font-normal">Price</th>
                <th class="border-b border-ink px-2 py-1 text-right font-normal max-sm:hidden">Mass</th>
                <th
                  class="border-b border-ink py-1 pl-2 text-right font-normal"
                  title="figures that are not stated and that the model takes from a rule">Assumed</th
                >
              </tr>
            </thead>
            <tbody>
              {#each rows as row (row.id)}
                {@const record = row.record as { name: string; maker?: string }}
                <tr
                  class="cursor-pointer border-b border-line hover:bg-chosen"
                  class:bg-chosen={row.id === chosen}
                  data-testid="part"
                  data-name={record.name}
                  onclick={() => choose(row.id)}
                >
                  <td class="py-1.5">
                    <button
                      class="text-left hover:underline"
                      aria-pressed={row.id === chosen}
                      onclick={(e) => {
                        e.stopPropagation();
                        choose(row.id);
                      }}>{record.name}</button
                    >
                    {#if row.own}<span class="ml-1 rounded border border-holds px-1 text-xs text-holds"
                        >mine</span
                      >{/if}
                    {#if record.maker}<span class="block text-sm text-ink2">{record.maker}</span>{/if}
                  </td>
                  <td class="px-2 py-1.5 max-sm:hidden">{decidingText(kind, row.record, reader.units)}</td>
                  <td class="px-2 py-1.5 text-right whitespace-nowrap">{money(row)}</td>
                  <td class="px-2 py-1.5 text-right whitespace-nowrap max-sm:hidden">{mass(row)}</td>
                  <td
                    class="py-1.5 pl-2 text-right"
                    class:text-unsure={row.assumed > 0}
                    class:text-short={row.needs > 0}
                    >{row.needs ? `needs ${row.needs}` : row.assumed || '–'}</td
                  >
                </tr>
              {/each}
            </tbody>
          </table>
          {#if rows.length < page.count}
            <p class="py-3">
              <Button onclick={() => load(true)}>Show more: {rows.length} of {page.count} are here</Button>
            </p>
          {/if}
        {:else}
          <p class="py-6 font-serif text-lg text-ink2">
            {find.trim()
              ? `Nothing here is called “${find.trim()}”.`
              : own
                ? `No ${kindName(kind).toLowerCase()} of your own yet.`
                : 'None of this kind yet.'}
          </p>
          <p class="remark">Add one by hand, import a file, or duplicate a shared part and change it.</p>
        {/if}
      {:else}
        <p class="remark py-6">Loading the library…</p>
      {/if}
    </div>

    <aside
      class="min-w-0 max-lg:order-first lg:sticky lg:top-2 lg:max-h-[calc(100dvh-1rem)] lg:self-start lg:overflow-y-auto"
      aria-label="The chosen part"
    >
      {#if chosen}
        {#key chosen}<PartPanel
            id={chosen}
            onaltered={() => void load()}
            onchosen={(id) => void changed(id)}
          />{/key}
        <p class="mt-2 lg:hidden"><Button onclick={() => (chosen = null)}>Close</Button></p>
      {:else}
        <p class="remark max-lg:hidden">
          Choose a part to see its figures, their sources, and what is assumed for the rest.
        </p>
      {/if}
    </aside>
  </div>
</main>

<Dialog
  bind:open={adding}
  title="Add a part"
  remark="A name is enough to begin; every figure can follow, and what is missing is assumed and said so."
>
  <form class="grid gap-3" onsubmit={add}>
    <div>
      <label class="text-xs text-ink2" for="new-kind">Kind</label><select
        id="new-kind"
        class="entry block text-sm text-ink"
        bind:value={newKind}
      >
        {#each ORDER as k (k)}<option value={k}>{kindName(k)}</option>{/each}
      </select>
    </div>
    <Field label="Name" bind:value={newName} maxlength={120} required />
    {#if refused}<p class="text-sm text-short" role="alert">{refused}</p>{/if}
    <div class="flex justify-end gap-2">
      <Button type="button" onclick={() => (adding = false)}>Cancel</Button>
      <Button main>Add it</Button>
    </div>
  </form>
</Dialog>
