type Change = [path: string, value: unknown];

const isRecord = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/** What is one thing to whoever changes it: a whole part, a whole list, a single figure of the rest. */
const WHOLE = /^parts\.[^.]+$/;

function changes(before: unknown, after: unknown, path = ''): Change[] {
  if (JSON.stringify(before) === JSON.stringify(after)) return [];
  if (WHOLE.test(path) || !isRecord(before) || !isRecord(after)) return [[path, after]];
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((key) =>
    changes(before[key], after[key], path ? `${path}.${key}` : key),
  );
}

const overlaps = (a: string, b: string) => a === b || a.startsWith(`${b}.`) || b.startsWith(`${a}.`);

function laid<File>(file: File, [path, value]: Change): File {
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
  const here = changes(base, mine);
  const there = changes(base, theirs);
  const both = here.some(([a, x]) =>
    there.some(([b, y]) => overlaps(a, b) && (a !== b || JSON.stringify(x) !== JSON.stringify(y))),
  );
  if (both) return null;
  return { file: here.reduce<File>(laid, theirs), taken: there.map(([path]) => path) };
}
