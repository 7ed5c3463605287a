<!-- How a board begins: six questions, a board that is there, a kit, or a copy. -->
<script lang="ts">
  import { NEW_BUILD } from '$lib/api/tables.gen';
  import { api, asItIs, faultsOf, type BuildFile } from '$lib/api/client';
  import { go, addressOf } from '$lib/navigation';
  import { notices } from '$lib/ui/notices.svelte';
  import Again from './Again.svelte';
  import Existing from './Existing.svelte';
  import Kits from './Kits.svelte';
  import SixQuestions from './SixQuestions.svelte';

  const WAYS = [
    ['questions', 'From six questions', 'You have no board yet.'],
    ['existing', 'I have a board already', 'Some parts stay, some are replaced.'],
    ['kit', 'From a kit', 'One purchase with several parts.'],
    ['again', 'From a copy or a file', 'Start from a similar board.'],
  ] as const;
  type Way = (typeof WAYS)[number][0];
  const asked = new URLSearchParams(location.search).get('way');
  let way = $state<Way>(WAYS.find(([w]) => w === asked)?.[0] ?? 'questions');
  let busy = $state(false);

  function take(other: Way): void {
    way = other;
    history.replaceState(history.state, '', other === 'questions' ? location.pathname : `?way=${other}`);
  }

  /** Puts a file on the list of boards and opens it; false where that could not be. */
  async function begin(file: BuildFile, to: string): Promise<boolean> {
    busy = true;
    const body = { ...file, name: file.name?.trim() || NEW_BUILD.name };
    const answer = await api
      .POST('/api/builds/import', asItIs(new Blob([JSON.stringify(body)]), 'application/json'))
      .catch(() => null);
    busy = false;
    if (!answer?.data) {
      notices.say(
        answer?.error
          ? faultsOf(answer.error).message
          : 'The server cannot be reached; your answers are kept here.',
      );
      return false;
    }
    go(`${addressOf(answer.data.id, 'design')}${to}`);
    return true;
  }
</script>

<svelte:head><title>A new board – Sand Pocket</title></svelte:head>
<main class="mx-auto w-full max-w-4xl px-4 py-6 sm:px-6">
  <h1 class="text-2xl">A new board</h1>
  <div class="mt-3 mb-4 grid grid-cols-2 gap-2 sm:grid-cols-4" role="group" aria-label="How to start">
    {#each WAYS as [id, title, remark] (id)}
      <button
        class="rounded border px-3 py-2 text-left"
        class:border-ink={way === id}
        class:bg-chosen={way === id}
        class:border-line={way !== id}
        aria-pressed={way === id}
        onclick={() => take(id)}
      >
        <span class="block font-semibold">{title}</span>
        <span class="block text-sm text-ink2">{remark}</span>
      </button>
    {/each}
  </div>
  {#if way === 'questions'}<SixQuestions {busy} {begin} />
  {:else if way === 'existing'}<Existing {busy} {begin} />
  {:else if way === 'kit'}<Kits {busy} {begin} />
  {:else}<Again />{/if}
  <p class="remark mt-5 max-w-2xl text-sm">
    Lithium packs burn and brakes fade. Ask locally where you may ride.
  </p>
</main>
