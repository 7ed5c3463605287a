import { registerSW } from 'virtual:pwa-register';
import { notices } from '$lib/ui/notices.svelte';

/**
 * Keeps the shell on this device, and says when a newer release has come. The person decides when it takes over; what is
 * unsent is kept here as over any other reload.
 */
export function watchForReleases(): void {
  const takeOver = registerSW({
    immediate: true,
    onNeedRefresh: () =>
      notices.say(
        'A new release of Sand Pocket is here.',
        {
          label: 'Use it',
          run: () => void takeOver(true),
        },
        undefined,
        true,
      ),
  });
}
