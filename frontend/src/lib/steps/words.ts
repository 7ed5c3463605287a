import type { StepStatus } from './work.svelte';

type State = StepStatus['state'];

/** A sign, a tone and a word for how a step stands: never by colour alone. */
export const STATES: Record<State, { sign: string; tone: string; word: string }> = {
  done: { sign: '✓', tone: 'text-holds', word: 'done' },
  left_out: { sign: '–', tone: 'text-ink2', word: 'left out' },
  again: { sign: '↻', tone: 'text-unsure', word: 'look again' },
  ready: { sign: '○', tone: 'text-acting', word: 'can be done' },
  waits: { sign: '·', tone: 'text-ink2', word: 'not yet' },
  parcel: { sign: '□', tone: 'text-ink2', word: 'waits for a part' },
};

/** Minutes as people say them. */
export function lasting(minutes: number): string {
  if (minutes < 50) return `${Math.round(minutes)} min`;
  const hours = minutes / 60;
  return `${hours < 10 ? Math.round(hours * 2) / 2 : Math.round(hours)} h`;
}

/** A span of minutes in one unit. */
export function between(span: { low: number; high: number }): string {
  if (span.high < 50) return `${Math.round(span.low)} to ${Math.round(span.high)} min`;
  const hours = (m: number) => (m < 600 ? Math.round(m / 30) / 2 : Math.round(m / 60));
  return `${hours(span.low)} to ${hours(span.high)} h`;
}
