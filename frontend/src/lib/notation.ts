import { api, faultsOf, type BoardDocument } from '$lib/api/client';
import { reader } from '$lib/reader.svelte';
import { notices } from '$lib/ui/notices.svelte';
import { figureSpec, formatMessage } from '$lib/units';

/**
 * What takes an entry such as 10S4P or 250 Wh at a field: it applies what the server reads from it and says so, or answers why it
 * cannot be read. Undefined for the fields that have figures only.
 */
export function notationReader(
  path: string,
  document: () => BoardDocument,
  apply: (changes: Record<string, number>) => void,
): ((text: string) => Promise<string | null>) | undefined {
  if (!figureSpec(path).notation) return undefined;
  return async (text) => {
    const answer = await api
      .POST('/api/builds/entry', { body: { document: document(), path, text } })
      .catch(() => null);
    if (!answer) return 'The server cannot be reached: enter a plain number.';
    if (!answer.data) return faultsOf(answer.error).message;
    apply(answer.data.changes);
    notices.say(formatMessage(answer.data.message, reader.units));
    return null;
  };
}
