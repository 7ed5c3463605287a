<!-- The wiring: the way of the current as one drawing, what guards against what, in which order it is joined, what is cut. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import { getBuildContext } from '$lib/build/build.svelte';
  import { addressOf } from '$lib/navigation';
  import { tray } from '$lib/jobs/tray.svelte';
  import { reader } from '$lib/reader.svelte';
  import Awaiting from '$lib/ui/Awaiting.svelte';
  import { Query } from '$lib/sync/query.svelte';
  import Button from '$lib/ui/Button.svelte';
  import DataTable from '$lib/ui/DataTable.svelte';
  import FindingItem from '$lib/ui/FindingItem.svelte';
  import { notices } from '$lib/ui/notices.svelte';
  import { formatMessage, written } from '$lib/units';
  import Diagram from './Diagram.svelte';
  import Guards from './Guards.svelte';

  const build = getBuildContext();
  const asked = new Query(
    () => build.board,
    (document, signal) => api.POST('/api/wiring', { body: { document }, signal }),
    { cacheKey: () => `wiring:${build.id}` },
  );
  const report = $derived(asked.answer);
  const say = (s: Schemas['Message']) => formatMessage(s, reader.units);
  const mm = (v: number) => written(v, 'length', reader.units);
  const named = (id: string) => report?.diagram.boxes.find((box) => box.id === id)?.title ?? id;
  let shown = $state<string | null>(null);

  async function away(): Promise<void> {
    if (await build.settled()) window.location.href = `/api/builds/${build.id}/wiring.svg`;
    else notices.say('The last changes are not saved yet.');
  }
  async function paper(): Promise<void> {
    if (!(await build.settled())) return notices.say('The last changes are not saved yet.');
    await tray.download('Wiring on A4', () =>
      api.POST('/api/builds/{id}/wiring/paper', { params: { path: { id: build.id } } }),
    );
  }
  const extras = $derived(build.file.parts?.extras ?? []);
  const missing = $derived(
    (report?.cuts ?? []).map((c) => c.record).filter((r) => !extras.some((e) => e.name === r.name)),
  );
  function onTheList(): void {
    build.changeAndSay(
      { 'parts.extras': [...extras, ...missing] },
      `${missing.length} small parts are on the parts list.`,
    );
  }
</script>

<main class="mx-auto w-full max-w-[1240px] px-4 py-4 sm:px-6">
  <div class="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
    <h1 class="text-xl">Wiring</h1>
    <p class="remark text-sm">Positive at the top, negative at the bottom.</p>
    {#if report?.wires.length}
      <span class="ml-auto flex gap-2">
        <Button onclick={away}>SVG</Button>
        <Button onclick={paper}>On A4</Button>
      </span>
    {/if}
  </div>
  {#if !report}
    <Awaiting
      {asked}
      waiting="Drawing…"
      lost="The wiring diagram cannot be loaded at the moment; your board is saved."
    />
  {:else if !report.wires.length}
    <p class="rounded border border-line bg-sheet p-3">
      There is no pack yet.
      <a class="link" href={`${addressOf(build.id, 'design')}?at=parts.pack.series`}
        >Choose one on the Design page</a
      >
    </p>
  {:else}
    {#if report.findings.length}<h2 class="sr-only">Findings</h2>{/if}
    {#each report.findings as finding (finding.id)}
      <FindingItem {finding} fixes={finding.fixes ?? []} onfix={(fix) => build.change(fix.changes)} />
    {/each}
    <Diagram diagram={report.diagram} {shown} />
    <div class="mt-5 grid gap-x-8 gap-y-6 lg:grid-cols-2">
      <Guards guards={report.guards} onfix={(fix) => build.change(fix.changes)} />
      <section aria-label="Order of work">
        <h2 class="text-lg">Order of work</h2>
        <ol class="m-0 list-none p-0" data-testid="joints">
          {#each report.joints as joint (joint.number)}
            <li
              class={[
                'flex gap-3 border-t border-line py-1.5',
                joint.grave && 'border-l-[3px] border-l-short pl-2',
              ]}
              onpointerenter={() => (shown = joint.wires?.join(' ') ?? null)}
              onpointerleave={() => (shown = null)}
            >
              <b class="w-5 shrink-0 text-right font-serif">{joint.number}</b>
              <span>{say(joint.do)} <span class="text-sm text-ink2">{say(joint.why)}</span></span>
            </li>
          {/each}
        </ol>
      </section>
    </div>
    <section class="mt-6" aria-label="Wires">
      <h2 class="text-lg">Every wire</h2>
      <p class="remark mb-1 text-sm" data-testid="sized-for">{say(report.sized_for)}</p>
      <DataTable
        heads={[
          'From – to',
          { text: 'Gauge', right: true },
          { text: 'Current', right: true },
          { text: 'Bears', right: true },
          { text: 'Length', right: true },
          'Colour',
          'Plugs',
          'First at',
        ]}
        data-testid="wires"
      >
        <tbody>
          {#each report.wires as w (w.id)}
            <tr class="border-b border-line align-top">
              <td class="py-1">{named(w.start)} – {named(w.end)}</td>
              <td class="px-2 text-right whitespace-nowrap"
                >{(w.count ?? 1) > 1 ? `${w.count} × ` : ''}{w.awg} AWG{#if w.awg > w.least_awg}<span
                    class="block text-xs text-short">at least {w.least_awg}</span
                  >{/if}</td
              >
              <td class="px-2 text-right whitespace-nowrap"
                >{written(w.current_a, 'current', reader.units)}</td
              >
              <td
                class={[
                  'px-2 text-right whitespace-nowrap',
                  w.current_a > w.bears_a && 'font-semibold text-short',
                ]}>{written(w.bears_a, 'current', reader.units)}</td
              >
              <td class="px-2 text-right whitespace-nowrap">{w.guessed ? 'about ' : ''}{mm(w.length_mm)}</td>
              <td class="min-w-40 px-2">{w.colour}</td>
              <td class={['px-2', w.mismatch && 'font-semibold text-short']}
                >{w.mismatch ? `✕ ${w.start_plug} on ${w.end_plug}` : (w.start_plug ?? w.end_plug ?? '–')}</td
              >
              <td class="px-2">{named(w.first_end)}</td>
            </tr>
          {/each}
        </tbody>
      </DataTable>
    </section>
    <section class="mt-6 max-w-2xl" aria-label="To cut">
      <h2 class="text-lg">To cut and to buy</h2>
      <DataTable heads={['What', { text: 'How many', right: true }, { text: 'Length', right: true }]}>
        <tbody>
          {#each report.cuts as cut (cut.what)}
            <tr class="border-b border-line"
              ><td class="py-1">{cut.what}</td><td class="px-2 text-right">{cut.count ?? ''}</td><td
                class="px-2 text-right">{cut.length_mm ? mm(cut.length_mm) : ''}</td
              ></tr
            >
          {/each}
        </tbody>
      </DataTable>
      <p class="mt-2">
        {#if missing.length}
          <Button onclick={onTheList}>Add {missing.length} to the parts list</Button>
        {:else}<span class="text-sm text-holds">✓ Everything is on the parts list.</span>{/if}
        <span class="ml-2 text-sm text-ink2"
          >Lengths include a tenth extra; measure estimated ones with a string first.</span
        >
      </p>
    </section>
    <p class="remark mt-5 border-t border-line pt-2 text-sm">
      The full voltage is there as soon as the pack is: nothing bare, one joint at a time, two leads of a pack
      never together. Work on a pack or at the mains that you have not done before belongs to someone
      qualified.
    </p>
  {/if}
</main>
