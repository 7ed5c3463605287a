import fc from '../testing/property';
import { expect, test } from 'vitest';
import { differences, valueAt, withValue } from './paths';
import { merged } from './sync/merging';

/** Files as the build file has them: records of figures, words, lists and further records. */
const figure = fc.oneof(
  fc.integer({ min: -50, max: 50 }),
  fc.constantFrom('hub', 'belt', 'sealed'),
  fc.boolean(),
);
const KEYS = ['a', 'b', 'c', 'd'];
const { file: files } = fc.letrec<{ node: unknown; file: Record<string, unknown> }>((tie) => ({
  node: fc.oneof(
    { maxDepth: 3, depthSize: 'small' },
    figure,
    tie('file'),
    fc.array(figure, { maxLength: 3 }),
  ),
  file: fc.dictionary(fc.constantFrom(...KEYS), tie('node'), { maxKeys: 4 }) as fc.Arbitrary<
    Record<string, unknown>
  >,
}));
const paths = fc
  .array(fc.constantFrom(...KEYS), { minLength: 1, maxLength: 3 })
  .map((keys) => keys.join('.'));
const copy = <T>(value: T): T => structuredClone(value);

/** A path can be set where every node on its way is a record or missing. */
function canBeSet(file: unknown, path: string): boolean {
  const keys = path.split('.').slice(0, -1);
  return keys.every((_, i) => {
    const node = valueAt(file, keys.slice(0, i + 1).join('.'));
    return node === undefined || (typeof node === 'object' && node !== null && !Array.isArray(node));
  });
}

test('what is set is read back, everything else stays as it is, and the old file is untouched', () => {
  fc.assert(
    fc.property(files, paths, figure, (file, path, value) => {
      fc.pre(canBeSet(file, path));
      const before = copy(file);
      const after = withValue(file, path, value);
      expect(valueAt(after, path)).toBe(value);
      expect(file).toEqual(before);
      for (const { path: other } of differences(before, after))
        expect(other === path || other.startsWith(`${path}.`) || path.startsWith(`${other}.`)).toBe(true);
    }),
  );
});

test('what is not on the path stays the very same object, so that pages redraw only what changed', () => {
  const file = { parts: { drive: { teeth: 15 }, pack: { series: 10 } }, orders: [{ name: 'Tern Street' }] };
  const after = withValue(file, 'parts.drive.teeth', 12);
  expect(after.parts.pack).toBe(file.parts.pack);
  expect(after.orders).toBe(file.orders);
  expect(after.parts).not.toBe(file.parts);
});

test('a value that is removed leaves no key behind, and in a list no gap', () => {
  expect(withValue({ a: { b: 1 } }, 'a.b', null)).toEqual({ a: {} });
  expect(withValue({ list: [1, 2, 3] }, 'list.1', null)).toEqual({ list: [1, 3] });
  expect(withValue({}, 'orders.0.name', 'Tern Street')).toEqual({ orders: [{ name: 'Tern Street' }] });
});

test('a file does not differ from its copy, and differences name both sides', () => {
  fc.assert(
    fc.property(files, (file) => {
      expect(differences(file, copy(file))).toEqual([]);
    }),
  );
  expect(differences({ a: 1, b: { c: 2 } }, { a: 1, b: { c: 3, d: 4 } })).toEqual([
    { path: 'b.c', mine: 2, theirs: 3 },
    { path: 'b.d', mine: undefined, theirs: 4 },
  ]);
});

// --- two devices --------------------------------------------------------------------------------------------------------

const edits = fc.array(fc.tuple(paths, figure), { maxLength: 4 });
const edited = (file: Record<string, unknown>, changes: [string, unknown][]) =>
  changes.reduce((f, [path, value]) => (canBeSet(f, path) ? withValue(f, path, value) : f), file);

test('whatever two devices change, both changes are in the merged file or the person is asked', () => {
  fc.assert(
    fc.property(files, edits, edits, (base, here, there) => {
      const [mine, theirs] = [edited(base, here), edited(base, there)];
      const both = merged(base, mine, theirs);
      if (both === null) return;
      for (const { path } of differences(base, mine))
        expect(valueAt(both.file, path), `mine at ${path}`).toEqual(valueAt(mine, path));
      for (const { path } of differences(base, theirs))
        expect(valueAt(both.file, path), `theirs at ${path}`).toEqual(valueAt(theirs, path));
    }),
    { numRuns: 400 },
  );
});

test('it does not matter which device saves first', () => {
  fc.assert(
    fc.property(files, edits, edits, (base, here, there) => {
      const [mine, theirs] = [edited(base, here), edited(base, there)];
      const [one, other] = [merged(base, mine, theirs), merged(base, theirs, mine)];
      expect(one === null).toBe(other === null);
      if (one) expect(one.file).toEqual(other!.file);
    }),
    { numRuns: 400 },
  );
});

test('a device that changed nothing takes what is there, and nothing is asked', () => {
  fc.assert(
    fc.property(files, edits, (base, there) => {
      const theirs = edited(base, there);
      expect(merged(base, base, theirs)?.file).toEqual(theirs);
      expect(merged(base, theirs, base)?.file).toEqual(theirs);
    }),
  );
});
