<!-- Tools and what is used up: have, borrow or buy; what is forgotten, and why. -->
<script lang="ts">
  import { messageText } from '$lib/reader.svelte';
  import Button from '$lib/ui/Button.svelte';
  import { billed, currencySign } from '$lib/units';
  import type { StepStatus, Work } from '$lib/steps/work.svelte';

  interface Props {
    work: Work;
    steps: StepStatus[];
    go: (id: string) => void;
  }
  let { work, steps, go }: Props = $props();
  const WAYS = [
    ['have', 'have it'],
    ['borrow', 'borrow'],
    ['buy', 'buy'],
  ] as const;
  const tools = $derived(work.report!.tools);
  const groups = $derived([
    { title: 'Tools', rows: tools.filter((t) => !t.used_up) },
    { title: 'Used up', rows: tools.filter((t) => t.used_up) },
  ]);
  const currency = $derived(work.build.file.currency);
  const missing = $derived(tools.filter((t) => t.open && t.have !== 'have' && t.have !== 'borrow').length);
  /** What was said here and is still on its way. */
  let said = $state<Record<string, { have: string | null; price: number | null }>>({});
  const of = (t: (typeof tools)[number]) => said[t.key] ?? { have: t.have ?? null, price: t.price ?? null };

  function tell(key: string, have: string | null, price: number | null): void {
    said = { ...said, [key]: { have, price } };
    work.tool(key, have, price);
  }
  const first = (ids: string[]) =>
    steps.find((s) => ids.includes(s.id) && s.state !== 'done') ?? steps.find((s) => ids.includes(s.id));
</script>

<p class="mb-2" data-testid="tools-sum">
  {#if missing}<b>{missing}</b> still missing.{:else}You have everything.{/if}
  {#if work.report!.tools_cost}Tools to buy: <b>{billed(work.report!.tools_cost, currency)}</b>, beside what
    the board costs.{/if}
</p>
<div class="grid gap-x-12 gap-y-5 lg:grid-cols-2">
  {#each groups as group (group.title)}
    <section aria-label={group.title}>
      <h2 class="border-b border-ink text-lg">{group.title}</h2>
      <ul class="m-0 list-none p-0">
        {#each group.rows as tool (tool.key)}
          {@const now = of(tool)}
          {@const use = first(tool.steps)}
          <li class="border-b border-line py-1.5" data-tool={tool.key}>
            <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
              <span class="min-w-40 flex-1" class:text-ink2={!tool.open}>{tool.name}</span>
              <span class="flex gap-1.5" role="group" aria-label={tool.name}>
                {#each WAYS as [way, word] (way)}
                  <Button
                    class={[
                      'min-h-[44px] px-2.5',
                      now.have === way && 'border-holds bg-holds-wash font-semibold',
                    ]}
                    aria-pressed={now.have === way}
                    onclick={() =>
                      tell(tool.key, now.have === way ? null : way, way === 'buy' ? now.price : null)}
                    >{word}</Button
                  >
                {/each}
              </span>
            </div>
            <div class="flex flex-wrap items-center gap-x-3 text-sm text-ink2">
              <span class="min-w-0 flex-1">
                {#if tool.forgotten}<span class="text-unsure">Often forgotten:</span>
                  {tool.forgotten}.{/if}
                {#if use}<button class="link min-h-6 text-left" onclick={() => go(use.id)}
                    >{messageText(use.title).split(':')[0]}</button
                  >{tool.steps.length > 1 ? ` and ${tool.steps.length - 1} more` : ''}{/if}
              </span>
              {#if now.have === 'buy'}
                <label class="flex items-center gap-1"
                  >costs<input
                    class="entry min-h-[44px] w-24 text-ink"
                    inputmode="decimal"
                    value={now.price ?? ''}
                    onchange={(e) => {
                      const price = Number(e.currentTarget.value.replace(',', '.'));
                      if (price >= 0) tell(tool.key, 'buy', price);
                    }}
                  />{currencySign(currency)}</label
                >
              {/if}
            </div>
          </li>
        {/each}
      </ul>
    </section>
  {/each}
</div>
