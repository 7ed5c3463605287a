import { getLocalTimeZone, parseDate, today as dayIn } from '@internationalized/date';
import type { Message } from './api/client';
import { formatMessage, type UnitChoice } from './units';

/** How the person reads: their units, the language of their dates, and the time zone they are in. */
class Reader {
  units = $state.raw<UnitChoice>({});
  readonly locale = navigator.language || 'en';
  readonly zone = getLocalTimeZone();
}

export const reader = new Reader();

/** A sentence or heading of the core in the reader's units. */
export const messageText = (message: Message, currency?: string | null) =>
  formatMessage(message, reader.units, currency);

// Made once: a formatter takes longer than a hundred formats.
const MOMENT = new Intl.DateTimeFormat(reader.locale, { dateStyle: 'medium', timeZone: reader.zone });
const CLOCK = new Intl.DateTimeFormat(reader.locale, { timeStyle: 'short', timeZone: reader.zone });

/** A day of the calendar as the reader writes it; it is the same day everywhere. */
export function dayText(day: string | null | undefined): string {
  if (!day) return '–';
  return new Intl.DateTimeFormat(reader.locale, { dateStyle: 'medium', timeZone: 'UTC' }).format(
    parseDate(day).toDate('UTC'),
  );
}

/** A day as short as it can be told: without its year where that is this one. */
export function shortDay(day: string): string {
  if (day.slice(0, 4) !== today().slice(0, 4)) return dayText(day);
  return new Intl.DateTimeFormat(reader.locale, { day: 'numeric', month: 'short', timeZone: 'UTC' }).format(
    parseDate(day).toDate('UTC'),
  );
}

/** The day of a moment, by the reader's own clock. */
export function momentText(moment: string | null | undefined): string {
  if (!moment) return '–';
  return MOMENT.format(new Date(moment));
}

/** The time of day of a moment, by the reader's own clock. */
export function clockText(moment: string): string {
  return CLOCK.format(new Date(moment));
}

/** Today as the build file writes days, by the reader's calendar. */
export function today(): string {
  return dayIn(reader.zone).toString();
}
