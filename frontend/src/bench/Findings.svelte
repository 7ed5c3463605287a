<!-- What to know about the build, gravest first; dangers stand apart. -->
<script lang="ts">
  import type { Finding, Schemas } from '$lib/api/client';
  import { session } from '$lib/session.svelte';
  import { spoken } from '$lib/units';

  interface Props {
    findings: Finding[];
    needs: Schemas['Lacking'][];
    currency?: string | null;
    goToField: (path: string) => void;
  }
  let { findings, needs, currency, goToField }: Props = $props();
  const SIGNS = { danger: '!', stop: '×', warn: '~', note: 'i' } as const;
</script>

{#if needs.length}
  <section class="border-t border-line py-2" aria-label="Still needed">
    <h3 class="text-[13.5px]">Still needed for speed, hill and range</h3>
    <ul class="mt-1">
      {#each needs as need (need.field)}
        <li>
          <button class="link text-left text-[13.5px]" onclick={() => goToField(need.field)}
            >{need.reason}</button
          >
        </li>
      {/each}
    </ul>
  </section>
{/if}
{#each findings as f (f.id)}
  <article class={`find ${f.severity}`} data-testid="finding" data-id={f.id}>
    <i aria-hidden="true">{SIGNS[f.severity]}</i>
    <h3 class="font-sans text-[13.5px] leading-snug font-semibold">
      <span class="sr-only">{f.severity}: </span>{f.title}
    </h3>
    <p class="text-[13.5px]">{spoken(f.saying, session.units, currency)}</p>
    {#each f.fields.slice(0, 1) as field (field)}
      <button class="link text-[13px]" onclick={() => goToField(field)}>Go there</button>
    {/each}
  </article>
{/each}

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
    font: 800 11px/1 var(--font-sans);
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
</style>
