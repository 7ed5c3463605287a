import type { Schemas } from '$lib/api/client';
import { toShown, written, type UnitChoice } from '$lib/units';

export interface Shown {
  text: string;
  tone: string;
  /** How far the change itself may lie off, where that is worth a digit. */
  unsure?: string;
}

/** What a choice makes of an outcome, in a person's units: a change with its sign, its doubt and its colour. */
export function changeText(change: Schemas['Change'] | undefined, units: UnitChoice): Shown {
  if (!change || change.mid == null) return { text: '–', tone: 'text-ink2' };
  if (change.change == null) return { text: written(change.mid, change.quantity, units), tone: '' };
  if (change.better == null) return { text: '0', tone: 'text-ink2' };
  // Differences of shown values, so that degrees and °F come out right too.
  const before = change.mid - change.change;
  const shown = (by: number) => toShown(before + by, change.quantity, units);
  const difference = shown(change.change) - shown(0);
  const places =
    change.name === 'carry' ? 2 : change.name === 'money' ? (Number.isInteger(difference) ? 0 : 2) : 1;
  const spread =
    change.low != null && change.high != null ? Math.abs(shown(change.high) - shown(change.low)) / 2 : 0;
  return {
    text: `${difference > 0 ? '+' : '−'}${Math.abs(difference).toFixed(places)}`,
    unsure: Number(spread.toFixed(places)) > 0 ? `±${spread.toFixed(places)}` : undefined,
    tone: !change.sure ? 'text-ink2' : change.better ? 'text-holds' : 'text-short',
  };
}
