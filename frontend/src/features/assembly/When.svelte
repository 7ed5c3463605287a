<!-- What can be done today, what on the weekend, and which parcel holds up what. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { addressOf } from '$lib/navigation';
  import { dayText, messageText } from '$lib/reader.svelte';
  import type { StepStatus, Work } from '$lib/steps/work.svelte';
  import { between, lasting } from '$lib/steps/words';

  interface Props {
    work: Work;
    steps: StepStatus[];
    go: (id: string) => void;
  }
  let { work, steps, go }: Props = $props();
  const agenda = $derived(work.report!.agenda);
  const pace = $derived(work.report!.pace);
  const by = $derived(new Map(steps.map((s) => [s.id, s])));
  const shown = $derived([...agenda.today, ...agenda.weekend].flatMap((id) => by.get(id) ?? []));
  const longest = $derived(Math.max(...shown.map((s) => s.expected ?? 0), 1));
  const stillOpen = (ids: string[]) =>
    ids.filter((id) => !['done', 'left_out'].includes(by.get(id)?.state ?? 'done'));
</script>

{#snippet rows(ids: string[])}
  <ol class="m-0 list-none p-0">
    {#each ids as id (id)}
      {@const step = by.get(id)}
      {#if step}
        <li class="border-b border-line">
          <button
            class="flex min-h-[44px] w-full items-center gap-3 text-left hover:bg-sheet"
            onclick={() => go(id)}
          >
            <span class="min-w-0 flex-1">{messageText(step.title)}</span>
            <span
              class="h-2 bg-sand"
              style:width={`${Math.min(90 * ((step.expected ?? 0) / longest), 110)}px`}
              aria-hidden="true"
            ></span>
            <span class="w-16 text-right text-sm text-ink2">{lasting(step.expected ?? 0)}</span>
          </button>
        </li>
      {/if}
    {/each}
  </ol>
{/snippet}

<div class="grid gap-x-12 gap-y-6 lg:grid-cols-2">
  <section aria-labelledby="today" data-testid="today">
    <h2 id="today" class="text-lg">Today, with what is here</h2>
    {#if stillOpen(agenda.today).length}
      <p class="remark">As much as fits into an evening: {between(agenda.today_minutes)}.</p>
      {@render rows(stillOpen(agenda.today))}
    {:else}<p class="remark">Nothing can be started today: see what it waits for.</p>{/if}
  </section>
  <section aria-labelledby="weekend" data-testid="weekend">
    <h2 id="weekend" class="text-lg">On the weekend, from {dayText(agenda.weekend_on)}</h2>
    {#if stillOpen(agenda.weekend).length}
      <p class="remark">Two days, with what will have arrived by then.</p>
      {@render rows(stillOpen(agenda.weekend))}
    {:else}<p class="remark">Nothing more until then.</p>{/if}
  </section>
  <section aria-labelledby="held" data-testid="held">
    <h2 id="held" class="text-lg">What each parcel delays</h2>
    {#each agenda.blocked as b (b.path)}
      <details class="border-b border-line">
        <summary class="flex min-h-[44px] items-center gap-3">
          <span class="min-w-0 flex-1"
            >{b.name}
            <span class={b.state === 'late' || b.state === 'faulty' ? 'text-short' : 'text-ink2'}
              >{b.state.replaceAll('_', ' ')}{b.late_days
                ? `, ${plural(b.late_days, ['# day', '# days'])}`
                : ''}</span
            ></span
          >
          <span class="text-sm text-ink2">{plural(b.steps.length, ['# step', '# steps'])}</span>
        </summary>
        {@render rows(b.steps)}
      </details>
    {:else}<p class="remark">Nothing: everything has arrived.</p>{/each}
    {#if agenda.blocked.length}<a
        class="link inline-flex min-h-[44px] items-center"
        href={addressOf(work.build.id, 'parts-list')}>Open Parts list</a
      >{/if}
  </section>
  <section aria-labelledby="pace">
    <h2 id="pace" class="text-lg">Time left</h2>
    <p class="mt-1 font-serif text-2xl font-semibold" data-testid="rest">{between(work.report!.left)}</p>
    <p class="text-ink2">
      {#if pace.steps}
        {plural(pace.steps, ['From one step', 'From # steps'])} whose minutes you recorded: you need {pace.factor.toFixed(
          2,
        )} times the usual time ({pace.low.toFixed(1)} to {pace.high.toFixed(1)}).
      {:else}
        The range of four in five builders. Record the minutes of a few steps, and it follows your own pace.
      {/if}
    </p>
  </section>
</div>
