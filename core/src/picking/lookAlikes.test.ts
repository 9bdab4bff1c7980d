import { expect, test } from 'vitest';
import { evenLayout } from './layout.js';
import { proposeMove, walkBetween } from './lookAlikes.js';

const layout = evenLayout({ aisles: 4, length: 200_000, pitch: 30_000 });
const place = (code: string, aisle: number, along: number, area = 'Shelves') => ({
  code,
  spot: { aisle, along },
  area,
});

test('two that look alike are put apart: the nearest empty place of the area that is far enough', () => {
  const [moved, other] = [place('A-1', 0, 50_000), place('A-2', 0, 62_000)];
  expect(walkBetween(layout, moved.spot, other.spot)).toBe(12_000);
  const empty = [
    place('A-3', 0, 90_000),
    place('C-9', 2, 150_000),
    place('B-4', 1, 60_000),
    place('Z-1', 0, 180_000, 'Cold'),
  ];
  // A-3 is only 2.8 m from the other, Z-1 is in another area; of the rest B-4 is nearest.
  expect(proposeMove(layout, moved, other, empty)).toEqual({ to: 'B-4', distance: 140_000 });
  expect(proposeMove(layout, moved, other, [])).toBeNull();
});

test('what lies apart already is not moved', () => {
  expect(
    proposeMove(layout, place('A-1', 0, 10_000), place('A-9', 0, 80_000), [place('C-9', 2, 1_000)]),
  ).toBeNull();
});
