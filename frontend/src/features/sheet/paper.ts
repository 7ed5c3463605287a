import { api } from '$lib/api/client';
import { tray } from '$lib/jobs/tray.svelte';

/** A sheet on A4, to take away. */
export function paperOf(id: string, number: number): Promise<void> {
  return tray.download(`Sheet ${number} on A4`, () =>
    api.POST('/api/builds/{id}/sheet/paper', { params: { path: { id }, query: { number } } }),
  );
}
