/** Looks for new releases; see the service worker. */
export async function watchForReleases(): Promise<void> {}
