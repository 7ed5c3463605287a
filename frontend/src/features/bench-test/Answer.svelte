<!-- One entry of a step: yes or no and a few words as broad buttons for greasy hands, figures with any unit. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { reader } from '$lib/reader.svelte';
  import { figureSpec, plain, valueText } from '$lib/units';
  import type { BenchTest } from './bench-test.svelte';

  interface Props {
    test: BenchTest;
    path: string;
    /** Called after an answer by button. */
    onanswer?: (value: unknown) => void;
  }
  let { test, path, onanswer }: Props = $props();

  const uid = $props.id();
  const spec = $derived(figureSpec(`bench_test.${path}`));
  const value = $derived(test.value(path));
  const options = $derived<[unknown, string][]>(
    spec.yesNo
      ? [
          [true, 'Yes'],
          [false, 'No'],
        ]
      : (spec.choices ?? []).map((c) => [c, plain(c)]),
  );

  const say = (v: unknown) =>
    v === null || v === undefined ? 'nothing' : valueText(`bench_test.${path}`, v, reader.units);

  function answer(picked: unknown): void {
    const next = value === picked ? null : picked;
    test.enter({ [path]: next });
    if (next !== null) onanswer?.(next);
  }
</script>

{#if options.length}
  <div
    role="group"
    aria-labelledby={uid}
    data-answer={path}
    class="col-span-full flex flex-wrap items-center gap-x-3 gap-y-1"
  >
    <span id={uid} class="min-w-40 text-base"
      >{spec.title}
      {#if spec.about}<span class="remark text-sm">({spec.about})</span>{/if}</span
    >
    <span class="flex flex-wrap gap-2">
      {#each options as [option, label] (label)}
        <Button
          aria-pressed={value === option}
          onclick={() => answer(option)}
          class={[
            'min-h-11 min-w-20 sm:min-h-[34px]',
            value === option && option !== false && 'border-holds bg-holds-wash font-semibold',
            value === option && option === false && 'border-short bg-short-wash font-semibold',
          ]}
          >{#if value === option}<span aria-hidden="true">{option === false ? '✕' : '✓'}</span>{/if}
          {label}</Button
        >
      {/each}
    </span>
    {#if test.faults[path]}<p class="text-xs text-short" role="alert">{test.faults[path]}</p>{/if}
    {@render clash()}
  </div>
{:else}
  <div class="max-sm:[&_.entry]:min-h-11" data-answer={path}>
    <Figure
      path={`bench_test.${path}`}
      {value}
      fault={test.faults[path]}
      onchange={(v) => test.enter({ [path]: v })}
    />
    {@render clash()}
  </div>
{/if}

{#snippet clash()}
  {@const two = test.clashes[path]}
  {#if two}
    <p class="mt-1 text-sm text-unsure" role="alert" data-testid="clash">
      On another device {say(two.theirs)} here meanwhile; you {say(two.mine)}.
      <button class="link" onclick={() => test.settle(path, true)}>Keep mine</button>
      <button class="link" onclick={() => test.settle(path, false)}>Use the other</button>
    </p>
  {/if}
{/snippet}
