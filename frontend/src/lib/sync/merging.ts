/** One thing that was changed; an absent value is none. */
export interface Change {
  path: string;
  before?: unknown;
  after?: unknown;
}

const isRecord = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/** What is one thing to whoever changes it: a whole part, a whole list, a single figure of the rest. */
const WHOLE = /^parts\.[^.]+$/;

/** What was changed between two files. */
export function changesBetween(before: unknown, after: unknown, path = ''): Change[] {
  if (before === after || JSON.stringify(before) === JSON.stringify(after)) return [];
  if (WHOLE.test(path) || !isRecord(before) || !isRecord(after)) return [{ path, before, after }];
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((key) =>
    changesBetween(before[key], after[key], path ? `${path}.${key}` : key),
  );
}

/** A file with changes laid on it. */
export function applied<File>(file: File, changes: readonly Change[]): File {
  return changes.reduce((now, { path, after }) => laid(now, path, after), file);
}

/** A file as it was before changes; what they do not touch is left as it is. */
export function undone<File>(file: File, changes: readonly Change[]): File {
  return changes.reduce((now, { path, before }) => laid(now, path, before), file);
}

/** Whether two values say the same, in whatever order. */
export const alike = (one: unknown, other: unknown): boolean => changesBetween(one, other).length === 0;

const overlaps = (a: string, b: string) => a === b || a.startsWith(`${b}.`) || b.startsWith(`${a}.`);

function laid<File>(file: File, path: string, value: unknown): File {
  const lay = (node: unknown, [key, ...rest]: string[]): Record<string, unknown> => {
    const copy = isRecord(node) ? { ...node } : {};
    const next = rest.length ? lay(copy[key!], rest) : value;
    if (next === undefined || next === null) delete copy[key!];
    else copy[key!] = next;
    return copy;
  };
  return lay(file, path.split('.')) as File;
}

/**
 * Mine on top of theirs, where both began with `base` and changed different things: what theirs changed, and the file with both.
 * Null where one thing was changed on both sides; that is for the person to settle.
 */
export function merged<File>(base: File, mine: File, theirs: File): { file: File; taken: string[] } | null {
  const here = changesBetween(base, mine);
  const there = changesBetween(base, theirs);
  const both = here.some((a) =>
    there.some((b) => overlaps(a.path, b.path) && (a.path !== b.path || !alike(a.after, b.after))),
  );
  if (both) return null;
  return { file: applied(theirs, here), taken: there.map((c) => c.path) };
}
