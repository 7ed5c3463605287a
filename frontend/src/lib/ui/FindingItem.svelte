<!-- A finding: its sign and title by how grave it is, what it says, and the fixes that are one click away. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Finding, Schemas } from '$lib/api/client';
  import { reader } from '$lib/reader.svelte';
  import { formatMessage } from '$lib/units';

  interface Props {
    finding: Finding;
    currency?: string | null;
    testid?: string;
    /** The fixes that are offered here; none where nothing can be cured from here. */
    fixes?: Schemas['Fix'][];
    onfix?: (fix: Schemas['Fix']) => void;
    /** Further ways to go on from it. */
    children?: Snippet;
  }
  let { finding, currency, testid = 'finding', fixes = [], onfix, children }: Props = $props();
  const SIGNS = { danger: '!', stop: '×', warn: '~', note: 'i' } as const;
  const say = (message: Schemas['Message']) => formatMessage(message, reader.units, currency);
</script>

<article class={`find ${finding.severity}`} data-testid={testid} data-id={finding.id}>
  <i aria-hidden="true">{SIGNS[finding.severity]}</i>
  <h3 class="font-sans text-sm leading-snug font-semibold">
    <span class="sr-only">{`${finding.severity}: `}</span>{say(finding.title)}
  </h3>
  <p class="text-sm">{say(finding.message)}</p>
  <div class="mt-0.5 flex flex-wrap items-baseline gap-x-3 gap-y-1 text-sm">
    {#each fixes as fix (fix.message.text)}
      <button class="fix" onclick={() => onfix?.(fix)}>{say(fix.message)}</button>
    {/each}
    {@render children?.()}
  </div>
</article>

<style>
  .find {
    position: relative;
    border-top: 1px solid var(--color-line);
    padding: 7px 0 7px 25px;
  }
  .find i {
    position: absolute;
    left: 0;
    top: 8px;
    width: 17px;
    height: 17px;
    border-radius: 50%;
    display: grid;
    place-items: center;
    font: 800 12px/1 var(--font-sans);
    color: var(--color-paper);
    background: var(--color-ink2);
  }
  .find.warn i {
    background: var(--color-unsure);
  }
  .find.stop i {
    background: var(--color-short);
    border-radius: 3px;
  }
  .find.danger {
    border: 1.5px solid var(--color-short);
    border-radius: 3px;
    background: var(--color-sheet);
    padding: 7px 9px 7px 32px;
    margin: 6px 0;
  }
  .find.danger i {
    left: 8px;
    background: var(--color-short);
    border-radius: 3px;
  }
  .fix {
    border: 1px solid var(--color-holds);
    border-radius: 3px;
    padding: 0 7px;
    min-height: 26px;
    color: var(--color-holds);
    background: var(--color-sheet);
    font-weight: 600;
  }
  .fix:hover {
    background: var(--color-holds-wash);
  }
</style>
