<!-- What the second and further controllers have otherwise, where two of one board are not set alike. -->
<script lang="ts">
  import type { BuildFile } from '$lib/api/client';
  import Figure from '$lib/ui/Figure.svelte';
  import { figureSpec } from '$lib/units';
  import type { SheetPiece } from './sheet.svelte';

  interface Props {
    piece: SheetPiece;
    controllers: number;
    apart: NonNullable<BuildFile['settings_apart']>;
  }
  let { piece, controllers, apart = $bindable() }: Props = $props();
  const keys = $derived((piece.sheet?.lines ?? []).map((l) => l.field));

  function set(unit: number, key: string, value: unknown): void {
    const rows = Array.from({ length: controllers - 1 }, (_, i) => ({ ...apart[i] })) as Record<
      string,
      unknown
    >[];
    if (value === undefined) delete rows[unit]![key];
    else rows[unit]![key] = value;
    apart = rows as typeof apart;
  }
  const rowsOf = (unit: number) => Object.entries((apart[unit] ?? {}) as Record<string, unknown>);
</script>

{#each Array.from({ length: controllers - 1 }, (_, i) => i) as unit (unit)}
  <div class="mt-2 flex flex-wrap items-end gap-3 text-[13.5px]" data-testid="apart">
    <label class="text-xs text-ink2"
      >Controller {unit + 2} has otherwise<select
        class="entry block w-auto text-sm text-ink"
        value=""
        onchange={(e) => {
          const key = e.currentTarget.value;
          e.currentTarget.value = '';
          if (key) set(unit, key, piece.value(`settings.${key}`) ?? null);
        }}
        ><option value="">nothing more</option
        >{#each keys.filter((k) => !rowsOf(unit).some(([r]) => r === k)) as key (key)}<option value={key}
            >{figureSpec(`settings.${key}`).title}</option
          >{/each}</select
      ></label
    >
    {#each rowsOf(unit) as [key, value] (key)}
      <div class="flex items-end gap-1">
        <div class="w-36">
          <Figure path={`settings_apart.${unit}.${key}`} {value} onchange={(v) => set(unit, key, v)} />
        </div>
        <button
          type="button"
          class="px-1 pb-1.5 text-ink2"
          aria-label={`${figureSpec(`settings.${key}`).title} of controller ${unit + 2} as in the first`}
          onclick={() => set(unit, key, undefined)}>✕</button
        >
      </div>
    {/each}
  </div>
{/each}
