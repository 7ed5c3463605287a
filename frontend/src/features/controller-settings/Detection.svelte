<script lang="ts" module>
  import type { Finding } from '$lib/api/client';

  /** Findings of the detection stand in its own section. */
  const OF_DETECTION: Finding['kind'][] = [
    'detected-halls',
    'detected-kv',
    'detected-resistance',
    'detected-to-take',
    'detected-turned',
    'motors-unalike',
  ];
  export const isOfDetection = (finding: Finding) => OF_DETECTION.includes(finding.kind);
</script>

<!-- What the controller found out about each motor on the stand, against what was stated, and taken as measured. -->
<script lang="ts">
  import FindingItem from '$lib/ui/FindingItem.svelte';
  import Button from '$lib/ui/Button.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import type { ControllerLink } from '$lib/controller/controller.svelte';
  import type { ControllerSettingsPage } from './controller-settings.svelte';

  let { piece, link }: { piece: ControllerSettingsPage; link?: ControllerLink } = $props();
  const motors = $derived(piece.build.file.parts?.motors?.count ?? 1);
  const KEYS = ['resistance_mohm', 'inductance_uh', 'flux_linkage_mwb', 'on'];
  const found = $derived((piece.recommended?.findings ?? []).filter(isOfDetection));

  /** One row a motor; the rows before it are there first, as a list has no holes. */
  function set(i: number, key: string, value: unknown): void {
    const rows = Array.from({ length: Math.max(motors, piece.build.file.detected?.length ?? 0) }, (_, k) => ({
      ...piece.build.file.detected?.[k],
    }));
    const row = rows[i] as Record<string, unknown>;
    if (value === null) delete row[key];
    else row[key] = value;
    piece.build.set('detected', rows.some((r) => Object.keys(r).length) ? rows : null);
  }
</script>

{#if piece.build.file.parts?.motors}
  <section class="mt-6" aria-labelledby="detection" data-testid="detection">
    <div class="flex flex-wrap items-baseline gap-x-3 border-b border-ink pb-1">
      <h2 class="text-base" id="detection">Motor detection</h2>
      <span class="remark text-sm"
        >What the controller detects with the wheels in the air. It narrows the prediction.</span
      >
      {#if link?.seen?.programmable}
        <Button disabled={link.busy} onclick={() => link.send('detect')} class="ml-auto"
          >{link.busy && link.command?.kind === 'detect' ? 'Detecting…' : 'Let the controller detect'}</Button
        >
      {/if}
    </div>
    {#each Array.from({ length: motors }, (_, i) => i) as i (i)}
      <div
        class="mt-2 grid grid-cols-2 items-end gap-x-4 gap-y-2 sm:grid-cols-[5rem_repeat(4,minmax(0,1fr))]"
      >
        <p class="col-span-2 text-sm font-semibold sm:col-span-1 sm:pb-1.5">Motor {i + 1}</p>
        {#each KEYS as key (key)}
          <Figure
            path={`detected.${i}.${key}`}
            value={piece.build.value(`detected.${i}.${key}`)}
            fault={piece.faults[`detected.${i}.${key}`]}
            onchange={(v) => set(i, key, v)}
          />
        {/each}
        {#if piece.build.file.detected?.[i]?.turned || piece.build.file.detected?.[i]?.halls}
          <p class="col-span-full text-sm text-ink2 sm:col-start-2">
            {#if piece.build.file.detected[i].turned}turned {piece.build.file.detected[i].turned} when told to go
              forward{/if}
            {#if piece.build.file.detected[i].halls}· Hall order {piece.build.file.detected[i].halls.join(
                ' ',
              )}{/if}
          </p>
        {/if}
      </div>
    {/each}
    <div class="mt-2">
      {#each found as f (f.id)}
        <FindingItem
          finding={f}
          testid="detection-finding"
          fixes={f.fixes}
          onfix={(fix) => piece.build.change(fix.changes)}
        />
      {/each}
    </div>
  </section>
{/if}
