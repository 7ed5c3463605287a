<!-- What differs between builds or revisions, and nothing else: one row a figure, one column a build. -->
<script lang="ts">
  import { reader } from '$lib/reader.svelte';
  import type { Differences } from '$lib/api/client';
  import { figureSpec, sectionTitle, valueText } from '$lib/units';

  interface Props {
    changes: Differences[];
    /** Heads of the columns; left out where two values stand as before and after in one cell. */
    heads?: string[];
    currency?: string | null;
  }
  let { changes, heads, currency }: Props = $props();

  const row = (section: string, path: string) =>
    section === 'parts.extras' ? path.slice('parts.extras.'.length) : figureSpec(path).title;
  /** Where whole parts differ, their names say most; the figures follow on demand. */
  let opened = $state.raw<string[]>([]);
  const FEW = 3;
  const isFolded = (group: Differences) =>
    group.rows.length > FEW + 1 && group.rows[0]!.path.endsWith('.name') && !opened.includes(group.section);
  const text = (path: string, value: unknown) => valueText(path, value, reader.units, currency);
</script>

{#if heads}
  <div class="overflow-x-auto">
    <table class="w-full border-collapse text-sm" data-testid="differences">
      <thead>
        <tr class="text-left text-xs text-ink2">
          <th class="border-b border-ink py-1 font-normal">What differs</th>
          {#each heads as head, i (i)}<th class="border-b border-ink px-2 py-1 font-normal">{head}</th>{/each}
        </tr>
      </thead>
      {#each changes as group (group.section)}
        <tbody>
          <tr
            ><th class="pt-2 text-left font-serif font-semibold" colspan={heads.length + 1} scope="rowgroup"
              >{sectionTitle(group.section)}</th
            ></tr
          >
          {#each isFolded(group) ? group.rows.slice(0, FEW) : group.rows as r (r.path)}
            <tr class="border-b border-line" data-path={r.path}>
              <th class="py-1 pl-3 text-left font-normal text-ink2" scope="row"
                >{row(group.section, r.path)}</th
              >
              {#each r.values as value, i (i)}
                <td class="px-2 py-1" class:text-ink2={value === null}>{text(r.path, value)}</td>
              {/each}
            </tr>
          {/each}
          {#if isFolded(group)}
            <tr
              ><td colspan={heads.length + 1} class="border-b border-line py-1 pl-3"
                ><button class="link" onclick={() => (opened = [...opened, group.section])}
                  >{group.rows.length - FEW} more figures differ</button
                ></td
              ></tr
            >
          {/if}
        </tbody>
      {/each}
    </table>
  </div>
{:else}
  <ul class="m-0 list-none p-0 text-sm">
    {#each changes as group (group.section)}
      <li class="mt-1">
        <span class="font-semibold">{sectionTitle(group.section)}:</span>
        {#each group.rows as r, i (r.path)}{i ? '; ' : ' '}<span data-path={r.path}
            >{#if !r.path.endsWith('.name')}<span class="text-ink2"
                >{row(group.section, r.path).toLowerCase()}</span
              >{/if}
            {text(r.path, r.values[0])} <span aria-label="became">→</span>
            {text(r.path, r.values[1])}</span
          >{/each}
      </li>
    {/each}
  </ul>
{/if}
