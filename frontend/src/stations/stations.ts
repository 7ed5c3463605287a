import { FIGURES } from '$lib/api/tables.gen';
import type { BuildFile } from '$lib/api/client';
import { plain, written, type UnitChoice } from '$lib/units';

/** One kind of part within a station. `field` is where the build file keeps it. */
export interface Slot {
  kind: string;
  field: string;
  name: string;
}

/** A step of choosing, in the order in which builders take it. */
export interface Station {
  id: string;
  name: string;
  slots: Slot[];
  /** Sections of the build file that are entered here beside the parts. */
  sections: { field: string; name: string }[];
  remark: string;
}

const slot = (kind: string, name: string, field = `parts.${kind}`): Slot => ({ kind, field, name });

export const STATIONS: Station[] = [
  {
    id: 'brief',
    name: 'Brief',
    slots: [],
    sections: [
      { field: 'rider', name: 'Who rides' },
      { field: 'brief', name: 'What it is for' },
    ],
    remark:
      'The hill on the way, the distance of a day, what you can lift and spend. Boards planned without it end up with a pack three times too big, or stranded.',
  },
  {
    id: 'deck',
    name: 'Deck',
    slots: [slot('deck', 'Deck')],
    sections: [],
    remark:
      'Long wheelbases are calm, short ones nimble and carried easily. A flat underside is where the box goes.',
  },
  {
    id: 'trucks',
    name: 'Trucks',
    slots: [slot('trucks', 'Trucks'), slot('risers', 'Risers')],
    sections: [],
    remark:
      'The hanger has to be one that the motor mount clamps; its width decides whether two motors fit side by side.',
  },
  {
    id: 'wheels',
    name: 'Wheels',
    slots: [slot('wheels', 'Wheels')],
    sections: [],
    remark:
      'Bigger wheels roll over more and raise the gearing; the core has to be the one the wheel pulley keys into.',
  },
  {
    id: 'motor',
    name: 'Motor',
    slots: [slot('motors', 'Motor')],
    sections: [],
    remark:
      'Low KV gives more torque for each ampere and less speed. One motor is lighter and cheaper; two give grip, brakes and hills.',
  },
  {
    id: 'drive',
    name: 'Pulleys',
    slots: [slot('drive', 'Drive')],
    sections: [],
    remark: 'Smaller motor pulleys climb better and spin slower; with few teeth in mesh a belt skips.',
  },
  {
    id: 'pack',
    name: 'Pack',
    slots: [slot('pack', 'Pack'), slot('cell', 'Cell', 'parts.pack.cell')],
    sections: [{ field: 'parts.pack.protection', name: 'Protection board' }],
    remark:
      'Bricks are cheap, strong and short-lived; welded cells last and charge with one plug. Charging to 4.1 V a cell instead of 4.2 V about doubles the life.',
  },
  {
    id: 'power',
    name: 'Power path',
    slots: [
      slot('switch', 'Switch'),
      slot('fuse', 'Fuse'),
      slot('wiring', 'Wire'),
      slot('charger', 'Charger'),
    ],
    sections: [],
    remark:
      'A loop plug costs little and you hold the key; an electronic switch is rated in volts and amperes. The charger must suit chemistry and cell count.',
  },
  {
    id: 'controller',
    name: 'Controller',
    slots: [slot('controller', 'Controller')],
    sections: [{ field: 'settings', name: 'Set in the controller' }],
    remark:
      'Its voltage has to stand the full pack, not the nominal one. Write down what you set: after a reset nobody remembers.',
  },
  {
    id: 'remote',
    name: 'Remote',
    slots: [slot('remote', 'Remote')],
    sections: [],
    remark: 'A lost link takes the brake away: being able to stop on foot is part of riding.',
  },
  {
    id: 'box',
    name: 'Box',
    slots: [slot('enclosure', 'Box')],
    sections: [],
    remark:
      'Flush with the deck or it cracks after months; gasket foam follows the concave. Splash-proof is realistic, immersion is not.',
  },
  {
    id: 'extras',
    name: 'Extras',
    slots: [slot('extra', 'Extra', 'parts.extras')],
    sections: [{ field: 'assumptions', name: 'Pinned assumptions' }],
    remark:
      'Bearings, bolts, threadlocker, spare belts: the small things that are forgotten and ordered last.',
  },
];

const BOUGHT = ['name', 'maker', 'price', 'currency', 'owned', 'mass_g', 'source', 'notes'];
const LEFT_OUT = ['measured', 'currency'];

/** The figures of a part or section, in the core's order: those that decide, and those of buying it. */
export function fieldsOf(field: string): { deciding: string[]; bought: string[] } {
  const own = Object.keys(FIGURES).filter(
    (path) => path.startsWith(`${field}.`) && !path.slice(field.length + 1).includes('.'),
  );
  const key = (path: string) => path.slice(field.length + 1);
  const isPart = own.some((path) => key(path) === 'owned');
  return {
    deciding: own.filter((p) => !LEFT_OUT.includes(key(p)) && !(isPart && BOUGHT.includes(key(p)))),
    bought: isPart ? own.filter((p) => BOUGHT.includes(key(p)) && !LEFT_OUT.includes(key(p))) : [],
  };
}

const DECIDING: Record<string, string[]> = {
  deck: ['length_mm', 'wheelbase_mm', 'mount'],
  trucks: ['hanger_mm', 'profile'],
  risers: ['height_mm'],
  wheels: ['diameter_mm', 'hardness_a', 'kind'],
  motors: ['can_diameter_mm', 'kv_rpm_per_v', 'kind'],
  drive: ['motor_teeth', 'wheel_teeth', 'kind'],
  pack: ['series', 'parallel'],
  cell: ['capacity_ah', 'max_discharge_a', 'chemistry'],
  controller: ['max_v', 'max_motor_current_a'],
  charger: ['v', 'a'],
  remote: ['link'],
  switch: ['kind', 'max_a'],
  fuse: ['a'],
  wiring: ['awg'],
  enclosure: ['length_mm', 'depth_mm'],
};

/** The figures that decide a part, as short text. */
export function decidingText(kind: string, record: Record<string, unknown>, units: UnitChoice): string {
  const keys = DECIDING[kind] ?? [];
  return keys
    .map((key) => {
      const value = record[key];
      const spec = FIGURES[`parts.${kind === 'cell' ? 'pack.cell' : kind}.${key}`];
      if (value === undefined || value === null) return '';
      if (typeof value === 'number') return written(value, spec?.quantity ?? 'count', units);
      return plain(String(value));
    })
    .filter(Boolean)
    .join(', ');
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
    const extras = file.parts?.extras ?? [];
    return {
      part: extras.length ? extras.map((e) => e.name ?? 'extra').join(', ') : 'nothing yet',
      figure: extras.length ? String(extras.length) : '',
      chosen: extras.length > 0,
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
