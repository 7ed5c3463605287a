<!-- Questions in a builder's words, each answered by a few figures of the file. -->
<script lang="ts">
  import type { BuildFile } from '$lib/api/client';
  import type { QuestionSpec } from '$lib/api/specs';
  import { valueAt } from '$lib/paths';
  import Figure from '$lib/ui/Figure.svelte';
  import { notationReader } from '$lib/notation';

  interface Props {
    questions: QuestionSpec[];
    file: BuildFile;
    set: (path: string, value: unknown) => void;
  }
  let { questions, file, set }: Props = $props();
</script>

<ol class="m-0 list-none p-0">
  {#each questions as question, i (question.slug)}
    <li
      class="grid gap-x-8 gap-y-2 border-t border-line py-4 sm:grid-cols-[minmax(0,1fr)_minmax(0,24rem)]"
      data-testid="question"
    >
      <div>
        <h2 class="text-lg"><span class="mr-2 text-ink2">{i + 1}</span>{question.asks}</h2>
        <p class="text-sm text-ink2">{question.why}</p>
      </div>
      <div class="grid grid-cols-2 items-start gap-3">
        {#each question.fields as path (path)}
          <Figure
            {path}
            label={question.labels[path]}
            value={valueAt(file, path)}
            currency={file.currency}
            onchange={(value) => set(path, value)}
            onnotation={notationReader(
              path,
              () => file,
              (changes) => Object.entries(changes).forEach(([at, value]) => set(at, value)),
            )}
          />
        {/each}
      </div>
    </li>
  {/each}
</ol>
