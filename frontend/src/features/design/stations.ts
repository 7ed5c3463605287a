import { FIGURES, KINDS, STATIONS as SPECS } from '$lib/api/tables.gen';
import type { BuildFile, Finding } from '$lib/api/client';
import type { HandleSpec, StationSpec } from '$lib/api/specs';
import { decidingText, kindName } from '$lib/parts';
import { valueAt } from '$lib/paths';
import { written, type UnitChoice } from '$lib/units';

/** One kind of part within a station. `field` is where the build file keeps it. */
export interface Slot {
  kind: string;
  field: string;
  name: string;
  /** Whether a board has a list of them. */
  several: boolean;
}

/** A step of choosing, with what is chosen there. */
export interface Station extends StationSpec {
  slots: Slot[];
}

export type Handle = HandleSpec;

export const STATIONS: Station[] = SPECS.map((spec) => ({
  ...spec,
  slots: spec.kinds.map((kind) => ({
    kind,
    field: KINDS[kind]!.path.replace('.*', ''),
    name: kindName(kind),
    several: KINDS[kind]!.several,
  })),
}));

/** Whether a finding touches what stands at a station. */
export function touches(station: Station, finding: Finding): boolean {
  const names = [station.id, ...station.slots.map((s) => s.kind)];
  if (station.id === 'controller') names.push('settings');
  return finding.about.some((a) => names.includes(a));
}

/** The figures of a part or section, in the core's order: those that decide, and those of its listing and buying. */
export function fieldsOf(field: string): { deciding: string[]; bought: string[] } {
  const own = Object.keys(FIGURES).filter(
    (path) => path.startsWith(`${field}.`) && !path.slice(field.length + 1).includes('.'),
  );
  const group = (path: string) => FIGURES[path]!.group;
  return {
    deciding: own.filter((p) => group(p) === undefined || group(p) === 'board'),
    bought: own.filter((p) => (group(p) === 'listing' || group(p) === 'buying') && !p.endsWith('.currency')),
  };
}

/** What a station shows of itself on the route: its part, and one deciding figure. */
export function stationSummary(
  station: Station,
  file: BuildFile,
  units: UnitChoice,
): { part: string; figure: string; chosen: boolean } {
  const parts = (file.parts ?? {}) as Record<string, Record<string, unknown> | null | undefined>;
  if (station.id === 'brief') {
    const brief = file.brief ?? {};
    const hill = brief.hill_grade_pct != null ? `${written(brief.hill_grade_pct, 'grade', units)} hill` : '';
    const way = brief.range_km != null ? written(brief.range_km, 'distance', units) : '';
    const text = [way, hill].filter(Boolean).join(', ');
    return {
      part: text || 'say what it is for',
      figure: written(file.rider.mass_kg, 'body_mass', units),
      chosen: Boolean(text),
    };
  }
  if (station.id === 'extras') {
    const all = station.slots.flatMap((s) => listAt(file, s.field).map((one) => one.name ?? s.name));
    return {
      part: all.length ? all.join(', ') : 'nothing yet',
      figure: all.length ? String(all.length) : '',
      chosen: all.length > 0,
    };
  }
  const first = station.slots.map((s) => ({ s, record: parts[s.kind] })).filter(({ record }) => record);
  if (!first.length) return { part: 'not chosen yet', figure: '', chosen: false };
  const { s, record } = first[0]!;
  const name = String(record!.name ?? decidingText(s.kind, record!, units));
  const number = (key: string, quantity: string) =>
    typeof record![key] === 'number' ? written(record![key] as number, quantity, units) : '';
  const figure =
    s.kind === 'drive' && record!.motor_teeth && record!.wheel_teeth
      ? `${record!.motor_teeth} : ${record!.wheel_teeth}`
      : s.kind === 'motors'
        ? `${record!.count ?? 1} ×`
        : s.kind === 'pack'
          ? `${record!.series ?? '?'} × ${record!.parallel ?? 1}`
          : s.kind === 'controller'
            ? number('max_v', 'voltage')
            : s.kind === 'enclosure'
              ? number('depth_mm', 'length')
              : s.kind === 'wheels'
                ? number('diameter_mm', 'length')
                : number('mass_g', 'mass');
  return {
    part: first.map(({ record: r, s: t }) => String(r!.name ?? t.name)).join('; ') || name,
    figure,
    chosen: true,
  };
}

/** The parts of a kind of which a board has a list. */
export function listAt(file: BuildFile, field: string): { name?: string | null; count?: number | null }[] {
  return (valueAt(file, field) ?? []) as { name?: string | null; count?: number | null }[];
}

/** The station at which a figure of the build is entered, if there is one. */
export function stationOf(path: string): Station | undefined {
  return STATIONS.find(
    (s) =>
      s.slots.some((slot) => path.startsWith(slot.field)) ||
      s.sections.some((section) => path.startsWith(section.field)),
  );
}
