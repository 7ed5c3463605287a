<!-- Two windows, one build: both versions side by side and a choice; nothing is overwritten silently. -->
<script lang="ts">
  import { push } from 'svelte-spa-router';
  import Dialog from '$lib/ui/Dialog.svelte';
  import { session } from '$lib/session.svelte';
  import { figureSpec, plain, written } from '$lib/units';
  import type { Bench } from './bench.svelte';
  import { differences } from './paths';

  let { bench }: { bench: Bench } = $props();
  const rows = $derived(bench.theirs ? differences(bench.file, bench.theirs.document) : []);

  function where(path: string): string {
    const names: Record<string, string> = { parts: '', brief: 'Brief', rider: 'Rider', settings: 'Settings' };
    const steps = path.split('.').slice(0, -1);
    return steps
      .map((s) => names[s] ?? plain(s))
      .filter(Boolean)
      .join(', ');
  }
  function shown(path: string, value: unknown): string {
    if (value === null || value === undefined) return '–';
    const spec = figureSpec(path);
    if (typeof value === 'number')
      return written(value, spec.quantity ?? 'count', session.units, bench.file.currency);
    return typeof value === 'boolean' ? (value ? 'yes' : 'no') : plain(String(value));
  }
  async function both(): Promise<void> {
    const copy = await bench.settle('both');
    if (copy) await push(`/bench/${copy}`);
  }
</script>

<Dialog
  open={bench.saving === 'conflict'}
  title="This build was changed elsewhere"
  remark="Another window or device saved it since you opened it here. Both versions are kept until you choose."
  dismissible={false}
  wide
>
  <table class="w-full border-collapse text-[13.5px]">
    <thead>
      <tr class="text-left text-xs text-ink2">
        <th class="border-b border-ink py-1 font-normal">what differs</th>
        <th class="border-b border-ink px-2 py-1 font-normal">here</th>
        <th class="border-b border-ink px-2 py-1 font-normal">elsewhere</th>
      </tr>
    </thead>
    <tbody>
      {#each rows as row (row.path)}
        <tr class="border-b border-line">
          <td class="py-1"
            ><span class="font-semibold">{figureSpec(row.path).title}</span>
            <span class="text-ink2">{where(row.path)}</span></td
          >
          <td class="px-2 py-1">{shown(row.path, row.mine)}</td>
          <td class="px-2 py-1">{shown(row.path, row.theirs)}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#snippet actions()}
    <button class="button" onclick={() => bench.settle('theirs')}>Take the other</button>
    <button class="button" onclick={both}>Keep both, mine as a copy</button>
    <button class="button button-main" onclick={() => bench.settle('mine')}>Keep mine</button>
  {/snippet}
</Dialog>
