<!-- The log: everything that was written down, day by day, to be searched and taken away. -->
<script lang="ts">
  import { api } from '$lib/api/client';
  import { go as open, addressOf } from '$lib/navigation';
  import { tray } from '$lib/jobs/tray.svelte';
  import PhotoStrip from '$lib/steps/PhotoStrip.svelte';
  import type { LogLine, StepStatus, Work } from '$lib/steps/work.svelte';
  import { clockText, messageText, momentText, reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { written } from '$lib/units';

  interface Props {
    work: Work;
    steps: StepStatus[];
    go: (id: string) => void;
  }
  let { work, steps, go }: Props = $props();
  let search = $state('');
  const KINDS: Record<string, string> = {
    done: 'done',
    still_right: 'checked again, still right',
    left_out: 'left out',
    opened: 'not right after all',
    noted: 'remark',
    measured: 'measured',
    photographed: 'photo',
    moved: 'moved',
    tool: 'tool',
    wished: 'would change',
    rode: 'ridden',
  };
  const by = $derived(new Map(steps.map((s) => [s.id, s])));
  /** Photos of rides stand in the same log, under the ride's name. */
  const isRide = (id: string) => id.startsWith('ride-');
  function titleOf(id: string | null | undefined): string {
    const step = id ? by.get(id) : undefined;
    return !id ? '' : isRide(id) ? 'A ride' : step ? messageText(step.title) : id.replaceAll('-', ' ');
  }
  function figures(line: LogLine): string {
    const step = line.step ? by.get(line.step) : undefined;
    const order = (id: string) => step?.checks?.findIndex((c) => c.id === id) ?? 0;
    return Object.entries(line.values ?? {})
      .sort(([one], [other]) => order(one) - order(other))
      .map(([id, value]) => {
        const check = step?.checks?.find((c) => c.id === id);
        return `${check?.text ?? id} ${value == null ? 'taken away' : check ? written(value, check.quantity, reader.units) : value}`;
      })
      .join(', ');
  }
  const told = (line: LogLine) =>
    [titleOf(line.step), KINDS[line.kind] ?? line.kind, line.text ?? '', figures(line), line.by ?? ''].join(
      ' ',
    );
  const found = $derived.by(() => {
    const words = search.trim().toLowerCase();
    const lines = (work.answer?.log ?? []).filter((l) => l.kind !== 'moved' && l.kind !== 'tool');
    return (words ? lines.filter((l) => told(l).toLowerCase().includes(words)) : lines).toReversed();
  });
  /** Lines by the day on which they were written, the latest first. */
  const days = $derived.by(() => {
    const by = new Map<string, LogLine[]>();
    for (const line of found) {
      const day = momentText(line.at);
      by.set(day, [...(by.get(day) ?? []), line]);
    }
    return [...by];
  });
  const photos = $derived(new Map(work.photos.map((p) => [p.id, p])));
  const address = (form: string) => `/api/builds/${work.build.id}/assembly/file?form=${form}`;
  const paper = () =>
    tray.download('Build book', () =>
      api.POST('/api/builds/{id}/assembly/paper', { params: { path: { id: work.build.id } } }),
    );
</script>

<div class="mb-3 flex flex-wrap items-end gap-3">
  <label class="block min-w-52 flex-1 text-sm text-ink2"
    >Search the log<input class="entry min-h-[44px] text-ink" type="search" bind:value={search} /></label
  >
  <Button class="min-h-[44px]" onclick={paper}>Build book on A4</Button>
  <Button class="min-h-[44px]" href={address('md')} download>Markdown</Button>
  <Button class="min-h-[44px]" href={address('json')} download>JSON</Button>
</div>
{#each days as [day, lines] (day)}
  <section class="mb-4" aria-label={day}>
    <h2 class="border-b border-ink text-lg">{day}</h2>
    <ul class="m-0 list-none p-0">
      {#each lines as line (line.id)}
        <li class="border-b border-line py-1.5" data-testid="log-line" data-kind={line.kind}>
          <div class="flex flex-wrap items-baseline gap-x-3">
            <span class="w-[72px] text-sm whitespace-nowrap text-ink2">{clockText(line.at)}</span>
            <span
              class={line.trouble
                ? 'font-semibold text-short'
                : line.kind === 'done'
                  ? 'text-holds'
                  : 'text-ink2'}>{line.trouble ? 'went wrong' : (KINDS[line.kind] ?? line.kind)}</span
            >
            {#if line.step}<button
                class="link min-h-6 text-left"
                onclick={() =>
                  isRide(line.step!)
                    ? open(addressOf(work.build.id, 'rides', line.step!.slice(5)))
                    : go(line.step!)}>{titleOf(line.step)}</button
              >{/if}
            <span class="ml-auto text-sm text-ink2"
              >{line.by}{line.minutes ? `, ${Math.round(line.minutes)} min` : ''}
              <button
                class="min-h-6 px-1"
                aria-label={`Undo: ${KINDS[line.kind]} ${titleOf(line.step)}`}
                onclick={() => work.takeBack(line.id)}>✕</button
              ></span
            >
          </div>
          {#if line.text}<p class="pl-[84px] max-sm:pl-0">{line.text}</p>{/if}
          {#if line.values}<p class="pl-[84px] text-ink2 max-sm:pl-0">{figures(line)}</p>{/if}
          {#if photos.get(line.id)}<div class="pl-[84px] max-sm:pl-0">
              <PhotoStrip {work} photos={[photos.get(line.id)!]} />
            </div>{/if}
        </li>
      {/each}
    </ul>
  </section>
{:else}
  <p class="remark py-4">
    {search ? 'No entry has these words.' : 'No entries yet: the first tick, photo or note starts the log.'}
  </p>
{/each}
