import { api } from '$lib/api/client';
import { tray } from '$lib/jobs/tray.svelte';

/** A settings record on A4, to take away. */
export function paperOf(id: string, number: number): Promise<void> {
  return tray.download(`Record ${number} on A4`, () =>
    api.POST('/api/builds/{id}/controller-settings/paper', { params: { path: { id }, query: { number } } }),
  );
}
