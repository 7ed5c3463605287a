import { FIGURES, KINDS, type FigurePath } from '$lib/api/tables.gen';
import type { BuildFile, Finding } from '$lib/api/client';
import { decidingText, kindName } from '$lib/parts';
import { written, type UnitChoice } from '$lib/units';

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
  /** Where builders disagree: the question, and each side in its own words. */
  schools?: [string, string, string][];
  handles?: Handle[];
}

/** A figure that can be dragged, and how far: a handle's reach on the screen, not a rule. */
export interface Handle {
  path: FigurePath;
  name?: string;
  low: number;
  high: number;
  step: number;
}

const handle = (path: FigurePath, low: number, high: number, step: number, name?: string): Handle => ({
  path,
  low,
  high,
  step,
  name,
});

const slot = (kind: string): Slot => ({
  kind,
  field: KINDS[kind]!.path.replace('.*', ''),
  name: kindName(kind),
});

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
    slots: [slot('deck')],
    sections: [],
    remark:
      'Long wheelbases are calm, short ones nimble and carried easily. A flat underside is where the box goes.',
  },
  {
    id: 'trucks',
    name: 'Trucks',
    slots: [slot('trucks'), slot('risers')],
    sections: [],
    remark:
      'The hanger has to be one that the motor mount clamps; its width decides whether two motors fit side by side.',
  },
  {
    id: 'wheels',
    name: 'Wheels',
    slots: [slot('wheels')],
    sections: [],
    remark:
      'Bigger wheels roll over more and raise the gearing; the core has to be the one the wheel pulley keys into.',
    handles: [handle('parts.wheels.diameter_mm', 70, 200, 1)],
  },
  {
    id: 'motor',
    name: 'Motor',
    slots: [slot('motors')],
    sections: [],
    remark:
      'Low KV gives more torque for each ampere and less speed. One motor is lighter and cheaper; two give grip, brakes and hills.',
    schools: [
      ['One or two', 'One: lighter and cheaper.', 'Two: grip, brakes and hills.'],
      [
        'Belt or hub',
        'Belt: torque, and any ratio; spares are carried.',
        'Hub: clean, quiet, pushes freely.',
      ],
    ],
    handles: [
      handle('parts.motors.kv_rpm_per_v', 60, 400, 5, 'KV'),
      handle('parts.motors.count', 1, 4, 1),
      handle('settings.motor_current_a', 5, 120, 1),
    ],
  },
  {
    id: 'drive',
    name: 'Drive',
    slots: [slot('drive')],
    sections: [],
    remark: 'Smaller motor pulleys climb better and spin slower; with few teeth in mesh a belt skips.',
    handles: [
      handle('parts.drive.motor_teeth', 9, 30, 1),
      handle('parts.drive.wheel_teeth', 28, 72, 1),
      handle('parts.drive.belt_teeth', 40, 90, 1),
    ],
  },
  {
    id: 'pack',
    name: 'Pack',
    slots: [slot('pack'), slot('cell')],
    sections: [{ field: 'parts.pack.protection', name: 'Protection board' }],
    remark:
      'Bricks are cheap, strong and short-lived; welded cells last and charge with one plug. Charging to 4.1 V a cell instead of 4.2 V about doubles the life.',
    schools: [
      [
        'Cells',
        'Bricks: price, punch, a quick charge.',
        'Welded block: life, one plug, safer when treated roughly.',
      ],
      ['Size', 'As big as fits.', 'Sized to the daily ride and a reserve.'],
      ['Charge', '4.2 V a cell: all the range.', '4.1 V: about twice the life, and brakes from the start.'],
      ['Origin', 'New.', 'Salvaged: a third of the price, measured and matched.'],
    ],
    handles: [
      handle('parts.pack.series', 4, 16, 1, 'In series'),
      handle('parts.pack.parallel', 1, 8, 1, 'In parallel'),
      handle('settings.pack_current_a', 5, 120, 1),
    ],
  },
  {
    id: 'power',
    name: 'Power path',
    slots: [slot('switch'), slot('fuse'), slot('wiring'), slot('charger')],
    sections: [],
    remark:
      'A loop plug costs little and you hold the key; an electronic switch is rated in volts and amperes. The charger must suit chemistry and cell count.',
    schools: [
      [
        'Protection',
        'The board carries everything.',
        'The board is for charging only, the controller cuts off.',
      ],
      [
        'Switch',
        'Loop plug: cheap, and you hold the key.',
        'Electronic: comfort, rated in volts and amperes.',
      ],
    ],
  },
  {
    id: 'controller',
    name: 'Controller',
    slots: [slot('controller')],
    sections: [{ field: 'settings', name: 'Set in the controller' }],
    remark:
      'Its voltage has to stand the full pack, not the nominal one. Write down what you set: after a reset nobody remembers.',
    schools: [['Kind', 'Boxed: cheap, fixed, works.', 'Programmable: recorded and tuned, starts smoothly.']],
    handles: [
      handle('settings.motor_current_a', 5, 120, 1),
      handle('settings.motor_brake_a', 0, 120, 1),
      handle('settings.pack_current_a', 5, 120, 1),
      handle('settings.pack_regen_a', 0, 40, 0.5),
    ],
  },
  {
    id: 'remote',
    name: 'Remote',
    slots: [slot('remote')],
    sections: [],
    remark: 'A lost link takes the brake away: being able to stop on foot is part of riding.',
  },
  {
    id: 'box',
    name: 'Box',
    slots: [slot('enclosure')],
    sections: [],
    remark:
      'Flush with the deck or it cracks after months; gasket foam follows the concave. Splash-proof is realistic, immersion is not.',
    schools: [['Fixing', 'Hook tape and straps: off in a moment.', 'Screws, inserts, T-nuts: stays on.']],
  },
  {
    id: 'extras',
    name: 'Extras',
    slots: [slot('extra')],
    sections: [{ field: 'assumptions', name: 'Pinned assumptions' }],
    remark:
      'Bearings, bolts, threadlocker, spare belts: the small things that are forgotten and ordered last.',
  },
];

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

/** The station at which a figure of the build is entered, if there is one. */
export function stationOf(path: string): Station | undefined {
  return STATIONS.find(
    (s) =>
      s.slots.some((slot) => path.startsWith(slot.field)) ||
      s.sections.some((section) => path.startsWith(section.field)),
  );
}
