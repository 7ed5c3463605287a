<!-- A figure that is measured at a step: broad, with its unit, any unit can be typed; what it is to be stands beneath. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { reader } from '$lib/reader.svelte';
  import { parse, shownUnit, toShown, written } from '$lib/units';

  interface Props {
    check: Schemas['Check'];
    value: number | undefined;
    fault?: string;
    onenter: (value: number | null) => void;
  }
  let { check, value, fault, onenter }: Props = $props();
  const uid = $props.id();
  let typed = $state<string | null>(null);
  let reason = $state('');
  const unit = $derived(shownUnit(check.quantity, reader.units).unit || check.unit);
  const shown = $derived(
    value === undefined ? '' : String(Number(toShown(value, check.quantity, reader.units).toFixed(3))),
  );
  const say = (v: number) => written(v, check.quantity, reader.units);
  const meant = $derived(
    check.plan != null
      ? `planned ${say(check.plan)}`
      : check.low != null && check.high != null
        ? `${say(check.low)} to ${say(check.high)}`
        : check.low != null
          ? `at least ${say(check.low)}`
          : check.high != null
            ? `at most ${say(check.high)}`
            : '',
  );
  const wrong = $derived(reason || fault || '');

  function commit(): void {
    if (typed === null) return;
    const parsed = parse(typed, { title: check.text, quantity: check.quantity }, reader.units);
    if ('reason' in parsed) {
      reason = parsed.reason;
      return;
    }
    reason = '';
    typed = null;
    if ((parsed.value ?? undefined) !== value) onenter(parsed.value);
  }
</script>

<div data-check={check.id}>
  <label for={uid} class="block text-sm text-ink2">{check.text}</label>
  <span class="relative block">
    <input
      id={uid}
      class="entry min-h-[48px] !text-lg text-ink"
      inputmode="decimal"
      autocomplete="off"
      value={typed ?? shown}
      aria-invalid={wrong ? 'true' : undefined}
      aria-describedby={`${uid}-meant`}
      oninput={(e) => {
        typed = e.currentTarget.value;
        reason = '';
      }}
      onblur={commit}
      onkeydown={(e) => e.key === 'Enter' && commit()}
    />
    {#if unit}<span class="pointer-events-none absolute inset-y-0 right-3 flex items-center text-ink2"
        >{unit}</span
      >{/if}
  </span>
  <p
    id={`${uid}-meant`}
    class="text-xs"
    class:text-ink2={!wrong}
    class:text-short={wrong}
    role={wrong ? 'alert' : undefined}
  >
    {wrong || meant || '\u00a0'}
  </p>
</div>
