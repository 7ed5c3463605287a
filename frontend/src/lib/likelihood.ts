/** How the core's verdict on a chance is drawn: by colour and by sign. */
export const LIKELIHOOD_TONE = {
  likely: 'text-holds',
  uncertain: 'text-unsure',
  unlikely: 'text-short',
} as const;
export const LIKELIHOOD_MARK = { likely: '✓', uncertain: '~', unlikely: '✕' } as const;
