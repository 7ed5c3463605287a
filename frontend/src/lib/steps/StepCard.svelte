<!-- A step of the work beside the board: what to do on this very one, what is measured, how to tell that it is right; at the thumb
     what one does with it. -->
<script lang="ts">
  import { plural } from '../plural';
  import { untrack } from 'svelte';
  import { addressOf } from '$lib/navigation';
  import { clockText, momentText, reader } from '$lib/reader.svelte';
  import { PAGES } from '$lib/api/tables.gen';
  import type { Schemas } from '$lib/api/client';
  import Button from '$lib/ui/Button.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import { figureSpec, parse, formatMessage, written } from '$lib/units';
  import MeasureField from './MeasureField.svelte';
  import PhotoStrip from './PhotoStrip.svelte';
  import StepPicture from './StepPicture.svelte';
  import { between } from './words';
  import type { StepStatus, Work } from './work.svelte';

  interface Props {
    work: Work;
    step: StepStatus;
    steps: StepStatus[];
    go: (id: string) => void;
    /** Called when it was ticked. */
    ondone: () => void;
    /** Offers to wish for a change at this step. */
    onwish?: () => void;
    /** Opens the ways of working that the builder can choose. */
    onmethod?: () => void;
  }
  let { work, step, steps, go, ondone, onwish, onmethod }: Props = $props();

  type Message = Schemas['Message'];
  const say = (s: Message) => formatMessage(s, reader.units);
  const at = $derived(steps.findIndex((s) => s.id === step.id));
  const phase = $derived(work.report?.phases.find((p) => p.phase === step.phase)?.title ?? '');
  const finished = $derived(steps.filter((s) => s.state === 'done' || s.state === 'left_out').length);
  /** What stands before the colon of its title. */
  function nameOf(id: string): string {
    const step = steps.find((s) => s.id === id);
    return step ? say(step.title).split(':')[0]! : id;
  }
  const troubles = $derived((work.answer?.troubles ?? []).filter((t) => t.step === step.id));
  const notes = $derived(work.notesOf(step.id));
  const photos = $derived(work.photosOf(step.id));
  const tools = $derived(
    (step.tools ?? []).map((key) => work.report?.tools.find((t) => t.key === key)).filter((t) => !!t),
  );
  const page = $derived(PAGES.find((r) => r.slug === step.page));
  const method = $derived(work.report?.methods?.find((m) => m.field === step.method));
  const judged = $derived(step.judged);
  const feeds = $derived(Object.keys(judged.changes ?? {}).length > 0);
  const waits = $derived((step.waits_for ?? []).filter((id) => !['done', 'left_out'].includes(stateOf(id))));
  const stateOf = (id: string) => steps.find((s) => s.id === id)?.state ?? 'waits';
  const open = $derived(step.state !== 'done' && step.state !== 'left_out');

  let writing = $state<'' | 'note' | 'out' | 'open' | 'how'>('');
  let text = $state('');
  let trouble = $state(false);
  let minutes = $state('');
  let refused = $state('');
  let picker = $state<FilePicker>();
  /** When this step was begun here; it makes the minutes. */
  let begun = $state<number | null>(null);
  const BEGUN = $derived(`sand-pocket-begun:${work.build.id}:${step.id}`);
  $effect(() => {
    const key = BEGUN;
    untrack(() => {
      writing = '';
      text = minutes = refused = '';
      trouble = false;
      begun = Number(sessionStorage.getItem(key)) || null;
    });
  });

  function begin(): void {
    begun = Date.now();
    sessionStorage.setItem(BEGUN, String(begun));
  }
  /** Minutes since it was begun, where that can be: a night between is none of them. */
  const sinceBegun = () => {
    const taken = begun ? Math.round((Date.now() - begun) / 60_000) : 0;
    return taken >= 1 && taken <= 600 ? taken : undefined;
  };
  function tick(otherwise?: string): void {
    const told = parse(minutes, figureSpec('log.done.minutes'), reader.units);
    if ('reason' in told) {
      refused = told.reason;
      return;
    }
    work.done(step, told.value ?? sinceBegun(), otherwise);
    sessionStorage.removeItem(BEGUN);
    ondone();
  }
  function measureAgain(): void {
    document.querySelector<HTMLInputElement>('[data-check] input')?.focus();
  }
  function send(event: SubmitEvent): void {
    event.preventDefault();
    const said = text.trim();
    if (writing === 'how') tick(said || undefined);
    else if (writing === 'open') work.open(step.id, said || undefined);
    else if (said && writing === 'out') work.leaveOut(step.id, said);
    else if (said) work.note(step.id, said, trouble);
    else return;
    writing = '';
    text = '';
    trouble = false;
  }
  function write(what: typeof writing): void {
    writing = writing === what ? '' : what;
    text = '';
  }
  async function photograph(file: File): Promise<void> {
    refused = await work.photograph(step.id, file);
  }
  function fastened(f: Schemas['Fastener']): string {
    const size = [f.thread, f.length_mm != null ? written(f.length_mm, 'length', reader.units) : '']
      .filter(Boolean)
      .join(' x ');
    return [`${f.count} x`, f.what.toLowerCase(), size].filter(Boolean).join(' ');
  }
  /** Steps that this one may be put before, by the core's order. */
  const earlier = $derived(
    at > 0 && !(step.after ?? []).includes(steps[at - 1]!.id) ? steps[at - 1] : undefined,
  );
  const later = $derived(
    at < steps.length - 1 && !(steps[at + 1]!.after ?? []).includes(step.id) ? steps[at + 1] : undefined,
  );
  const PROMPTS = {
    note: 'Note',
    out: 'Why do you skip it?',
    open: 'What is not right? (optional)',
    how: 'What did you do differently? (optional)',
    '': '',
  };
</script>

<article aria-labelledby="step-title" data-testid="step-card" data-step={step.id} data-state={step.state}>
  <div class="flex items-baseline justify-between gap-3 text-sm text-ink2">
    <span>{phase}</span>
    <span>{at + 1} of {steps.length}</span>
  </div>
  <div class="mt-1 h-1.5 rounded bg-line" role="img" aria-label={`${finished} of ${steps.length} steps done`}>
    <div
      class="h-full rounded bg-holds"
      style:width={`${(100 * finished) / Math.max(steps.length, 1)}%`}
    ></div>
  </div>
  <h2 id="step-title" class="mt-3 text-2xl leading-tight">{say(step.title)}</h2>
  <p class="remark mt-1 text-base">{say(step.why)}</p>

  {#if step.state === 'again'}
    <div class="mt-3 border-l-4 border-unsure bg-sheet py-2 pl-3" role="status" data-testid="again">
      <p class="font-semibold text-unsure">Done, to be checked again</p>
      {#each step.again ?? [] as why, i (i)}<p>{say(why)}</p>{/each}
      <Button class="mt-2 min-h-[44px]" onclick={() => work.stillRight(step)}>Checked: still right</Button>
    </div>
  {:else if step.state === 'done'}
    <p class="mt-2 text-holds" data-testid="done-at">
      ✓ done{step.at
        ? ` ${momentText(step.at)}, ${clockText(step.at)}`
        : step.on_its_page
          ? ' in its page'
          : ''}{step.by ? `, ${step.by}` : ''}{step.took ? `, ${Math.round(step.took)} min` : ''}
    </p>
    {#if step.otherwise}<p class="text-base">Otherwise: {step.otherwise}</p>{/if}
  {:else if step.state === 'left_out'}
    <p class="mt-2 text-ink2">– skipped: {step.word}</p>
  {:else if step.word}
    <p class="mt-2 text-unsure">Reopened: {step.word}</p>
  {/if}
  {#if step.parcels?.length}
    <div class="mt-3 border-l-4 border-rule bg-sheet py-2 pl-3" data-testid="parcels">
      {#each step.parcels as parcel (parcel.path)}
        <p>
          {parcel.name}: {parcel.state.replaceAll('_', ' ')}{parcel.late_days
            ? `, ${plural(parcel.late_days, ['# day', '# days'])} past its day`
            : parcel.due_on
              ? `, due ${momentText(`${parcel.due_on}T12:00:00Z`)}`
              : ''}
        </p>
      {/each}
      <a class="link inline-flex min-h-[44px] items-center" href={addressOf(work.build.id, 'parts-list')}
        >Open Parts list</a
      >
    </div>
  {/if}
  {#if waits.length && open}
    <p class="mt-3 text-ink2" data-testid="waits">
      After:
      {#each waits.slice(0, 4) as id, i (id)}{i ? ', ' : ' '}<button
          class="link inline min-h-6 text-left"
          onclick={() => go(id)}>{nameOf(id)}</button
        >{/each}{waits.length > 4 ? ` and ${waits.length - 4} more` : ''}.
    </p>
  {/if}
  {#if step.caution}
    <p class="mt-3 rounded border-2 border-short px-3 py-2 font-semibold" data-testid="caution">
      <span class="text-short" aria-hidden="true">!</span>
      {say(step.caution)}
    </p>
  {/if}
  {#each troubles as t, i (i)}
    <p class="mt-2 border-l-4 border-unsure pl-3 text-base" data-testid="trouble">
      <span class="font-semibold text-unsure">On {t.board}:</span>
      {t.text}
    </p>
  {/each}

  {#if step.picture}<StepPicture picture={step.picture} />{/if}
  <ol
    class={[
      'm-0 mt-3 p-0 text-base leading-snug sm:text-lg',
      step.do.length > 1 ? 'list-decimal pl-6' : 'list-none',
    ]}
  >
    {#each step.do as line, i (i)}<li class="mt-1.5">{say(line)}</li>{/each}
  </ol>
  {#if page && page.slug !== 'assembly'}
    <a class="button button-main mt-3 min-h-[44px]" href={addressOf(work.build.id, page.slug)}
      >To the {page.title.charAt(0).toLowerCase()}{page.title.slice(1)}</a
    >
  {/if}
  {#if step.fasteners?.length}
    <ul class="m-0 mt-3 list-none border-t border-line p-0" aria-label="Bolts and screws">
      {#each step.fasteners as f (f.what)}
        <li class="border-b border-line py-1.5">
          <span class="font-semibold">{fastened(f)}</span>{#if f.threadlock}<span
              class="ml-2 rounded border border-acting px-1.5 text-sm text-acting">threadlock</span
            >{/if}
          <span class="block text-ink2">{[f.beneath, say(f.tighten)].filter(Boolean).join('. ')}</span>
        </li>
      {/each}
    </ul>
  {/if}
  {#if step.checks?.length}
    <div class="mt-3 grid grid-cols-2 items-end gap-x-3 gap-y-2" data-testid="checks">
      {#each step.checks as check (check.id)}
        <MeasureField
          {check}
          value={step.values?.[check.id]}
          fault={work.faults[`${step.id}.${check.id}`]}
          onenter={(value) => work.measure(step.id, check.id, value)}
        />
      {/each}
    </div>
  {/if}
  {#if work.unsent(step.id) && step.checks?.length}
    <p class="mt-1 text-sm text-ink2">Your measurement is checked once the server has it.</p>
  {:else if judged.verdict !== 'open' && judged.said}
    <div
      class="mt-2 border-l-4 pl-3 text-lg"
      class:border-holds={judged.verdict === 'right'}
      class:border-unsure={judged.verdict === 'unsure'}
      class:border-short={judged.verdict === 'wrong'}
      role="status"
      data-testid="judged"
      data-verdict={judged.verdict}
    >
      <p
        class="font-semibold"
        class:text-holds={judged.verdict === 'right'}
        class:text-unsure={judged.verdict === 'unsure'}
        class:text-short={judged.verdict === 'wrong'}
      >
        <span aria-hidden="true">{{ right: '✓', unsure: '?', wrong: '✕' }[judged.verdict]}</span>
        {say(judged.said)}
      </p>
      {#if judged.remedy}<p>{say(judged.remedy)}</p>{/if}
    </div>
    {#if feeds}
      <button
        class="link min-h-[44px]"
        onclick={() => work.build.changeAndSay(judged.changes!, 'The model counts with what you measured.')}
        >Use it in the model</button
      >
    {/if}
  {/if}
  <p class="mt-3 text-base sm:text-lg">
    <span class="font-semibold text-holds">Right when:</span>
    {say(step.right)}
  </p>
  {#if step.wrong}<p class="mt-1 text-base sm:text-lg">
      <span class="font-semibold text-short">If not:</span>
      {say(step.wrong)}
    </p>{/if}
  {#if method && onmethod}
    <p class="mt-2 border-l border-rule pl-3" data-testid="method">
      <span class="font-semibold"
        >{method.title}: {method.ways.find((w) => w.value === method.holds)?.name}.</span
      >
      <button class="link min-h-[44px]" onclick={onmethod}>Choose another way</button>
    </p>
  {/if}
  {#each step.schools ?? [] as school (school.name)}
    <p class="mt-2 border-l border-rule pl-3">
      <span class="font-semibold">{school.name}.</span>
      {say(school.text)}
    </p>
  {/each}
  {#if tools.length}
    <p class="mt-3 text-ink2">
      <span class="font-semibold">With:</span>
      {tools.map((t) => t!.name.split(',')[0]!.toLowerCase()).join(', ')}.
      {between(step.minutes)}{step.waits_h
        ? `, then ${Math.round(step.waits_h)} h in which nothing can be done with it`
        : ''}.
    </p>
  {:else}<p class="mt-3 text-ink2">{between(step.minutes)}.</p>{/if}

  <PhotoStrip {work} {photos} />
  {#each notes as n (n.id)}
    <p class="mt-2 border-l-4 pl-3 text-base" class:border-short={n.trouble} class:border-line={!n.trouble}>
      {#if n.trouble}<span class="font-semibold text-short">Problem:</span>{/if}
      {n.text}
      <button
        class="min-h-6 px-1 text-ink2"
        aria-label={`Delete this note: ${n.text.slice(0, 40)}`}
        onclick={() => work.takeBack(n.id)}>✕</button
      >
    </p>
  {/each}
  {#if work.faults[step.id]}<p class="mt-2 text-short" role="alert">{work.faults[step.id]}</p>{/if}
  {#if refused}<p class="mt-2 text-short" role="alert">{refused}</p>{/if}

  <details class="mt-3">
    <summary class="flex min-h-[44px] items-center text-acting">More with this step</summary>
    <div class="flex flex-wrap gap-2 pb-2">
      {#if open}
        <Button class="min-h-[44px]" onclick={() => write('how')}>Done differently, or with minutes…</Button>
        <Button class="min-h-[44px]" onclick={() => write('out')}>Skip it…</Button>
        {#if begun === null}<Button class="min-h-[44px]" onclick={begin}>Start the timer</Button>{/if}
      {:else}
        <Button class="min-h-[44px]" onclick={() => write('open')}>Not right after all…</Button>
      {/if}
      {#if onwish}<Button class="min-h-[44px]" onclick={onwish}>I would change…</Button>{/if}
      {#if earlier}<Button class="min-h-[44px]" onclick={() => work.move(step.id, earlier!.id)}
          >Do this before “{say(earlier.title).split(':')[0]}”</Button
        >{/if}
      {#if later}<Button class="min-h-[44px]" onclick={() => work.move(later!.id, step.id)}
          >Do “{say(later.title).split(':')[0]}” first</Button
        >{/if}
    </div>
  </details>
  {#if begun !== null && open}<p class="text-sm text-ink2">
      Begun {clockText(new Date(begun).toISOString())}.
    </p>{/if}

  <div class="at-the-thumb">
    {#if writing}
      <form class="pb-2" onsubmit={send} aria-label={PROMPTS[writing]}>
        <label class="block text-sm text-ink2"
          >{PROMPTS[writing]}<textarea
            class="entry block min-h-16 !text-base text-ink"
            maxlength="2000"
            bind:value={text}></textarea></label
        >
        {#if writing === 'how'}
          <label class="mt-1 block text-sm text-ink2"
            >Minutes it took<input
              class="entry min-h-[44px] !text-base text-ink"
              inputmode="decimal"
              bind:value={minutes}
            /></label
          >
        {/if}
        {#if writing === 'note'}
          <label class="flex min-h-[44px] items-center gap-2"
            ><input type="checkbox" class="size-5" bind:checked={trouble} />Something went wrong: warn me on
            my next board</label
          >
        {/if}
        <div class="mt-1 flex gap-2">
          <Button main class="min-h-[44px] flex-1">{writing === 'how' ? 'Done' : 'Save entry'}</Button>
          <Button type="button" class="min-h-[44px]" onclick={() => (writing = '')}>Cancel</Button>
        </div>
      </form>
    {:else}
      <div class="flex gap-2">
        <Button class="min-h-[52px] flex-1 text-base" onclick={() => picker?.pick()}>photo</Button>
        <Button class="min-h-[52px] flex-1 text-base" onclick={() => write('note')}>note</Button>
        {#if open && judged.verdict === 'wrong' && !work.unsent(step.id)}
          <Button main class="min-h-[52px] flex-[1.6] text-base" onclick={measureAgain}>measure again</Button>
        {:else if open}
          <Button
            main
            class="min-h-[52px] flex-[1.6] text-base"
            disabled={step.state === 'parcel' || (waits.length > 0 && step.state !== 'again')}
            onclick={() => tick()}>{step.state === 'again' ? 'done anew' : 'done'}</Button
          >
        {:else}
          <Button main class="min-h-[52px] flex-[1.6] text-base" onclick={ondone}>next step</Button>
        {/if}
      </div>
    {/if}
  </div>
  <FilePicker
    bind:this={picker}
    accept="image/*"
    label={`Photo of ${say(step.title)}`}
    testid="photo-file"
    onpick={photograph}
  />
</article>

<style>
  .at-the-thumb {
    position: sticky;
    bottom: var(--foot);
    z-index: 5;
    margin: 12px -4px 0;
    padding: 8px 4px;
    background: var(--color-paper);
    border-top: 1px solid var(--color-line);
  }
</style>
