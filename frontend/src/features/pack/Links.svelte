<!-- Every link: how it is joined, what runs through it, what it bears, and what would bear it. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';
  import { reader } from '$lib/reader.svelte';
  import DataTable from '$lib/ui/DataTable.svelte';
  import { formatMessage, written } from '$lib/units';

  let { report }: { report: Schemas['PackReport'] } = $props();
  const a = (v: number) => written(v, 'current', reader.units);
  const most = $derived(Math.max(...(report.links ?? []).map((l) => Math.max(l.bears_a, l.current_a)), 1));
  const kelvin = (v: number) => (v < 0.1 ? 'under 0.1 K' : `${v < 10 ? v.toFixed(1) : Math.round(v)} K`);
</script>

{#if report.links?.length}
  <h2 class="mt-5 text-base">Links between groups</h2>
  <p class="text-sm text-ink2">
    {#if report.links_text}{formatMessage(report.links_text, reader.units)}{/if}
    {#if report.ride_a != null}Your ride takes {a(report.ride_a)} on average.{/if}
    The block is what a link bears, the mark is the largest current through it.
  </p>
  <DataTable
    heads={[
      'Groups',
      'Joined by',
      'Bears',
      { text: 'Current', right: true },
      { text: 'Needs: copper, nickel', right: true },
      { text: 'Loses', right: true },
      { text: 'Warms by, at most', right: true },
      { text: 'On your ride', right: true },
    ]}
    data-testid="links"
  >
    <tbody>
      {#each report.links as link (link.between[0])}
        <tr class="border-b border-line">
          <td class="py-1 whitespace-nowrap"
            >{link.between[0]} – {link.between[1]}{#if link.half}<span class="block text-xs text-ink2"
                >made last</span
              >{/if}</td
          >
          <td class="px-2"
            >{#if link.strips}{link.strips} × {link.material}{:else}{link.awg} AWG wire, {written(
                link.length_mm,
                'length',
                reader.units,
              )}{/if}</td
          >
          <td class="min-w-28 px-2">
            <span
              class="relative block h-4 border border-rule"
              role="img"
              aria-label={`bears ${a(link.bears_a)}${link.holds ? '' : ', too little'}`}
            >
              <span
                class={['absolute inset-y-0 left-0', link.holds ? 'bg-holds-wash' : 'bg-short-wash']}
                style:width={`${(link.bears_a / most) * 100}%`}
              ></span>
              <span
                class={['absolute -inset-y-1 border-l-2', link.holds ? 'border-ink' : 'border-short']}
                style:left={`${(link.current_a / most) * 100}%`}
              ></span>
            </span>
            <span class="text-xs" class:text-short={!link.holds}
              >{a(link.bears_a)}{link.holds ? '' : ' ✕ too little'}</span
            >
          </td>
          <td class="px-2 text-right whitespace-nowrap">{a(link.current_a)}</td>
          <td class="px-2 text-right whitespace-nowrap"
            >{#if link.strips}{link.would_bear.copper} or {link.would_bear.nickel}{:else}–{/if}</td
          >
          <td class="px-2 text-right whitespace-nowrap">{link.loss_w.toFixed(2)} W</td>
          <td class={['px-2 text-right whitespace-nowrap', !link.holds && 'font-semibold text-short']}
            >{kelvin(link.rise_k)}</td
          >
          <td class="px-2 text-right whitespace-nowrap"
            >{link.ride_rise_k == null ? '–' : kelvin(link.ride_rise_k)}</td
          >
        </tr>
      {/each}
    </tbody>
  </DataTable>
{/if}
