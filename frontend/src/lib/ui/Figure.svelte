<!-- A figure of the build with its unit: takes any unit typed into it, and says beside itself what is wrong. -->
<script lang="ts">
  import { currencySign, figureSpec, parse, plain, shownUnit, toShown } from '$lib/units';
  import { reader, today } from '$lib/reader.svelte';
  import Term from './Term.svelte';

  interface Props {
    path: string;
    value: unknown;
    onchange: (value: unknown) => void;
    fault?: string;
    currency?: string | null;
    /** What the model takes it to be while it is not stated, and by which rule. */
    estimate?: { value: number; rule: string };
    /** What stands above the field instead of its title, where the title stands beside it. */
    label?: string;
    /** How it was measured, where a mark can be set beside it; null where it was not. */
    measured?: { by?: string | null; day?: string | null } | null;
    onmeasured?: (mark: { by?: string; day?: string } | null) => void;
    /** Reads an entry that is no figure of this field alone, such as 10S4P; answers why it cannot be read, or null. */
    onnotation?: (text: string) => Promise<string | null>;
  }
  let { path, value, onchange, fault, currency, estimate, label, measured, onmeasured, onnotation }: Props =
    $props();

  let telling = $state(false);
  const markable = $derived(onmeasured !== undefined && typeof value === 'number');

  const uid = $props.id();
  const spec = $derived(figureSpec(path));
  const quantity = $derived(spec.quantity ?? 'count');
  const unit = $derived(
    quantity === 'money' ? currencySign(currency) : shownUnit(quantity, reader.units).unit,
  );

  function asText(kept: unknown): string {
    if (kept === null || kept === undefined) return '';
    if (typeof kept !== 'number') return String(kept);
    return String(Number(toShown(kept, quantity, reader.units).toFixed(4)));
  }

  /** What the label has no room for: in words beneath the entry while one is in it, by touch and by keyboard alike. */
  const hint = $derived(
    [
      spec.about,
      estimate && (value === null || value === undefined) ? `not stated; taken from ${estimate.rule}` : '',
    ]
      .filter(Boolean)
      .join('; '),
  );
  let here = $state(false);

  // What is being typed; null when the field shows what the build holds.
  let typed = $state<string | null>(null);
  let reason = $state('');
  const text = $derived(typed ?? asText(value));
  const wrong = $derived(reason || fault || '');

  function commit(): void {
    if (typed === null) return;
    if (spec.quantity === undefined) {
      const words = typed.trim();
      if (spec.longest && words.length > spec.longest) {
        reason = `At most ${spec.longest} characters; these are ${words.length}.`;
        return;
      }
      reason = '';
      typed = null;
      onchange(words || null);
      return;
    }
    const parsed = parse(typed, spec, reader.units);
    if ('reason' in parsed) {
      reason = parsed.reason; // what was typed stays, to be mended
      if (onnotation && /\d\s*[a-z]/i.test(typed)) void readNotation(typed);
      return;
    }
    reason = '';
    typed = null;
    onchange(parsed.value);
  }

  async function readNotation(text: string): Promise<void> {
    const refusal = await onnotation!(text);
    if (typed !== text) return;
    if (refusal === null) typed = null;
    reason = refusal ?? '';
  }

  function onkeydown(event: KeyboardEvent): void {
    if (event.key === 'Enter') commit();
    else if (event.key === 'Escape' && typed !== null) {
      typed = null;
      reason = '';
      event.stopPropagation();
    } else if (
      (event.key === 'ArrowUp' || event.key === 'ArrowDown') &&
      typeof value === 'number' &&
      typed === null
    ) {
      event.preventDefault();
      const step = (event.shiftKey ? 10 : 1) * (event.key === 'ArrowUp' ? 1 : -1);
      typed = String(Number((toShown(value, quantity, reader.units) + step).toFixed(4)));
      commit();
    }
  }
</script>

<div
  class="relative min-w-0"
  data-path={path}
  onfocusin={(e) => (here = e.target instanceof Element && e.target.id === uid)}
  onfocusout={() => (here = false)}
>
  {#if spec.term && !label}<Term slug={spec.term} class="block max-w-full truncate text-xs text-ink2"
      >{spec.title}</Term
    >{/if}
  <label for={uid} class={spec.term && !label ? 'sr-only' : 'block truncate text-xs text-ink2'}
    >{#if label}<span aria-hidden="true">{label}</span><span class="sr-only">{spec.title}, {label}</span
      >{:else}{spec.title}{/if}</label
  >
  {#if spec.choices || spec.yesNo}
    {@const options = spec.choices ?? ['yes', 'no']}
    <select
      id={uid}
      class="entry"
      aria-invalid={wrong ? 'true' : undefined}
      aria-describedby={wrong ? `${uid}-wrong` : here && hint ? `${uid}-hint` : undefined}
      value={value === null || value === undefined ? '' : spec.yesNo ? (value ? 'yes' : 'no') : String(value)}
      onchange={(e) => {
        const picked = e.currentTarget.value;
        onchange(picked === '' ? null : spec.yesNo ? picked === 'yes' : picked);
      }}
    >
      <option value="">not stated</option>
      {#each options as option (option)}<option value={String(option)}>{plain(option)}</option>{/each}
    </select>
  {:else if spec.day}
    <input
      id={uid}
      class="entry"
      type="date"
      {value}
      aria-invalid={wrong ? 'true' : undefined}
      aria-describedby={wrong ? `${uid}-wrong` : here && hint ? `${uid}-hint` : undefined}
      onchange={(e) => onchange(e.currentTarget.value || null)}
    />
  {:else}
    <div class="relative">
      <input
        id={uid}
        class="entry"
        style:padding-right={unit ? `${unit.length * 0.55 + 1.1}em` : undefined}
        autocomplete="off"
        placeholder={estimate
          ? `≈ ${Number(toShown(estimate.value, quantity, reader.units).toPrecision(3))}`
          : ''}
        value={text}
        aria-invalid={wrong ? 'true' : undefined}
        aria-describedby={wrong ? `${uid}-wrong` : here && hint ? `${uid}-hint` : undefined}
        oninput={(e) => {
          typed = e.currentTarget.value;
          reason = '';
        }}
        onblur={commit}
        {onkeydown}
      />
      {#if unit}
        <span class="pointer-events-none absolute inset-y-0 right-2 flex items-center text-xs text-ink2"
          >{unit}</span
        >
      {/if}
    </div>
  {/if}
  {#if here && hint && !wrong}
    <p
      id={`${uid}-hint`}
      class="pointer-events-none absolute top-full left-0 z-10 min-w-full rounded border border-line bg-sheet px-2 py-1 text-xs text-ink2 shadow-sm"
    >
      <span class="font-semibold">{spec.title}</span>: {hint}
    </p>
  {/if}
  {#if markable && !telling}
    <button
      class="block min-h-[24px] text-xs"
      class:text-ink2={!measured}
      class:text-holds={measured}
      aria-pressed={!!measured}
      aria-label={`${spec.title}: ${measured ? 'measured, alter or take back' : 'mark as measured'}`}
      onclick={() => (telling = true)}
      >{measured ? `✓ measured${measured.by ? `, ${measured.by}` : ''}` : 'measured?'}</button
    >
  {:else if markable}
    <form
      class="mt-1 rounded border border-line bg-sheet p-1.5"
      aria-label={`${spec.title}, measured`}
      onsubmit={(e) => {
        e.preventDefault();
        const told = new FormData(e.currentTarget);
        onmeasured?.({ by: String(told.get('by')) || undefined, day: String(told.get('day')) || undefined });
        telling = false;
      }}
    >
      <label class="block text-xs text-ink2" for={`${uid}-by`}>Measured with</label>
      <input id={`${uid}-by`} name="by" class="entry" maxlength="120" value={measured?.by ?? ''} />
      <label class="block text-xs text-ink2" for={`${uid}-day`}>On</label>
      <input id={`${uid}-day`} name="day" class="entry" type="date" value={measured?.day ?? today()} />
      <div class="mt-1 flex flex-wrap gap-x-3 text-xs">
        <button class="link" type="submit">It is measured</button>
        {#if measured}<button
            class="link"
            type="button"
            onclick={() => {
              onmeasured?.(null);
              telling = false;
            }}>It is not</button
          >{/if}
        <button class="link" type="button" onclick={() => (telling = false)}>Cancel</button>
      </div>
    </form>
  {/if}
  {#if wrong}<p id={`${uid}-wrong`} class="mt-0.5 text-xs text-short" role="alert">{wrong}</p>{/if}
</div>
