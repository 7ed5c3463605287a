<!-- One order with its lines: each line's part, its way here and what it comes to; details and terms on demand. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import type { ListLine, PartsList } from '$lib/api/client';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import Menu from '$lib/ui/Menu.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import { KINDS } from '$lib/api/tables.gen';
  import { kindName } from '$lib/parts';
  import { billed, formatMessage } from '$lib/units';
  import { reader, dayText } from '$lib/reader.svelte';
  import type { Group, PartsListPage, State } from './parts-list.svelte';
  import Way from './Way.svelte';

  interface Props {
    piece: PartsListPage;
    group: Group;
    bill?: NonNullable<PartsList['sums']['orders']>[number];
    currency?: string | null;
  }
  let { piece, group, bill, currency }: Props = $props();

  let terms = $state(false);
  let open = $state<string | null>(null);
  let naming = $state.raw<ListLine | null>(null);
  let newName = $state('');
  let kitted = $state.raw<ListLine | null>(null);
  let kitName = $state('');

  const say = (v: number) => billed(v, currency);
  const order = $derived(
    group.order !== null && group.order >= 0 ? piece.build.file.orders?.[group.order] : undefined,
  );
  const toOrder = $derived(group.lines.filter((l) => l.state === 'to_order'));
  const onTheWay = $derived(group.lines.filter((l) => l.state === 'ordered' || l.state === 'late'));
  const leftOver = $derived(group.id === 'left');
  const names = $derived([
    ...new Set([
      ...(piece.build.file.orders ?? []).map((o) => o.name),
      ...(piece.list?.lines ?? []).flatMap((l) => (l.order ? [l.order] : [])),
    ]),
  ]);
  const summary = $derived.by(() => {
    if (!bill) return '';
    const on = [
      bill.shipping ? `${say(bill.shipping)} shipping` : '',
      bill.duty ? `${say(bill.duty)} duty` : '',
      bill.tax ? `${say(bill.tax)} tax` : '',
    ].filter(Boolean);
    return on.length ? `${say(bill.goods)} and ${on.join(', ')}` : '';
  });
  const days = $derived(
    [
      order?.ordered_on ? `ordered ${dayText(order.ordered_on)}` : '',
      order?.due_on ? `due ${dayText(order.due_on)}` : '',
    ]
      .filter(Boolean)
      .join(', '),
  );

  function move(line: ListLine, name: string): void {
    if (name === '+') {
      newName = '';
      naming = line;
    } else piece.putUnder(line, name || null);
  }
  function nameIt(event: SubmitEvent): void {
    event.preventDefault();
    if (naming && newName.trim()) piece.putUnder(naming, newName.trim());
    naming = null;
  }
  /** What came in a kit is paid with it: the kit stands on the list, the part names it. */
  function intoKit(event: SubmitEvent): void {
    event.preventDefault();
    const name = kitName.trim();
    if (!kitted || !name) return;
    const kits = piece.build.file.parts?.kits ?? [];
    piece.build.change({
      [`${kitted.path}.kit`]: name,
      [`${kitted.path}.price`]: null,
      ...(kits.some((k) => k.name === name) ? {} : { [`parts.kits.${kits.length}`]: { name } }),
    });
    kitted = null;
  }
  function openTerms(): void {
    if (group.name) piece.ensureIndex(group.name);
    terms = true;
  }
  async function takeOff(line: ListLine): Promise<void> {
    if (leftOver) piece.build.set(line.path, null);
    else if (!(await piece.build.takeOff(line.path)))
      notices.say('The server cannot be reached; nothing was changed.');
  }
  const menu = (line: ListLine) => [
    ...(
      [
        ['owned', 'Already owned'],
        ['late', 'Late'],
        ['faulty', 'Here, and faulty'],
        ['replaced', 'Replacement arrived'],
      ] as [State, string][]
    )
      .filter(([state]) => state !== line.state)
      .map(([state, label]) => ({ label, run: () => piece.stand([line], state) })),
    {
      label: open === line.path ? 'Close the details' : 'Price, days, notes',
      run: () => (open = open === line.path ? null : line.path),
    },
    ...(!KINDS[line.kind]?.several && !leftOver
      ? [
          {
            label: 'Came in a kit…',
            run: () => {
              kitName = piece.build.file.parts?.kits?.at(-1)?.name ?? '';
              kitted = line;
            },
          },
        ]
      : []),
    ...(KINDS[line.kind]?.several || leftOver
      ? [{ label: 'Remove from the list', run: () => void takeOff(line), grave: true }]
      : []),
  ];
  const DETAILS = [
    'price',
    'currency',
    'purchase.due_on',
    'purchase.arrived_on',
    'mass_g',
    'maker',
    'source',
    'notes',
  ];
</script>

<section class="mt-4" aria-label={group.title} data-testid="group" data-group={group.id}>
  <div class="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-ink pb-1">
    <h2 class="text-base">{group.title}</h2>
    {#if days}<span class="remark text-sm">{days}</span>{/if}
    <span class="ml-auto flex flex-wrap gap-x-3 text-sm">
      {#if group.name && toOrder.length}
        <button class="link" onclick={() => piece.stand(toOrder, 'ordered')}>All ordered</button>
      {/if}
      {#if group.name && onTheWay.length}
        <button class="link" onclick={() => piece.stand(onTheWay, 'arrived')}>All here</button>
      {/if}
      {#if group.name}<button class="link" onclick={openTerms}>Shipping, duty, tax</button>{/if}
    </span>
  </div>
  <ul class="m-0 list-none p-0">
    {#each group.lines as line (line.path)}
      <li
        class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 border-b border-line py-1 sm:grid-cols-[minmax(0,1fr)_172px_172px_92px_auto]"
        data-testid="list-line"
        data-path={line.path}
        data-state={line.state}
      >
        <div class="min-w-0 sm:order-1">
          <p>
            {#if line.count > 1}<span class="font-semibold">{line.count} ×</span>&nbsp;{/if}{line.name ||
              `${kindName(line.kind)}, not named`}
          </p>
          <p class="text-sm text-ink2">
            {[line.kind === 'extra' ? '' : kindName(line.kind).toLowerCase(), line.maker]
              .filter(Boolean)
              .join(', ')}{line.brings?.length ? `; brings ${line.brings.join(', ').toLowerCase()}` : ''}
          </p>
        </div>
        <div class="text-right sm:order-4">
          {#if line.amount != null}
            <span class="font-semibold">{say(line.amount)}</span>
            {#if line.currency && line.currency !== currency && line.price != null}
              <span class="block text-xs text-ink2"
                >{line.count > 1 ? `${line.count} × ` : ''}{billed(line.price, line.currency)}</span
              >
            {/if}
          {:else if line.lacks}
            <button class="link text-sm" onclick={() => (open = line.path)}
              >{formatMessage(line.lacks, reader.units)}</button
            >
          {/if}
        </div>
        <div class="col-span-full flex items-center gap-2 sm:contents">
          <div class="sm:order-2">
            {#if leftOver}<span class="remark text-sm">spent; still yours?</span>
            {:else}<Way
                name={line.name || line.kind}
                state={line.state}
                lateDays={line.late_days}
                onstand={(s) => piece.stand([line], s)}
              />{/if}
          </div>
          <div class="min-w-0 flex-1 sm:order-3">
            {#if line.state !== 'owned'}
              <select
                class="entry text-sm"
                aria-label={`Where ${line.name || line.kind} is bought`}
                value={line.order ?? ''}
                onchange={(e) => {
                  const picked = e.currentTarget.value;
                  e.currentTarget.value = line.order ?? '';
                  move(line, picked);
                }}
              >
                <option value="">no shop yet</option>
                {#each names as name (name)}<option value={name}>{name}</option>{/each}
                <option value="+">another shop…</option>
              </select>
            {/if}
          </div>
          <div class="sm:order-5">
            <Menu label={`More for ${line.name || line.kind}`} items={menu(line)}
              ><span aria-hidden="true">⋯</span></Menu
            >
          </div>
        </div>
        {#if open === line.path}
          <div class="col-span-full sm:order-6 my-2 grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
            {#if KINDS[line.kind]?.several}
              <Figure
                path={`${line.path}.name`}
                value={piece.build.value(`${line.path}.name`)}
                onchange={(v) => piece.build.set(`${line.path}.name`, v)}
              />
              <Figure
                path={`${line.path}.count`}
                value={piece.build.value(`${line.path}.count`)}
                onchange={(v) => piece.build.set(`${line.path}.count`, v)}
              />
            {/if}
            {#each DETAILS as key (key)}
              <Figure
                path={`${line.path}.${key}`}
                value={piece.build.value(`${line.path}.${key}`)}
                currency={line.currency}
                fault={piece.faults[`${line.path}.${key}`]}
                onchange={(v) => piece.build.set(`${line.path}.${key}`, v)}
              />
            {/each}
            <p class="self-end"><Button onclick={() => (open = null)}>Close</Button></p>
          </div>
        {/if}
      </li>
    {/each}
  </ul>
  {#if bill}
    <p class="flex flex-wrap justify-end gap-x-4 py-1 text-sm">
      <span class="remark">{summary}</span>
      <span class="font-semibold" data-testid="order-total">{say(bill.total)}</span>
      <span class="w-[34px] max-sm:hidden"></span>
    </p>
  {/if}
  {#if order?.notes}<p class="remark text-sm">{order.notes}</p>{/if}
</section>

<Dialog open={naming !== null} title="Another shop" onclose={() => (naming = null)}>
  <form class="flex flex-wrap gap-2" onsubmit={nameIt}>
    <input
      class="entry min-w-0 flex-1"
      aria-label="Name of the shop or order"
      placeholder="name of the shop, or of the order"
      bind:value={newName}
      maxlength="60"
    />
    <Button main>Add</Button>
  </form>
</Dialog>

<Dialog
  open={kitted !== null}
  title="Came in a kit"
  remark="The kit has the price; what came in it needs none of its own."
  onclose={() => (kitted = null)}
>
  <form class="flex flex-wrap gap-2" onsubmit={intoKit}>
    <input
      class="entry min-w-0 flex-1"
      aria-label="Name of the kit"
      placeholder="name of the kit"
      bind:value={kitName}
      maxlength="120"
    />
    <Button main>Part of this kit</Button>
  </form>
</Dialog>

{#if group.order !== null && group.order >= 0}
  {@const at = `orders.${group.order}`}
  <Dialog
    bind:open={terms}
    title={`${group.title}: what comes on top`}
    remark="Shipping is counted once. Duty and tax only where the prices are without them; what is due where you live, the shop or the customs office tells."
  >
    <div class="grid grid-cols-2 gap-x-4 gap-y-2">
      {#each ['shipping', 'currency', 'duty_pct', 'tax_pct', 'ordered_on', 'due_on'] as key (key)}
        <Figure
          path={`${at}.${key}`}
          value={piece.build.value(`${at}.${key}`)}
          currency={(piece.build.value(`${at}.currency`) as string) ?? currency}
          fault={piece.faults[`${at}.${key}`]}
          onchange={(v) => piece.build.set(`${at}.${key}`, v)}
        />
      {/each}
      <div class="col-span-2">
        <Figure
          path={`${at}.name`}
          value={group.name}
          onchange={(v) => typeof v === 'string' && group.name && piece.rename(group.name, v)}
        />
      </div>
      <div class="col-span-2">
        <Figure
          path={`${at}.notes`}
          value={piece.build.value(`${at}.notes`)}
          onchange={(v) => piece.build.set(`${at}.notes`, v)}
        />
      </div>
    </div>
    {#snippet actions()}
      {#if !group.lines.length}
        <Button
          onclick={() => {
            terms = false;
            piece.build.set(at, null);
          }}>Remove the order</Button
        >
      {/if}
      <Button main onclick={() => (terms = false)}>Done</Button>
    {/snippet}
  </Dialog>
{/if}
