<!-- A figure of a ride: takes any unit typed into it, and gives it when the entry is kept. -->
<script lang="ts">
  import Field from '$lib/ui/Field.svelte';
  import { reader } from '$lib/reader.svelte';
  import { figureSpec, plain, shownUnit } from '$lib/units';

  interface Props {
    /** Where it stands in a ride, such as `way.distance_km`. */
    path: string;
    text: string;
    fault?: string;
    label?: string;
    class?: string;
  }
  let { path, text = $bindable(''), fault, label, class: place }: Props = $props();
  const uid = $props.id();
  const spec = $derived(figureSpec(`ride.${path}`));
  const unit = $derived(spec.quantity ? shownUnit(spec.quantity, reader.units).unit : '');
  const title = $derived(`${label ?? spec.title}${unit ? `, ${unit}` : ''}`);
</script>

{#if spec.choices || spec.yesNo}
  <label class={['block text-xs text-ink2', place]} for={uid}
    >{title}<select id={uid} class="entry block text-sm text-ink" bind:value={text}>
      <option value="">not said</option>
      {#each spec.choices ?? ['yes', 'no'] as option (option)}<option value={String(option)}
          >{plain(option)}</option
        >{/each}
    </select></label
  >
{:else}
  <Field
    label={title}
    inputmode={spec.quantity ? 'decimal' : undefined}
    bind:value={text}
    {fault}
    class={place}
  />
{/if}
