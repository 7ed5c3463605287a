<!-- The board's name, and what belongs to the board as a whole. -->
<script lang="ts">
  import Button from '$lib/ui/Button.svelte';
  import { api, fileAddress } from '$lib/api/client';
  import type { OpenBuild } from '$lib/build/build.svelte';
  import { go, addressOf } from '$lib/navigation';
  import { tray } from '$lib/jobs/tray.svelte';
  import Dialog from '$lib/ui/Dialog.svelte';
  import Menu from '$lib/ui/Menu.svelte';
  import type { MenuItem } from '$lib/ui/menu';
  import { notices } from '$lib/ui/notices.svelte';
  import { account } from './account.svelte';

  let { build }: { build: OpenBuild } = $props();
  let renaming = $state(false);
  let newName = $state('');

  const STAGES = ['planned', 'building', 'riding'] as const;
  const params = $derived({ path: { id: build.id } });
  const unreachable = () => notices.say('The server cannot be reached; nothing was changed.');
  const narrow = () => window.matchMedia('(width < 40rem)').matches;
  let phone = $state(narrow());

  async function duplicate(): Promise<void> {
    if (!(await build.settled())) return unreachable();
    const answer = await api.POST('/api/builds/{id}/duplicate', { params }).catch(() => null);
    if (answer?.data) go(addressOf(answer.data.id));
    else unreachable();
  }

  async function remove(): Promise<void> {
    const { name } = build;
    await build.settled();
    const answer = await api.DELETE('/api/builds/{id}', { params }).catch(() => null);
    if (!answer?.response.ok) return unreachable();
    const back = addressOf(build.id);
    const restore = { params: { path: { id: build.id } } };
    go('/');
    notices.say(`“${name}” is deleted.`, {
      label: 'Undo',
      run: () => void api.POST('/api/builds/{id}/restore', restore).then(() => go(back), unreachable),
    });
  }

  function rename(event: SubmitEvent): void {
    event.preventDefault();
    build.set('name', newName.trim() || null);
    renaming = false;
  }

  async function dossier(): Promise<void> {
    if (!(await build.settled())) return unreachable();
    await tray.download(`Dossier of ${build.name}`, () => api.POST('/api/builds/{id}/dossier', { params }));
  }

  const items = $derived.by((): MenuItem[] => [
    ...STAGES.map((stage, i) => ({
      label: stage,
      heading: i ? undefined : 'Stage',
      checked: (build.file.stage ?? 'planned') === stage,
      run: () => build.set('stage', stage),
    })),
    {
      label: 'Rename',
      heading: 'This board',
      run: () => ((newName = build.file.name ?? ''), (renaming = true)),
    },
    { label: 'Revisions', href: addressOf(build.id, 'revisions') },
    { label: 'Export the build file', href: fileAddress(build.id), download: true },
    { label: 'Dossier on A4', run: () => void dossier() },
    { label: 'Duplicate', run: () => void duplicate() },
    { label: 'Delete', run: () => void remove(), grave: true },
    { label: 'Your boards', heading: 'The workshop', href: '/' },
    ...(phone ? account.items : []),
  ]);
</script>

<svelte:window onresize={() => (phone = narrow())} />
<Menu
  label={`The board ${build.name}: stage, revisions, file`}
  {items}
  align="start"
  trigger="button board-name max-w-[38vw] sm:max-w-60"
>
  <span class="truncate font-semibold" data-testid="board-name">{build.name}</span>
  <span aria-hidden="true">▾</span>
</Menu>

<Dialog bind:open={renaming} title="Rename">
  <form class="flex gap-2" onsubmit={rename}>
    <input class="entry" aria-label="Name of the board" bind:value={newName} maxlength="120" />
    <Button main>Rename</Button>
    <Button type="button" onclick={() => (renaming = false)}>Cancel</Button>
  </form>
</Dialog>
