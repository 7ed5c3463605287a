<!-- A task: how far it is through its interval as a bar, when it will be due, how it is done. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import { reader, shortDay } from '$lib/reader.svelte';
  import { figureSpec, parse, formatMessage, written } from '$lib/units';
  import SeenTo from './SeenTo.svelte';
  import type { TaskStatus, MaintenancePage } from './maintenance.svelte';

  let { page, task }: { page: MaintenancePage; task: TaskStatus } = $props();
  let opened = $state(false);
  let asking = $state(false);
  let wrong = $state('');
  const km = (v: number) => written(v, 'distance', reader.units);
  const WORDS = { due: 'due', soon: 'soon', in_time: 'in time' } as const;
  const TONE = { due: 'text-short', soon: 'text-unsure', in_time: 'text-holds' } as const;
  const FILL = { due: 'bg-short', soon: 'bg-unsure', in_time: 'bg-holds' } as const;
  const MARK = { due: '✕', soon: '~', in_time: '✓' } as const;
  const every = $derived(
    [
      task.interval_km ? km(task.interval_km) : '',
      task.interval_days ? plural(task.interval_days, ['# day', '# days']) : '',
    ]
      .filter(Boolean)
      .join(' or '),
  );
  const BY = { usual: 'as is usual', said: 'as you set', learned: 'for this board' } as const;
  const days = $derived(plural(task.since_days, ['# day', '# days']));
  const wet = $derived(task.wet_rides ? `, ${plural(task.wet_rides, ['# wet ride', '# wet rides'])}` : '');
  /** Only what counts for it. */
  const since = $derived(
    [task.interval_km ? km(task.since_km) + wet : '', task.interval_days ? days : '']
      .filter(Boolean)
      .join(', '),
  );

  function set(key: 'km' | 'days', text: string): void {
    const read = parse(text, figureSpec(`maintenance.intervals.*.${key}`), reader.units);
    wrong = 'reason' in read ? read.reason : '';
    if ('value' in read) page.every(task.id, { [key]: read.value });
  }
</script>

<li class="border-b border-line py-2" data-testid="task" data-task={task.id} data-state={task.state}>
  <div
    class="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 sm:grid-cols-[11rem_minmax(0,1fr)_auto]"
  >
    <button
      class="min-h-[44px] text-left font-semibold"
      aria-expanded={opened}
      onclick={() => (opened = !opened)}
      ><span class={TONE[task.state]} aria-hidden="true">{MARK[task.state]}</span>
      {task.title}</button
    >
    <div class="order-3 col-span-2 min-w-0 sm:order-none sm:col-span-1">
      <div class="relative h-[10px] bg-line" aria-hidden="true">
        <div class={['h-full', FILL[task.state]]} style:width={`${Math.min(task.share, 1) * 100}%`}></div>
      </div>
      <p class="text-sm text-ink2">
        <span class={TONE[task.state]}>{WORDS[task.state]}</span>: {since}
        {task.last ? `since ${shortDay(task.last)}` : 'since the first ride'}; every {every}{task.by !==
        'usual'
          ? `, ${BY[task.by]}`
          : ''}{#if task.state !== 'due' && task.due_on}; about {shortDay(task.due_on)}{/if}.
      </p>
    </div>
    <button class="button" onclick={() => (asking = !asking)} aria-label={`Done: ${task.title}`}>Done</button>
  </div>
  {#if asking}<SeenTo {page} {task} onclose={() => (asking = false)} />{/if}
  {#if opened}
    <div class="mt-1 max-w-[46rem] text-sm">
      <p>{task.how} <span class="text-ink2">{task.why}</span></p>
      {#if task.life}<p class="text-ink2">{formatMessage(task.life, reader.units)}</p>{/if}
      {#if task.spare}<p class={task.spare.count ? '' : 'text-unsure'}>
          In stock: {task.spare.count ?? 0} × {task.spare.name}.
        </p>{/if}
      <div class="mt-1 flex flex-wrap items-end gap-3">
        <label class="text-xs text-ink2"
          >Every, {written(0, 'distance', reader.units).split('\u00a0')[1]}<input
            class="entry block w-24 text-sm text-ink"
            inputmode="decimal"
            value={task.by === 'said' && task.interval_km
              ? written(task.interval_km, 'distance', reader.units).split('\u00a0')[0]
              : ''}
            onchange={(e) => set('km', e.currentTarget.value)}
          /></label
        >
        <label class="text-xs text-ink2"
          >Or days<input
            class="entry block w-20 text-sm text-ink"
            inputmode="numeric"
            value={task.by === 'said' ? (task.interval_days ?? '') : ''}
            onchange={(e) => set('days', e.currentTarget.value)}
          /></label
        >
        <button class="link min-h-[44px]" onclick={() => page.every(task.id, { never: true })}
          >Not on this board</button
        >
      </div>
      {#if wrong}<p class="text-short" role="alert">{wrong}</p>{/if}
    </div>
  {/if}
</li>
