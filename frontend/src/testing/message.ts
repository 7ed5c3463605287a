import type { Schemas } from '$lib/api/client';

/** A sentence as the core answers it. */
export const message = (
  template: string,
  values: Schemas['Message']['values'] = {},
): Required<Schemas['Message']> => ({ text: template, template, values });
