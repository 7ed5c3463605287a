<!-- What it takes to make the box: pieces, files, holes, foam. -->
<script lang="ts">
  import { api, type Schemas } from '$lib/api/client';
  import { tray } from '$lib/jobs/tray.svelte';
  import { reader } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import DataTable from '$lib/ui/DataTable.svelte';
  import { plain, formatMessage, written } from '$lib/units';

  let { report, id }: { report: Schemas['EnclosureReport']; id: string } = $props();
  const mm = (value: number) => written(value, 'length', reader.units);
  const span = ({ low, high }: Schemas['Spread'], quantity: string) => {
    const [a, b] = [written(low, quantity, reader.units), written(high, quantity, reader.units)];
    return a === b ? a : `${a} to ${b}`;
  };
  const address = (file: string) => `/api/builds/${id}/enclosure/${report.which}/${file}`;
  const solid = (number: number, kind: 'stl' | '3mf') =>
    tray.download(`${pieces.length > 1 ? `Half ${number}` : 'The box'} as ${kind.toUpperCase()}`, () =>
      api.POST('/api/builds/{id}/enclosure/{which}/piece-{number}.{kind}', {
        params: { path: { id, which: report.which, number, kind } },
      }),
    );
  const size = (numbers: number[]) => numbers.map((n) => mm(n)).join(' × ');
  const pieces = $derived(report.pieces ?? []);
</script>

<div class="min-w-0">
  <dl class="m-0 grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5" data-testid="box-numbers">
    <dt class="text-ink2">Outer size</dt>
    <dd class="m-0">{size(report.outer_mm ?? [])}, with its rim</dd>
    <dt class="text-ink2">Inside</dt>
    <dd class="m-0">{size(report.inner_mm ?? [])}</dd>
    <dt class="text-ink2">Wall</dt>
    <dd class="m-0">{mm(report.wall_mm ?? 0)} of {plain(report.material ?? '')}</dd>
    {#if report.left_mm != null}
      <dt class="text-ink2">Space left</dt>
      <dd class="m-0">{mm(report.left_mm)} of its length</dd>
    {/if}
    {#if report.clearance_mm != null}
      <dt class="text-ink2">Under it</dt>
      <dd class="m-0">{mm(report.clearance_mm)} to the road, with you on it</dd>
    {/if}
    {#if report.wheels_mm != null}
      <dt class="text-ink2">To the wheels</dt>
      <dd class="m-0">{mm(report.wheels_mm)} in a full turn</dd>
    {/if}
    <dt class="text-ink2">Screws</dt>
    <dd class="m-0">{report.bolts?.length} × M5, along both sides</dd>
  </dl>

  <h3 class="mt-4 mb-1 border-t border-line pt-2 text-base">
    {pieces.length > 1 ? 'Two halves' : 'One piece'}
  </h3>
  <ul class="m-0 list-none p-0">
    {#each pieces as piece (piece.number)}
      <li class="border-b border-line py-2" data-testid="box-piece">
        <p>
          {#if pieces.length > 1}<span class="font-semibold">Half {piece.number}:</span>&nbsp;
          {/if}{size([piece.length_mm, piece.width_mm, piece.height_mm])}, {span(
            piece.mass_g,
            'mass',
          )}{piece.hours ? `, ${span(piece.hours, 'hours')} of printing` : ''}
        </p>
        {#if report.made !== 'cut'}
          <p class="mt-1 flex flex-wrap gap-2 text-sm">
            <Button onclick={() => solid(piece.number, 'stl')}>STL, the solid in mm</Button>
            <Button onclick={() => solid(piece.number, '3mf')}>3MF</Button>
          </p>
        {/if}
      </li>
    {/each}
  </ul>
  <p class="mt-2 flex flex-wrap items-center gap-2 text-sm">
    <Button href={address('drilling.svg')} download>Rim and holes 1:1, SVG</Button>
    <Button href={address('drilling.dxf')} download>DXF</Button>
    {#if report.made !== 'laminated'}
      <Button href={address('net.dxf')} download>Flat pattern, DXF</Button>
      <Button href={address('net.svg')} download>SVG</Button>
    {/if}
  </p>
  <ul class="remark mt-2 list-none p-0 text-sm">
    {#each report.remarks ?? [] as remark, i (i)}<li>{formatMessage(remark, reader.units)}</li>{/each}
  </ul>

  {#if report.holes?.length}
    <h3 class="mt-4 mb-1 border-t border-line pt-2 text-base">Holes in the walls</h3>
    <DataTable heads={['For', 'Where', { text: 'Hole', right: true }]}>
      <tbody>
        {#each report.holes as hole, i (i)}
          <tr class="border-b border-line">
            <td class="py-1">{hole.what}</td>
            <td class="px-2 py-1">
              {hole.wall === 'side' ? `side, ${mm(hole.at_mm)} from the front` : `${hole.wall} end`}, {mm(
                hole.up_mm,
              )}
              up
            </td>
            <td class="py-1 text-right">{mm(hole.diameter_mm)}</td>
          </tr>
        {/each}
      </tbody>
    </DataTable>
  {/if}

  {#if report.foam?.length}
    <h3 class="mt-4 mb-1 border-t border-line pt-2 text-base">Foam under the rim</h3>
    <p class="remark mb-1 text-sm">
      Layers of {mm(report.foam_layer_mm ?? 0)}, so that it is compressed evenly all round.
    </p>
    <DataTable heads={['Along', 'From', 'To', { text: 'Layers', right: true }, { text: 'Gap', right: true }]}>
      <tbody>
        {#each report.foam as strip, i (i)}
          <tr class="border-b border-line" data-testid="foam">
            <td class="py-1">{strip.side}</td>
            <td class="px-2 py-1">{mm(strip.start)}</td>
            <td class="px-2 py-1">{mm(strip.end)}</td>
            <td class="px-2 py-1 text-right">{strip.layers}</td>
            <td class="py-1 text-right">{mm(strip.gap_mm)}</td>
          </tr>
        {/each}
      </tbody>
    </DataTable>
  {:else if report.follows}
    <p class="mt-4 border-t border-line pt-2 text-sm">
      The rim follows the deck’s curves: one layer of foam as a seal is enough.
    </p>
  {/if}
</div>
