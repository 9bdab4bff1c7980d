import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Size } from '../units/units.js';
import type { Box, Piece } from './boxes.js';
import { checkBoxPlan } from './checkBoxPlan.js';
import { joinFaces } from './joinFaces.js';
import { placedPieces, shapesOf } from './shapes.js';

const SPACE: Size = { length: 3_600, width: 2_400, height: 1_800 };
const BOX: Box = {
  code: 'BX',
  name: 'Box',
  inner: SPACE,
  tareMg: 0,
  limitMg: 1_000_000_000,
  priceMinor: 0,
};
const STEPS = 400_000;
const AXES = ['length', 'width', 'height'] as const;

/** A block that was cut again and again, each time straight through: always the largest part, along an axis, at a share of it. */
const cuts = (least: number, most: number) =>
  fc
    .array(fc.tuple(fc.constantFrom(...AXES), fc.integer({ min: 3, max: 7 })), {
      minLength: least - 1,
      maxLength: most - 1,
    })
    .map(list => {
      let parts = [SPACE];
      for (const [axis, tenths] of list) {
        const [largest, ...rest] = parts.toSorted(
          (a, b) => b.length * b.width * b.height - a.length * a.width * a.height,
        );
        const at = Math.round((largest![axis] * tenths) / 10);
        parts = [...rest, { ...largest!, [axis]: at }, { ...largest!, [axis]: largest![axis] - at }];
      }
      return parts;
    });

const piecesOf = (sizes: readonly Size[], more: Partial<Piece> = {}): Piece[] =>
  sizes.map((size, i) => ({ id: `p${i}`, size, weightMg: 1_000, quantity: 1, ...more }));

/** What is wrong with where the pieces were put; null when they were not put at all. */
function wrongWith(pieces: readonly Piece[]): string[] | null {
  const placed = joinFaces(SPACE, shapesOf(pieces, 0), { left: STEPS });
  return placed && checkBoxPlan(pieces, [{ box: BOX, placed: placedPieces(placed) }]);
}

test('what was cut out of a full block is put together again, and lies as it may', () => {
  fc.assert(
    fc.property(cuts(4, 9), sizes => {
      expect(wrongWith(piecesOf(sizes))).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('pieces that must stay upright are put together upright', () => {
  fc.assert(
    fc.property(cuts(4, 7), sizes => {
      const found = wrongWith(piecesOf(sizes, { upright: true }));
      expect(found).toEqual([]);
    }),
    { numRuns: 30 },
  );
});

test('nothing is found where nothing shares a face, where it may be folded, or without steps', () => {
  const odd = piecesOf([
    { length: 3_599, width: 2_399, height: 601 },
    { length: 3_500, width: 2_300, height: 603 },
    { length: 3_400, width: 2_200, height: 605 },
  ]);
  expect(joinFaces(SPACE, shapesOf(odd, 0), { left: STEPS })).toBeNull();
  const halves = [
    { length: 1_800, width: 2_400, height: 1_800 },
    { length: 1_800, width: 2_400, height: 1_800 },
  ];
  expect(joinFaces(SPACE, shapesOf(piecesOf(halves, { foldable: true }), 0), { left: STEPS })).toBeNull();
  expect(joinFaces(SPACE, shapesOf(piecesOf(halves), 0), { left: 0 })).toBeNull();
  expect(wrongWith(piecesOf(halves))).toEqual([]);
});

test('what is fragile carries nothing: it is joined beside, never under', () => {
  const flat: Size = { length: 3_600, width: 2_400, height: 900 };
  expect(
    joinFaces(SPACE, shapesOf(piecesOf([flat, flat], { fragile: true }), 0), { left: STEPS }),
  ).toBeNull();
  const half: Size = { length: 1_800, width: 2_400, height: 1_800 };
  expect(wrongWith(piecesOf([half, half], { fragile: true }))).toEqual([]);
});

test('the same question has the same answer', () => {
  fc.assert(
    fc.property(cuts(5, 7), sizes => {
      const shapes = () => shapesOf(piecesOf(sizes), 0);
      const where = (steps: number) =>
        joinFaces(SPACE, shapes(), { left: steps })?.map(p => [p.x, p.y, p.z, p.size]);
      expect(where(STEPS)).toEqual(where(STEPS));
    }),
    { numRuns: 10 },
  );
});
