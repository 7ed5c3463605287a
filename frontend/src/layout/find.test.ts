import { expect, test } from 'vitest';
import { boardEntries, search, indexOf, partEntries, fixedEntries } from './find';

const index = indexOf([
  ...fixedEntries('b1'),
  ...boardEntries([{ id: 'b2', name: 'Harbour round' }]),
  ...partEntries([{ id: 'p1', kind: 'motors', record: { name: 'Outrunner 63 x 55 mm, 170 KV' } }]),
]);
const first = (words: string) => search(index, words)[0]?.entries[0];
const all = (words: string) => search(index, words).flatMap((g) => g.entries);

test.each([
  ['BMS', 'BMS'],
  ['ESC', 'Controller'],
  ['speed controller', 'Controller'],
  ['lipo', 'Pack'],
  ['bom', 'Parts list'],
  ['durometer', 'Hardness'],
  ['grip tape', 'Extra'],
  ['standoff', 'Risers'],
  ['harbour', 'Harbour round'],
  ['170 KV', 'Outrunner 63 x 55 mm, 170 KV'],
  ['regen', 'Regenerative braking'],
])('“%s” finds %s', (words, title) => {
  expect(all(words).map((e) => e.title)).toContain(title);
});

test('any count of cells finds the cell counts', () => {
  for (const words of ['10S4P', '12s3p', '6S'])
    expect(all(words).map((e) => e.href)).toContain('/builds/b1/design?at=parts.pack.series');
});

test('a page by its title comes first, and a field leads to where it is entered', () => {
  expect(first('Wiring')).toMatchObject({ group: 'Pages', href: '/builds/b1/wiring' });
  expect(all('motor current').map((e) => e.href)).toContain('/builds/b1/design?at=settings.motor_current_a');
});

test('without a board there are no fields and no pages of a board, and nothing for nonsense', () => {
  const outside = indexOf(fixedEntries(null));
  expect(search(outside, 'wiring').flatMap((g) => g.entries.map((e) => e.href))).not.toContain(
    '/builds/b1/wiring',
  );
  expect(search(outside, 'library')[0]?.entries[0]?.href).toBe('/library');
  expect(search(outside, 'xyzzy')).toEqual([]);
});
