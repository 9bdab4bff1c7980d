import type { FloorView } from '@auk/contract';
import { expect, test } from 'vitest';
import { draftOf, floorOf, further, wrongOf } from './draft.js';

const FLOOR: FloorView = {
  aisles: [
    { code: 'A', x: 0, from: 0, to: 16.4 },
    { code: 'B', x: 4, from: 0, to: 16.4 },
  ],
  crossAisles: [
    { code: 'FRONT', y: 0, from: 0, to: 4 },
    { code: 'BACK', y: 16.4, from: 0, to: 4 },
  ],
  start: { way: 'FRONT', along: 0 },
  end: { way: 'BACK', along: 2 },
  places: 0,
  unplaced: 0,
  unplacedCodes: [],
  exact: true,
};

test('a floor typed as it is means the same floor', () => {
  const { aisles, crossAisles, start, end } = FLOOR;
  expect(floorOf(draftOf(FLOOR))).toEqual({ aisles, crossAisles, start, end });
  expect(wrongOf(draftOf(FLOOR))).toEqual([]);
});

test('what cannot be read or walked is named', () => {
  const draft = draftOf(FLOOR);
  const change = (n: number, more: object) => ({
    ...draft,
    ways: draft.ways.map((w, i) => (i === n ? { ...w, ...more } : w)),
  });
  expect(wrongOf(change(1, { at: 'far' }))).toEqual([
    '“far” of B is not a distance up to 2,000 m, such as 12.5 m or 41 ft.',
  ]);
  expect(wrongOf(change(1, { code: ' ' }))).toEqual(['A way has no code.']);
  expect(wrongOf(change(1, { at: '9 m' }))).toEqual([
    'Aisle B cannot be reached from the start. Join it by a cross aisle.',
  ]);
  expect(wrongOf(change(1, { at: '13 ft' }))).toEqual([]);
});

test('a further aisle stands as far from the last as that one from the one before', () => {
  expect(further(draftOf(FLOOR).ways, false)).toEqual({
    cross: false,
    code: '',
    at: '8',
    from: '0',
    to: '16.4',
  });
  expect(further([], true)).toEqual({ cross: true, code: '', at: '0', from: '0', to: '20' });
});
