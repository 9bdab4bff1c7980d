import { expect, test } from 'vitest';
import { evenLayout } from '../picking/layout.js';
import { guessColumns } from './columns.js';
import { LAYOUT_FIELDS, readLayoutFile } from './layoutFile.js';

const HEAD = 'Kind,Code,X,Y,From,To,Aisle,Along,Side,Area';
const file = (...lines: string[]) => {
  const rows = [HEAD, ...lines].map(l => l.split(','));
  return readLayoutFile(rows, guessColumns(LAYOUT_FIELDS, rows[0]!));
};
const FLOOR = ['aisle,A,0,,0,20', 'aisle,B,3 m,,0,20', 'cross aisle,FRONT,,0,0,3', 'cross,BACK,,20,0,3'];

test('a floor with its places, in metres or feet', () => {
  const { items, bad, leftOut } = file(
    ...FLOOR,
    'place,A-1,,,,,A,10 ft,left,Shelves',
    'place,b-2,,,,,b,12.5,R,',
  );
  expect([bad, leftOut]).toEqual([[], []]);
  expect(items.map(i => i.item)).toEqual([
    { type: 'floor', layout: evenLayout({ aisles: 2, length: 200_000, pitch: 30_000 }) },
    { type: 'place', code: 'A-1', aisle: 'A', along: 30_480, side: 'left', area: 'Shelves' },
    { type: 'place', code: 'B-2', aisle: 'B', along: 125_000, side: 'right', area: null },
  ]);
});

test('walks begin and end where the file says', () => {
  const { items } = file(...FLOOR, 'start,,,,,,BACK,1', 'end,,,,,,A,5');
  expect(items[0]!.item).toMatchObject({
    layout: { start: { cross: 1, along: 10_000 }, end: { aisle: 0, along: 50_000 } },
  });
});

test('what cannot be walked is said of its row, and nothing of the floor is taken', () => {
  const broken = file(
    'aisle,A,0,,0,20',
    'aisle,B,3,,0,20',
    'aisle,Z,9,,0,20',
    ...FLOOR.slice(2),
    'place,A-1,,,,,A,1',
  );
  expect(broken.items).toEqual([]);
  expect(broken.bad).toEqual([
    {
      row: 4,
      column: 'floor',
      value: 'Z',
      why: 'Aisle Z cannot be reached from the start. Join it by a cross aisle.',
    },
  ]);
  expect(broken.leftOut).toHaveLength(6);
  expect(file(...FLOOR, 'aisle,C,6,,5,5').bad[0]).toMatchObject({ row: 6, value: 'C' });
  expect(file(...FLOOR, 'start,,,,,,NOWHERE,1').bad).toHaveLength(2);
  expect(file(...FLOOR, 'aisle,C,far,,0,20').bad[0]).toMatchObject({ column: 'X', value: 'far' });
  expect(file(...FLOOR, 'tower,T').bad[0]).toMatchObject({
    why: 'is not aisle, cross aisle, start, end or place',
  });
});

test('a file of places alone leaves the floor as it is', () => {
  expect(file('place,A-1,,,,,A,1').items.map(i => i.item.type)).toEqual(['place']);
});
