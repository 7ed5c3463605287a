import { api } from '$lib/api/client';
import { tray } from '$lib/jobs/tray.svelte';

/** A kept test on A4, or the one under way. */
export function paperOf(id: string, number?: number): Promise<void> {
  return tray.download(number === undefined ? 'Bench test on A4' : `Test ${number} on A4`, () =>
    api.POST('/api/builds/{id}/bench-test/paper', { params: { path: { id }, query: { number } } }),
  );
}
