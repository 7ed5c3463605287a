import { expect, test } from 'vitest';
import fc from 'fast-check';
import { applied, changesBetween, merged, undone } from './merging';

const BASE = {
  name: 'Old light',
  brief: { range_km: 16, budget: 1100 },
  parts: { motors: { name: 'Outrunner', kv: 170 }, pack: { series: 10, cell: { name: '18650' } } },
  orders: [{ name: 'Tern Street' }],
};
const changed = (values: object) => ({ ...structuredClone(BASE), ...values });

test('changes to different things go together', () => {
  const mine = changed({ brief: { range_km: 20, budget: 1100 } });
  const theirs = changed({ brief: { range_km: 16, budget: 900 } });
  expect(merged(BASE, mine, theirs)).toEqual({
    file: changed({ brief: { range_km: 20, budget: 900 } }),
    taken: ['brief.budget'],
  });
});

test('one figure changed on both sides is for the person, unless both say the same', () => {
  const mine = changed({ name: 'Lamp' });
  expect(merged(BASE, mine, changed({ name: 'Lantern' }))).toBeNull();
  expect(merged(BASE, mine, changed({ name: 'Lamp' }))?.file).toEqual(mine);
});

test('a part is one thing: another motor here and its price there do not mix', () => {
  const mine = changed({ parts: { ...BASE.parts, motors: { name: 'Hub', kv: 60 } } });
  const theirs = changed({ parts: { ...BASE.parts, motors: { ...BASE.parts.motors, price: 88 } } });
  expect(merged(BASE, mine, theirs)).toBeNull();
});

test('a list is one thing', () => {
  const mine = changed({ orders: [...BASE.orders, { name: 'Ulvershaw' }] });
  const theirs = changed({ orders: [{ name: 'Tern Street', shipping: 12 }] });
  expect(merged(BASE, mine, theirs)).toBeNull();
});

test('what was taken away here stays away, and what came there comes', () => {
  const { orders: _, ...mine } = BASE;
  const theirs = changed({ parts: { ...BASE.parts, remote: { name: 'Thumb' } } });
  const both = merged<object>(BASE, mine, theirs)!;
  expect(both.file).not.toHaveProperty('orders');
  expect(both.file).toHaveProperty('parts.remote.name', 'Thumb');
});

const files = fc.record(
  {
    name: fc.string(),
    brief: fc.dictionary(fc.constantFrom('range_km', 'budget', 'reserve_pct'), fc.integer()),
    parts: fc.dictionary(
      fc.constantFrom('motors', 'pack', 'deck'),
      fc.dictionary(fc.constantFrom('kv', 'mass'), fc.integer()),
    ),
    orders: fc.array(fc.integer(), { maxLength: 3 }),
  },
  { requiredKeys: [] },
);
/** As text, with its keys in one order, without objects that hold nothing. */
const sorted = (file: unknown): string =>
  JSON.stringify(file, (_, v) => {
    if (!v || typeof v !== 'object' || Array.isArray(v)) return v;
    const kept = Object.entries(v).filter(([, x]) => JSON.stringify(x) !== '{}');
    return Object.fromEntries(kept.sort(([a], [b]) => a.localeCompare(b)));
  });

test('changes lead from one file to the other and back, through the text in which a device keeps them', () => {
  fc.assert(
    fc.property(files, files, (before, after) => {
      const changes = JSON.parse(JSON.stringify(changesBetween(before, after)));
      expect(sorted(applied(before, changes))).toBe(sorted(after));
      expect(sorted(undone(after, changes))).toBe(sorted(before));
    }),
  );
});

test('nothing changed here takes theirs as it is', () => {
  const theirs = changed({ name: 'Lantern' });
  expect(merged(BASE, BASE, theirs)?.file).toEqual(theirs);
});
