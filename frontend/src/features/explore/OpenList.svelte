<!-- What is left open: kinds of part that the library answers, and figures that are free between two ends. -->
<script lang="ts">
  import { shownUnit } from '$lib/units';
  import type { Explorer, OpenKind, OpenNumber } from './explore.svelte';

  let { explorer }: { explorer: Explorer } = $props();
  const kinds = $derived(explorer.open.kinds ?? []);
  const numbers = $derived(explorer.open.numbers ?? []);
  const may = $derived(explorer.may);
  const at = (path: string) => numbers.findIndex((n) => n.path === path);
  const unit = (quantity: string) => shownUnit(quantity, {}).unit;
  const faultOf = (path: string, end: string) => explorer.faults[`open.numbers.${at(path)}.${end}`];
  /** Packs ready made, or cells to make one of. */
  const EITHER: Partial<Record<OpenKind, OpenKind>> = { pack: 'cell', cell: 'pack' };

  function toggleKind(kind: OpenKind): void {
    const without = kinds.filter((k) => k !== kind && k !== EITHER[kind]);
    explorer.leaveOpen({ kinds: kinds.includes(kind) ? without : [...without, kind], numbers });
  }
  function toggleNumber(path: OpenNumber['path']): void {
    const usual = may?.numbers.find((n) => n.path === path);
    if (!usual) return;
    const free = { path, low: usual.low, high: usual.high, step: usual.step ?? undefined } as OpenNumber;
    explorer.leaveOpen({
      kinds,
      numbers: at(path) < 0 ? [...numbers, free] : numbers.filter((n) => n.path !== path),
    });
  }
  function set(path: string, end: 'low' | 'high' | 'step', typed: string): void {
    const value = Number(typed.replace(',', '.'));
    if (!typed.trim() || !Number.isFinite(value)) return;
    explorer.leaveOpen({
      kinds,
      numbers: numbers.map((n) => (n.path === path ? { ...n, [end]: value } : n)),
    });
  }
</script>

<fieldset class="m-0 border-0 p-0">
  <legend class="border-b border-ink text-base font-semibold">What may change</legend>
  {#each may?.kinds ?? [] as kind (kind.kind)}
    <label class="flex min-h-[44px] items-center gap-2 border-b border-line leading-tight">
      <input
        type="checkbox"
        class="size-[18px]"
        checked={kinds.includes(kind.kind)}
        disabled={!kind.parts}
        onchange={() => toggleKind(kind.kind)}
      />
      <span class="min-w-0 flex-1">
        {kind.title}
        <span class="block text-xs text-ink2"
          >{#if kinds.includes(kind.kind)}{kind.parts} of the library{:else if kind.own}stays: {kind.own}{:else if !kind.parts}none
            in the library{:else}not chosen yet{/if}</span
        >
      </span>
    </label>
  {/each}
  {#each may?.numbers ?? [] as number (number.path)}
    {@const free = numbers[at(number.path)]}
    <div class="border-b border-line">
      <label class="flex min-h-[44px] items-center gap-2 leading-tight">
        <input
          type="checkbox"
          class="size-[18px]"
          checked={!!free}
          onchange={() => toggleNumber(number.path as OpenNumber['path'])}
        />
        <span class="min-w-0 flex-1"
          >{number.title}
          <span class="text-xs text-ink2"
            >{#if !free && number.own != null}stays {number.own}{/if}{#if free}any number{/if}</span
          ></span
        >
      </label>
      {#if free}
        <div class="mb-2 ml-[26px] flex flex-wrap items-center gap-x-1 text-sm">
          <input
            class="entry w-14 text-right"
            inputmode="decimal"
            aria-label={`${number.title} from`}
            aria-invalid={faultOf(number.path, 'low') ? 'true' : undefined}
            value={free.low}
            onchange={(e) => set(number.path, 'low', e.currentTarget.value)}
          />
          to
          <input
            class="entry w-14 text-right"
            inputmode="decimal"
            aria-label={`${number.title} to`}
            aria-invalid={faultOf(number.path, 'high') ? 'true' : undefined}
            value={free.high}
            onchange={(e) => set(number.path, 'high', e.currentTarget.value)}
          />
          {unit(number.quantity)} by
          <input
            class="entry w-11 text-right"
            inputmode="decimal"
            aria-label={`${number.title}, step`}
            value={free.step ?? 1}
            onchange={(e) => set(number.path, 'step', e.currentTarget.value)}
          />
        </div>
        {#each ['low', 'high', 'step'] as end (end)}
          {#if faultOf(number.path, end)}
            <p class="mb-1 ml-[26px] text-xs text-short" role="alert">{faultOf(number.path, end)}</p>
          {/if}
        {/each}
      {/if}
    </div>
  {/each}
</fieldset>
