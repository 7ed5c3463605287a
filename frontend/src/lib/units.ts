import { translated } from './api/language';
import { ABBREVIATIONS, FIGURES, QUANTITIES } from './api/tables.gen';
import type { Message } from './api/client';
import type { ConversionSpec, FigureSpec } from './api/specs';

/** Units that the person prefers, by quantity; the rest stay as the build file has them. */
export type UnitChoice = Record<string, string>;

function apply(c: ConversionSpec, typed: number): number {
  return c.form === 'tangent' ? 100 * Math.tan((typed * Math.PI) / 180) : typed * c.factor + c.offset;
}

function invert(c: ConversionSpec, kept: number): number {
  return c.form === 'tangent' ? (Math.atan(kept / 100) * 180) / Math.PI : (kept - c.offset) / c.factor;
}

/** The unit that a quantity is shown in, and how to get there. */
export function shownUnit(quantity: string, units: UnitChoice): { unit: string; how: ConversionSpec } {
  const spec = QUANTITIES[quantity];
  if (!spec) return { unit: '', how: { factor: 1, offset: 0, form: 'linear', decimals: 2 } };
  const unit = units[quantity] && spec.shown[units[quantity]] ? units[quantity] : Object.keys(spec.shown)[0]!;
  return { unit, how: spec.shown[unit]! };
}

/** A build-file value as a number in the shown unit. */
export function toShown(value: number, quantity: string, units: UnitChoice): number {
  return invert(shownUnit(quantity, units).how, value);
}

function digits(value: number, most: number): string {
  return value.toLocaleString('en', { maximumFractionDigits: most, useGrouping: Math.abs(value) >= 10000 });
}

export interface Written {
  number: string;
  unit: string;
}

/** A build-file value as it is read: number and unit apart. */
export function write(value: number, quantity: string, units: UnitChoice, currency?: string | null): Written {
  if (quantity === 'money') {
    const whole = Number.isInteger(value) || Math.abs(value) >= 1000;
    return { number: value.toFixed(whole ? 0 : 2), unit: currencySign(currency) };
  }
  const { unit, how } = shownUnit(quantity, units);
  return { number: digits(invert(how, value), how.decimals), unit };
}

/** The sign of a currency, or its letters where it has none. */
export function currencySign(currency?: string | null): string {
  if (!currency) return '';
  try {
    return (
      new Intl.NumberFormat('en', { style: 'currency', currency, currencyDisplay: 'narrowSymbol' })
        .formatToParts(0)
        .find((p) => p.type === 'currency')?.value ?? currency
    );
  } catch {
    return currency;
  }
}

/** Number and unit as one text, with a space that does not break; degrees of an angle stand close. */
export function written(
  value: number,
  quantity: string,
  units: UnitChoice,
  currency?: string | null,
): string {
  const w = write(value, quantity, units, currency);
  const close = w.unit === '°';
  return w.unit ? `${w.number}${close ? '' : '\u00a0'}${w.unit}` : w.number;
}

/** A sentence of the core with its figures in the person's units. */
export function formatMessage(message: Message, units: UnitChoice, currency?: string | null): string {
  return translated(message.template).replace(/\{(\w+)\}/g, (whole, name: string) => {
    const value = message.values[name];
    if (value === undefined) return whole;
    if (typeof value === 'string') return value;
    return 'template' in value
      ? formatMessage(value, units, currency)
      : written(value.value, value.quantity, units, currency);
  });
}

export type Parsed = { value: number | null } | { reason: string };

/** What was typed into a field: a number in the shown unit, or with any unit of its quantity after a number. */
export function parse(text: string, spec: FigureSpec, units: UnitChoice): Parsed {
  const trimmed = text.trim().replace(/\u00a0/g, ' ');
  if (!trimmed) return { value: null };
  // Inches are written as fractions: 3/16", 1 1/2 in.
  const fraction = /^([+-]?)(?:(\d+)[ -])?(\d+)\/([1-9]\d*)\s*(.*)$/.exec(trimmed);
  const decimal = /^([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d+)?)\s*(.*)$/i.exec(trimmed);
  const match = fraction ?? decimal;
  if (!match) return { reason: `Enter a number, not “${trimmed.slice(0, 30)}”.` };
  const number = fraction
    ? (fraction[1] === '-' ? -1 : 1) * (Number(fraction[2] ?? 0) + Number(fraction[3]) / Number(fraction[4]))
    : Number(match[1]!.replace(',', '.'));
  const quantity = QUANTITIES[spec.quantity ?? 'count']!;
  const given = match
    .at(-1)!
    .trim()
    .replace(/^[”″]$/, '"');
  const how = given
    ? Object.entries(quantity.typed).find(([name]) => name.toLowerCase() === given.toLowerCase())?.[1]
    : shownUnit(spec.quantity ?? 'count', units).how;
  if (!how) {
    const known = Object.keys(quantity.typed).filter(Boolean).join(', ');
    return {
      reason: known
        ? `“${given}” is not a unit here; use ${known}.`
        : `Enter only a number, without “${given}”.`,
    };
  }
  const value = Number(apply(how, number).toPrecision(12));
  return outOfSpan(value, spec, units) ?? { value };
}

/** Why a value cannot stand in a field, in the person's units; the spans are the core's. */
function outOfSpan(value: number, spec: FigureSpec, units: UnitChoice): { reason: string } | null {
  if (!Number.isFinite(value)) return { reason: 'Enter a finite number.' };
  if (spec.whole && !Number.isInteger(value)) return { reason: 'Enter a whole number.' };
  if (spec.low === undefined || spec.high === undefined) return null;
  if (value >= spec.low && value <= spec.high) return null;
  const q = spec.quantity ?? 'count';
  const found = Number(toShown(value, q, units).toPrecision(4)); // with the digits for which it is outside
  return {
    reason: `${[found, shownUnit(q, units).unit].filter(Boolean).join('\u00a0')} is outside ${written(spec.low, q, units)} to ${written(spec.high, q, units)}.`,
  };
}

/** The core's word on a field; list positions stand as * there. */
export function figureSpec(path: string): FigureSpec {
  return FIGURES[path.replace(/\.\d+\./g, '.*.')] ?? { title: path.split('.').at(-1)! };
}

/** A word of the build file as it is read. */
export function plain(word: string | number): string {
  return (ABBREVIATIONS as readonly string[]).includes(String(word))
    ? String(word).toUpperCase()
    : translated(String(word).replaceAll('_', ' '));
}

/** A value of the build file as it is read, by its path; a dash where there is none. */
export function valueText(path: string, value: unknown, units: UnitChoice, currency?: string | null): string {
  if (value === null || value === undefined) return '–';
  if (typeof value === 'number') return written(value, figureSpec(path).quantity ?? 'count', units, currency);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'object') return JSON.stringify(value);
  return plain(String(value));
}

const PLACES: Record<string, string> = {
  parts: '',
  brief: 'Brief',
  rider: 'Rider',
  settings: 'Settings',
  assumptions: 'Assumptions',
  pack_assembly: 'Pack as it is made',
};

/** The part or section of the build file that a path leads into. */
export function placeOf(path: string): string {
  return path
    .split('.')
    .slice(0, -1)
    .map((step) => PLACES[step] ?? plain(step))
    .filter(Boolean)
    .join(', ');
}

const SECTIONS: Record<string, string> = {
  settings: 'Settings',
  assumptions: 'Pinned assumptions',
  rider: 'Who rides',
  brief: 'The brief',
  'parts.motors': 'Motor',
  'parts.enclosure': 'Enclosure',
  'parts.wiring': 'Wire',
  pack_assembly: 'The pack you make',
};

/** The title of a part or section in which builds differ, such as `parts.drive`. */
export function sectionTitle(section: string): string {
  const word = plain(section.replace('parts.', ''));
  return SECTIONS[section] ?? word.charAt(0).toUpperCase() + word.slice(1);
}

/** An amount as it stands on a bill: to the hundredth, always. */
export function billed(value: number, currency?: string | null): string {
  const amount = value.toLocaleString('en', { minimumFractionDigits: 2, maximumFractionDigits: 2 });
  const sign = currencySign(currency);
  return sign ? `${amount}\u00a0${sign}` : amount;
}
