import { clear } from 'idb-keyval';

/** Takes away what this device remembers of a workshop for when there is no network. */
export async function forgetWhatIsRemembered(): Promise<void> {
  await clear().catch(() => undefined);
  if (!('caches' in globalThis)) return;
  const kept = (await caches.keys()).filter((name) => name.startsWith('workshop'));
  await Promise.all(kept.map((name) => caches.delete(name)));
}
