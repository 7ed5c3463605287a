<!-- The drawer: spares, how many are there and how many should be. -->
<script lang="ts">
  import { addressOf } from '$lib/navigation';
  import Button from '$lib/ui/Button.svelte';
  import type { MaintenanceReport, MaintenancePage, TaskStatus } from './maintenance.svelte';

  let { page, report }: { page: MaintenancePage; report: MaintenanceReport } = $props();
  let name = $state('');
  let task = $state<TaskStatus['id'] | ''>('');
  const number = (text: string) => Math.min(Math.max(Math.round(Number(text)) || 0, 0), 99);
  function add(event: SubmitEvent): void {
    event.preventDefault();
    if (!name.trim()) return;
    page.addSpare(name.trim().slice(0, 80), task || undefined);
    [name, task] = ['', ''];
  }
</script>

<section aria-labelledby="drawer" data-testid="drawer">
  <h2 class="border-b border-ink text-base" id="drawer">In stock</h2>
  {#each report.spares as s (s.id)}
    <div class="flex flex-wrap items-center gap-x-3 border-b border-line py-1" data-testid="spare">
      <span class="min-w-0 flex-1">{s.name}</span>
      <label class="text-xs text-ink2"
        >there<input
          class="entry ml-1 inline-block w-12 text-sm text-ink"
          inputmode="numeric"
          aria-label={`${s.name}: in stock`}
          value={s.count ?? 0}
          onchange={(e) => page.setSpare(s.id, { count: number(e.currentTarget.value) })}
        /></label
      >
      <label class="text-xs text-ink2"
        >of<input
          class="entry ml-1 inline-block w-12 text-sm text-ink"
          inputmode="numeric"
          aria-label={`${s.name}: wanted in stock`}
          value={s.wanted ?? 0}
          onchange={(e) => page.setSpare(s.id, { wanted: number(e.currentTarget.value) })}
        /></label
      >
      <button
        class="link min-h-[44px] text-sm"
        aria-label={`Remove ${s.name} from the list`}
        onclick={() => page.dropSpare(s.id)}>Remove</button
      >
    </div>
  {:else}
    <p class="py-1 text-sm text-ink2">
      No spares yet. A belt of each length and a set of bearings are missed most.
    </p>
  {/each}
  {#if report.to_buy.length}
    <p class="py-1 text-sm text-unsure">
      {report.to_buy.map((s) => `${(s.wanted ?? 0) - (s.count ?? 0)} × ${s.name}`).join(', ')}: on the
      <a class="link" href={addressOf(page.build.id, 'parts-list')}>parts list</a> to buy.
    </p>
  {/if}
  <form class="flex flex-wrap items-end gap-2 py-2" onsubmit={add}>
    <label class="min-w-0 flex-1 text-xs text-ink2"
      >A spare<input class="entry block w-full text-sm text-ink" bind:value={name} maxlength="80" /></label
    >
    <label class="text-xs text-ink2"
      >for<select class="entry block text-sm text-ink" bind:value={task}>
        <option value="">anything</option>
        {#each report.tasks as t (t.id)}<option value={t.id}>{t.title}</option>{/each}
      </select></label
    >
    <Button type="submit" disabled={!name.trim()}>Add spare</Button>
  </form>
</section>
