<!-- The controller settings: right values with their reasons, what is wanted, and what was really set, brought back after a reset. -->
<script lang="ts">
  import { plural } from '$lib/plural';
  import FindingItem from '$lib/ui/FindingItem.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { addressOf } from '$lib/navigation';
  import { reader } from '$lib/reader.svelte';
  import { onDestroy, untrack } from 'svelte';
  import { api, faultsOf, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import Gauge from '$lib/ui/Gauge.svelte';
  import { figureSpec, valueText, written } from '$lib/units';
  import Controller from './Controller.svelte';
  import Detection, { isOfDetection } from './Detection.svelte';
  import { ControllerLink, type ControllerCommand } from '$lib/controller/controller.svelte';
  import { ControllerSettingsPage, type Profile } from './controller-settings.svelte';
  import SettingsTable from './SettingsTable.svelte';
  import WrittenDown from './WrittenDown.svelte';

  const piece = new ControllerSettingsPage(getBuildContext());
  const link = new ControllerLink(
    piece.build.id,
    () => piece.build.board,
    (command) => heard(piece, command),
  );
  onDestroy(() => link.close());
  let picker = $state<FilePicker>();
  let brought = $state.raw<Schemas['ReadValue'][] | null>(null);

  function heard(mine: ControllerSettingsPage, command: ControllerCommand): void {
    if (command.kind === 'write') void mine.reload();
    if (command.result?.kind !== 'detect') return;
    mine.build.set('detected', command.result.detected);
    notices.say(
      'Detected; entered for the motors.',
      { label: 'Undo', run: () => mine.build.undo() },
      mine.build,
    );
  }

  // What the controllers hold is compared with what is wanted whenever that has changed and was judged.
  $effect(() => {
    if (piece.recommended) untrack(() => void link.compare());
  });

  const PROFILES: [Profile, string][] = [
    ['beginner', 'Half of everything, and slow.'],
    ['daily', 'Some margin everywhere.'],
    ['hills', 'Full current, soft start.'],
    ['full', 'The maximum of the parts.'],
  ];
  const recommended = $derived(piece.recommended);
  const latest = $derived(piece.record?.settings_records.at(-1));
  const grave = $derived(
    (recommended?.findings ?? []).filter((f) => f.severity !== 'note' && !f.accepted && !isOfDetection(f)),
  );
  const inIt = $derived(link.seen?.looked_at ? link.seen.findings : null);
  /** What stands below as wanted is not said twice. */
  const asSet = $derived(
    (inIt ?? piece.record?.findings ?? []).filter(
      (f) =>
        f.severity !== 'note' &&
        !f.accepted &&
        !isOfDetection(f) &&
        !grave.some((g) => g.id === f.id && g.text === f.text),
    ),
  );
  const lacks = $derived(
    recommended?.lacks === 'controller' ? 'a controller' : 'a pack with its cells in series',
  );
  const open_ = $derived(
    (recommended?.lines ?? []).filter((l) => l.stand !== 'as recommended').length +
      (recommended?.clears.length ?? 0),
  );

  /** What can be fixed on this page; parts are changed on the Design page. */
  const ofSettings = (fixes: Schemas['Fix'][]) =>
    fixes.filter((c) => Object.keys(c.changes).every((k) => k.startsWith('settings')));

  async function bringIn(file: File): Promise<void> {
    const text = await file.text();
    const { data, error } = await api
      .POST('/api/controller-settings/read', { body: { text } })
      .catch(() => ({ data: undefined, error: { message: 'The server cannot be reached.', faults: [] } }));
    if (data) brought = data;
    else {
      const refusal = faultsOf(error);
      notices.say(refusal.faults?.[0]?.reason ?? refusal.message);
    }
  }
  const good = $derived((brought ?? []).filter((v) => !v.reason));

  function takeBrought(): void {
    const mine = piece;
    mine.want(good);
    notices.say(
      plural(good.length, ['# value wanted now.', '# values wanted now.']),
      { label: 'Undo', run: () => mine.build.undo() },
      mine.build,
    );
    brought = null;
  }
</script>

<main
  class="mx-auto grid w-full max-w-[1280px] gap-x-8 gap-y-4 px-4 py-4 sm:px-6 lg:grid-cols-[minmax(0,1fr)_318px]"
>
  <div class="min-w-0">
    <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <h1 class="text-xl">Controller settings</h1>
      <p class="remark">Recommended values with reasons, the values you want, and records of what was set.</p>
      <button class="link ml-auto text-sm" onclick={() => picker?.pick()}>Import settings</button>
    </div>
    <FilePicker
      bind:this={picker}
      accept=".json,.csv"
      label="Controller settings as JSON or CSV"
      testid="settings-import"
      onpick={bringIn}
    />
    {#if recommended?.lacks}
      <p class="mt-4 font-serif text-lg text-ink2">No recommendations yet.</p>
      <p class="remark">
        It needs {lacks}: choose on the
        <a class="link" href={addressOf(piece.build.id, 'design')}>Design page</a>.
      </p>
    {:else if recommended}
      <div class="mt-2 flex flex-wrap items-end gap-x-5 gap-y-1" role="group" aria-label="Profile">
        {#each PROFILES as [profile, about] (profile)}
          <button
            class="tab text-left"
            aria-pressed={piece.profile === profile}
            title={about}
            onclick={() => piece.aim(profile)}>{profile}</button
          >
        {/each}
        <span class="remark text-sm">{PROFILES.find(([p]) => p === piece.profile)?.[1]}</span>
        {#if open_}
          <Button
            main
            disabled={!piece.fresh}
            onclick={() => piece.take(recommended.lines.map((l) => l.field))}
            class="ml-auto">Use all {recommended.lines.length} recommended values</Button
          >
        {:else}
          <span class="ml-auto text-sm text-holds">✓ all as recommended</span>
        {/if}
      </div>
      {#each recommended.clears as field (field)}
        <p class="mt-2 text-sm text-unsure" data-testid="left-standing">
          ~ {figureSpec(`settings.${field}`).title}
          {valueText(`settings.${field}`, piece.build.value(`settings.${field}`), reader.units)} is still wanted;
          this profile has none.
          <button class="link" onclick={() => piece.build.set(`settings.${field}`, null)}>Clear it</button>
        </p>
      {/each}
      {#if !recommended.programmable}
        <p class="remark mt-2">
          A boxed controller has only its jumper and its modes; its effect is checked all the same.
        </p>
      {/if}
      <Controller {piece} {link} />
      <SettingsTable {piece} {latest} seen={link.seen} />
      <Detection {piece} {link} />
      <WrittenDown {piece} />
    {:else if piece.asked.failed}
      <p class="py-8 text-short" role="alert">
        The settings cannot be loaded at the moment; your board is saved.
      </p>
    {:else}
      <p class="remark py-8">Calculating the values…</p>
    {/if}
  </div>

  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <aside
    aria-label="What it does"
    tabindex="0"
    class="lg:sticky lg:top-2 lg:max-h-[calc(100dvh-1rem)] lg:self-start lg:overflow-y-auto"
  >
    {#if recommended}
      <h2 class="mb-2 text-base">What these values do</h2>
      <div class="grid grid-cols-3 gap-3">
        {#each piece.outcomes.slice(0, 3) as outcome (outcome.name)}
          <div class="min-w-0">
            <p class="mb-1 text-sm font-semibold">{outcome.title}</p>
            <Gauge
              {outcome}
              units={reader.units}
              currency={piece.build.file.currency}
              height={170}
              width={60}
            />
          </div>
        {/each}
      </div>
      {#if recommended.braking}
        <dl
          class="m-0 mt-2 grid grid-cols-[1fr_auto] gap-x-3 gap-y-1 border-t border-line pt-2 text-sm"
          data-testid="braking"
        >
          <dt class="text-ink2">brakes hold on a full pack</dt>
          <dd class="m-0 text-right font-semibold">
            {written(recommended.braking.full_pack_grade_pct, 'grade', reader.units)}
          </dd>
          <dt class="text-ink2">at 80 % charge</dt>
          <dd class="m-0 text-right font-semibold">
            {written(recommended.braking.at_80_pct_grade_pct, 'grade', reader.units)}
          </dd>
          <dt class="text-ink2">the first second pulls</dt>
          <dd class="m-0 text-right font-semibold">
            {written(recommended.braking.first_second_g, 'g', reader.units)}
          </dd>
        </dl>
      {/if}
      {#if asSet.length}
        <h3 class="mt-3 border-t border-line pt-2 text-sm text-short">
          {inIt ? 'In the controller now' : 'As it was last set'}
        </h3>
        {@render findings(asSet, 'as-set-finding', false)}
      {/if}
      <h3 class="mt-3 border-t border-line pt-2 text-sm">The settings you want</h3>
      {#if grave.length}
        {@render findings(grave, 'settings-finding', true)}
      {:else if recommended.lacks}
        <p class="text-sm text-ink2">Nothing to check yet.</p>
      {:else}
        <p class="text-sm text-ink2">
          No conflict with the board was found. Test it with the wheels in the air all the same.
        </p>
      {/if}
      <p class="remark mt-3 border-t border-line pt-2 text-sm">
        Wheels in the air and fingers away while you set and test. Being able to stop on foot is part of
        riding.
      </p>
    {/if}
  </aside>
</main>
{#snippet findings(list: Schemas['Finding'][], testid: string, curable: boolean)}
  {#each list as f (f.id)}
    <FindingItem
      finding={f}
      {testid}
      currency={piece.build.file.currency}
      fixes={curable ? ofSettings(f.fixes ?? []) : []}
      onfix={(fix) => piece.build.change(fix.changes)}
    />
  {/each}
{/snippet}

<Dialog
  open={brought !== null}
  title="What the file says"
  wide
  onclose={() => (brought = null)}
  remark={`${good.length} of ${brought?.length ?? 0} values can be used. Nothing is changed yet.`}
>
  <table class="w-full border-collapse text-sm">
    <tbody>
      {#each brought ?? [] as v (`${v.controller} ${v.key}`)}
        <tr class="border-b border-line" data-testid="brought">
          <td class="py-1"
            >{figureSpec(`settings.${v.key}`).title}{v.controller > 1
              ? `, controller ${v.controller}`
              : ''}</td
          >
          <td class="px-2 py-1 font-semibold">{valueText(`settings.${v.key}`, v.value, reader.units)}</td>
          <td class="px-2 py-1 text-short">{v.reason ?? ''}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#snippet actions()}
    <Button onclick={() => (brought = null)}>Cancel</Button>
    <Button main disabled={!good.length} onclick={takeBrought}>Use these {good.length}</Button>
  {/snippet}
</Dialog>
