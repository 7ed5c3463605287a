import { expect, test } from 'vitest';
import { merged } from './merging';

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

test('nothing changed here takes theirs as it is', () => {
  const theirs = changed({ name: 'Lantern' });
  expect(merged(BASE, BASE, theirs)?.file).toEqual(theirs);
});
