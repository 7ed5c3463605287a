/** What the device keeps in a test, in place of IndexedDB. */
export const device = new Map<IDBValidKey, unknown>();

/** The files that were handed to the person in a test, in place of downloads. */
export const downloads: { content: string; type: string; name: string }[] = [];
