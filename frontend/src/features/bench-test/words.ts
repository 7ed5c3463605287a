import type { Schemas } from '$lib/api/client';

/** Mark, colour and word of each verdict of the core on a step. */
export const VERDICTS: Record<Schemas['Step']['verdict'], [string, string, string]> = {
  open: ['○', 'text-ink2', 'still to do'],
  passes: ['✓', 'text-holds', 'passes'],
  unsure: ['~', 'text-unsure', 'odd'],
  fails: ['✕', 'text-short', 'fails'],
  'left out': ['–', 'text-unsure', 'left out'],
};

/** How a whole test stands, in words and colour. */
export const STANDINGS: Record<Schemas['BenchTestReport']['standing'], [string, string]> = {
  'not begun': ['Not begun', 'text-ink2'],
  'under way': ['Under way', 'text-ink2'],
  fails: ['✕ fails', 'text-short'],
  unsure: ['~ something is odd', 'text-unsure'],
  passes: ['✓ as expected', 'text-holds'],
};
