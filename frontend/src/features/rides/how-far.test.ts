import { expect, test } from 'vitest';
import type { Schemas } from '$lib/api/client';
import { message } from '../../testing/message';
import { chanceOf, leftAt, type ReadingTable } from './how-far';

const row = (volts: number, charge: number, km: number[]): Schemas['RowOfVolts'] => ({
  volts,
  charge: { low: charge - 0.02, mid: charge, high: charge + 0.02 },
  paces: [{ speed_kmh: 22, km }],
});
const TABLE: ReadingTable = {
  by: 'meter',
  rested: true,
  rows: [row(32, 0.1, [0, 0]), row(36, 0.4, [4, 6]), row(42, 1, [16, 24])],
  below: [
    { volts: 25, says: message('Do not charge it.') },
    { volts: 32, says: message('It is empty.') },
  ],
  above: { volts: 42.5, says: message('It is full already.') },
};
const likely: Schemas['Chance'] = { chance: 0.8, likelihood: 'likely', in_words: '80 % likely', shown: true };
const even: Schemas['Chance'] = {
  chance: 0.5,
  likelihood: 'uncertain',
  in_words: '50 % likely',
  shown: true,
};
const beyond: Schemas['Chance'] = { chance: 0, likelihood: 'unlikely', in_words: 'under', shown: false };

test('a reading between two rows is between them, and one on a row is that row', () => {
  expect(leftAt(TABLE, 39)).toMatchObject({ charge: { mid: 0.7 }, paces: [{ speed_kmh: 22, km: [10, 15] }] });
  expect(leftAt(TABLE, 36)).toMatchObject({ paces: [{ km: [4, 6] }] });
  expect(leftAt(TABLE, 32)).toMatchObject({ paces: [{ km: [0, 0] }] });
});

test('a full pack that reads a little high is full', () => {
  expect(leftAt(TABLE, 42.4)).toMatchObject({ charge: { mid: 1 }, paces: [{ km: [16, 24] }] });
});

test('outside of the rows the core says what the reading means', () => {
  expect(leftAt(TABLE, 22)).toEqual({ says: message('Do not charge it.') });
  expect(leftAt(TABLE, 31.9)).toEqual({ says: message('It is empty.') });
  expect(leftAt(TABLE, 43)).toEqual({ says: message('It is full already.') });
});

test('a way has the chance of the first distance that is as far', () => {
  const answer = { chances: [likely, even], beyond } as Schemas['HowFar'];
  const pace = { speed_kmh: 22, km: [4, 6] };
  expect([3.9, 4, 4.1, 6.1].map((km) => chanceOf(answer, pace, km).in_words)).toEqual([
    '80 % likely',
    '80 % likely',
    '50 % likely',
    'under',
  ]);
});
