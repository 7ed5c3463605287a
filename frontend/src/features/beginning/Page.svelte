<!-- A new board from six questions in a builder's words; from the answers the library proposes whole boards. -->
<script lang="ts">
  import { NEW_BUILD, QUESTIONS } from '$lib/api/tables.gen';
  import { api, type BuildFile } from '$lib/api/client';
  import { go, roomOf } from '$lib/going';
  import { valueAt, withValue } from '$lib/paths';
  import { Drafts } from '$lib/sync/drafts';
  import Button from '$lib/ui/Button.svelte';
  import Field from '$lib/ui/Field.svelte';
  import Figure from '$lib/ui/Figure.svelte';
  import { notices } from '$lib/ui/notices.svelte';

  // Kept over a reload: six answers are six too many to give twice.
  const drafts = new Drafts<BuildFile>('sand-pocket:beginning');
  let file = $state.raw<BuildFile>(drafts.read() ?? NEW_BUILD);
  let busy = $state(false);

  function set(path: string, value: unknown): void {
    file = withValue(file, path, value);
    drafts.keep(file);
  }

  async function begin(then: 'propose' | 'bench'): Promise<void> {
    busy = true;
    const body = { ...file, name: file.name?.trim() || NEW_BUILD.name };
    const answer = await api.POST('/api/builds/import', { body: body as never }).catch(() => null);
    busy = false;
    if (!answer?.data) {
      notices.say('The server cannot be reached; what you answered is kept here.');
      return;
    }
    drafts.forget();
    go(`${roomOf(answer.data.id, 'bench')}${then === 'propose' ? '?propose=1' : ''}`);
  }
</script>

<svelte:head><title>A new board – Sand Pocket</title></svelte:head>
<main class="mx-auto w-full max-w-4xl px-4 py-6 sm:px-6">
  <h1 class="text-2xl">A new board</h1>
  <p class="remark">
    Six questions. Leave out what you do not know; nothing is fixed, and every number takes the unit you type
    behind it.
  </p>
  <div class="mt-4">
    <ol class="m-0 list-none p-0">
      {#each QUESTIONS as question, i (question.slug)}
        <li
          class="grid gap-x-8 gap-y-2 border-t border-line py-4 sm:grid-cols-[minmax(0,1fr)_minmax(0,22rem)]"
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
                value={valueAt(file, path)}
                currency={file.currency}
                onchange={(value) => set(path, value)}
              />
            {/each}
          </div>
        </li>
      {/each}
    </ol>
    <div class="flex flex-wrap items-end gap-3 border-t border-line pt-4">
      <Field
        label="What is it called? Any name will do"
        class="w-full sm:w-72"
        value={file.name ?? ''}
        maxlength={120}
        oninput={(event) => set('name', event.currentTarget.value || null)}
      />
      <span class="ml-auto flex flex-wrap gap-2">
        <Button type="button" disabled={busy} onclick={() => void begin('bench')}>Choose part by part</Button>
        <Button main disabled={busy} onclick={() => void begin('propose')}>Propose boards</Button>
      </span>
    </div>
  </div>
  <p class="remark mt-5 max-w-2xl text-sm">
    Lithium packs burn and brakes fade. What a place allows is not known here: ask who knows where you ride.
  </p>
</main>
