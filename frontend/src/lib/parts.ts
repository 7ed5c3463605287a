import { FIGURES, KINDS } from './api/tables.gen';
import type { BuildFile } from './api/client';
import { figureSpec, plain, written, type UnitChoice } from './units';

/** What a kind of part is called. */
export function kindName(kind: string): string {
  return KINDS[kind]?.name ?? kind;
}

/** The kinds that a library has: a second box is a box there. */
export const LIBRARY_KINDS = Object.keys(KINDS).filter((kind) => !KINDS[kind]!.shelvedAs);

/** Whose something is: the motor’s, the trucks’. */
export function possessive(name: string): string {
  return name.endsWith('s') ? `${name}’` : `${name}’s`;
}

/** Where the build file has a figure of a part, by which its name, unit and span are known. */
export function figurePath(kind: string, key: string): string {
  return `${KINDS[kind]!.path}.${key}`;
}

/** The keys of a kind's figures as a library has them: those of the thing, and those of its listing. */
export function figureKeys(kind: string): { figures: string[]; bought: string[] } {
  const start = `${KINDS[kind]!.path}.`;
  const all = Object.keys(FIGURES).filter((path) => path.startsWith(start));
  const keys = (wanted: (path: string, key: string) => boolean) =>
    all
      .map((path) => [path, path.slice(start.length)] as const)
      .flatMap(([p, k]) => (wanted(p, k) ? [k] : []));
  return {
    bought: keys((path, key) => FIGURES[path]!.group === 'listing' && !key.includes('.')),
    figures: keys((path, key) => FIGURES[path]!.group === undefined && !key.startsWith('purchase.')),
  };
}

/** What the parts of a build are called, by the names that drawings use. */
export function partNames(file: BuildFile): Record<string, string> {
  const parts = (file.parts ?? {}) as Record<string, { name?: string | null } | null | undefined>;
  return Object.fromEntries(
    Object.keys(KINDS)
      .filter((kind) => parts[kind]?.name)
      .map((kind) => [kind, `${kindName(kind)}: ${parts[kind]!.name}`]),
  );
}

/** The figures that decide a part, as short text. */
export function decidingText(kind: string, record: Record<string, unknown>, units: UnitChoice): string {
  return (KINDS[kind]?.deciding ?? [])
    .map((key) => {
      const value = record[key];
      if (value === undefined || value === null) return '';
      if (typeof value !== 'number') return plain(String(value));
      return written(value, figureSpec(figurePath(kind, key)).quantity ?? 'count', units);
    })
    .filter(Boolean)
    .join(', ');
}
