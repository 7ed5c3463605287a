type Node = Record<string, unknown> | unknown[];

/** The value at a dotted path of a file. */
export function valueAt(file: unknown, path: string): unknown {
  return path
    .split('.')
    .reduce<unknown>((node, key) => (node as Record<string, unknown> | null)?.[key], file);
}

/** A copy of the file with one value set; null takes the key away. What is not on the path stays the same object. */
export function withValue<File>(file: File, path: string, value: unknown): File {
  return set(file as Node, path.split('.'), value) as File;
}

function set(node: Node | null | undefined, [key, ...rest]: string[], value: unknown): Node {
  const isList = Array.isArray(node) || (!node && /^\d+$/.test(key!));
  const copy: Node = isList ? [...((node ?? []) as unknown[])] : { ...node };
  const record = copy as Record<string, unknown>;
  const next = rest.length ? set(record[key!] as Node, rest, value) : value;
  if (next !== null && next !== undefined) record[key!] = next;
  else if (Array.isArray(copy)) copy.splice(Number(key), 1);
  else delete record[key!];
  return copy;
}

export interface Difference {
  path: string;
  mine: unknown;
  theirs: unknown;
}

/** Every value in which two build files differ. */
export function differences(mine: unknown, theirs: unknown, path = ''): Difference[] {
  if (Object.is(mine, theirs)) return [];
  const isNode = (v: unknown) => typeof v === 'object' && v !== null;
  if (!isNode(mine) && !isNode(theirs)) return [{ path, mine, theirs }];
  const a = (mine ?? {}) as Record<string, unknown>;
  const b = (theirs ?? {}) as Record<string, unknown>;
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].flatMap((key) =>
    differences(a[key], b[key], path ? `${path}.${key}` : key),
  );
}
