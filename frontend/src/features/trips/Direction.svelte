<!-- One of eight directions, kept in degrees from north. -->
<script lang="ts">
  import { WINDS } from './trips.svelte';

  interface Props {
    label: string;
    value: unknown;
    none: string;
    onchange: (value: number | null) => void;
  }
  let { label, value, none, onchange }: Props = $props();
  const nearest = $derived(typeof value === 'number' ? Math.round(value / 45) % 8 : -1);
</script>

<label class="block text-xs text-ink2"
  >{label}<select
    class="entry block text-sm text-ink"
    value={nearest < 0 ? '' : String(nearest)}
    onchange={(e) => onchange(e.currentTarget.value === '' ? null : Number(e.currentTarget.value) * 45)}
  >
    <option value="">{none}</option>
    {#each WINDS as wind, i (wind)}<option value={String(i)}>{wind}</option>{/each}
  </select></label
>
