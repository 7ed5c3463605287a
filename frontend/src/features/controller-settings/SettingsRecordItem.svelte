<!-- One settings record: what it changed, the remote's end points, what hangs on it, files to take away. -->
<script lang="ts">
  import { attach, faultsOf, api, type SettingsRecord } from '$lib/api/client';
  import FilePicker from '$lib/ui/FilePicker.svelte';
  import { valueText } from '$lib/units';
  import { reader, dayText } from '$lib/reader.svelte';
  import { Job, whyNot } from '$lib/sync/job.svelte';
  import { nameOf } from './naming';
  import { paperOf } from './paper';

  interface Props {
    /** The build's id. */
    id: string;
    record: SettingsRecord;
    /** Offered where it is not what is wanted now. */
    onwant?: () => void;
    /** Called when something was hung on it or taken off. */
    onchanged: () => void;
  }
  let { id, record, onwant, onchanged }: Props = $props();
  let picker = $state<FilePicker>();
  let refused = $state('');
  let sending = $state(false);

  const text = (path: string, value: unknown) => valueText(path, value, reader.units);
  const address = (form: string) =>
    `/api/builds/${id}/controller-settings/file?form=${form}&number=${record.number}`;
  const points = $derived(Object.entries(record.end_points).filter(([, v]) => v != null));
  const apart = $derived(
    record.apart.flatMap((values, i) =>
      Object.entries(values)
        .filter(([, v]) => v != null)
        .map(([key, value]) => ({ path: `settings_apart.${i}.${key}`, value })),
    ),
  );

  async function hang(file: File): Promise<void> {
    sending = true;
    const job = new Job(file.name, () => attach(id, record.number, file));
    await job.run();
    refused = whyNot(job);
    sending = false;
    if (!refused) onchanged();
  }
  async function takeOff(file: string): Promise<void> {
    const { error, response } = await api
      .DELETE('/api/controller-settings/files/{file}', { params: { path: { file } } })
      .catch(() => ({
        error: { message: 'The server cannot be reached; it is still there.' },
        response: null,
      }));
    refused = response?.ok ? '' : faultsOf(error).message;
    if (!refused) onchanged();
  }
</script>

<li class="border-t border-line py-1.5" data-testid="settings-record" data-number={record.number}>
  <div class="flex flex-wrap items-baseline gap-x-3">
    <h3 class="text-normal">Settings record {record.number}</h3>
    <span class="remark text-sm">{dayText(record.on)}{record.by ? `, ${record.by}` : ''}</span>
    {#if record.read_back}<span class="text-sm text-holds">✓ read back from the controller</span>{/if}
    <span class="ml-auto flex flex-wrap gap-x-3 text-sm">
      <button
        class="link"
        aria-label={`Settings record ${record.number}, A4 to print`}
        onclick={() => paperOf(id, record.number)}>A4 to print</button
      >
      {#each [['JSON', 'json'], ['CSV', 'csv']] as const as [label, form] (form)}
        <a
          class="link"
          href={address(form)}
          download
          aria-label={`Settings record ${record.number}, ${label}`}>{label}</a
        >
      {/each}
      <button
        class="link"
        disabled={sending}
        aria-label={`Add a photo or file to record ${record.number}`}
        onclick={() => picker?.pick()}>{sending ? 'sending…' : 'Add a photo'}</button
      >
      {#if onwant}
        <button class="link" aria-label={`Use record ${record.number} again`} onclick={onwant}
          >Use it again</button
        >
      {/if}
    </span>
  </div>
  <p class="text-sm">{record.reason}</p>
  {#if points.length}
    <p class="text-sm text-ink2">
      Remote: {points.map(([k, v]) => `${k.replace('_ms', '')} ${v} ms`).join(', ')}
    </p>
  {/if}
  {#if apart.length}
    <p class="text-sm text-ink2">
      Different: {apart.map((a) => `${nameOf(a.path)} ${text(a.path, a.value)}`).join('; ')}
    </p>
  {/if}
  {#if record.changed.length}
    <p class="text-sm">
      {#each record.changed as c, i (c.path)}{i ? '; ' : ''}<span class="text-ink2">{nameOf(c.path)}</span>
        {text(c.path, c.values[0])} <span aria-label="became">→</span>
        {text(c.path, c.values[1])}{/each}
    </p>
  {/if}
  {#if record.files.length}
    <ul class="m-0 mt-1 flex list-none flex-wrap gap-3 p-0" data-testid="hanging">
      {#each record.files as file (file.id)}
        <li class="flex items-end gap-1 text-sm">
          <a class="link" href={`/api/controller-settings/files/${file.id}`} target="_blank" rel="noopener">
            {#if file.kind.startsWith('image/')}
              <img
                src={`/api/controller-settings/files/${file.id}`}
                alt={file.name}
                loading="lazy"
                class="h-20 rounded border border-line object-cover"
              />
            {:else}{file.name}{/if}
          </a>
          <button class="px-1 text-ink2" aria-label={`Remove ${file.name}`} onclick={() => takeOff(file.id)}
            >✕</button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if refused}<p class="text-sm text-short" role="alert">{refused}</p>{/if}
  <FilePicker
    bind:this={picker}
    accept="image/jpeg,image/png,image/webp,application/pdf,text/plain,.txt"
    label={`Photo or file for record ${record.number}`}
    testid={`attach-${record.number}`}
    onpick={hang}
  />
</li>
