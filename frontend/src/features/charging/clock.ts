import { plural } from '$lib/plural';

/** A minute of the day as a clock shows it. */
export function clockOf(minute: number): string {
  const of = ((Math.round(minute) % 1440) + 1440) % 1440;
  return `${String(Math.floor(of / 60)).padStart(2, '0')}:${String(of % 60).padStart(2, '0')}`;
}

/** How many days before the day it has to be ready, in words. */
export function daysBefore(days: number): string {
  return days === 0 ? '' : ` ${plural(days, ['the day before', '# days before'])}`;
}

/** A span of minutes in hours and minutes. */
export function hoursOf(minutes: number): string {
  const whole = Math.round(minutes);
  if (whole < 60) return `${whole} min`;
  return `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')}`;
}

/** The moment from which the minutes of a charge count, as milliseconds. */
export function beganAt(began: string): number {
  return Date.parse(began);
}

/** This moment as the build file writes one. */
export function nowText(now: number): string {
  return new Date(now).toISOString().replace(/\.\d+Z$/, 'Z');
}
