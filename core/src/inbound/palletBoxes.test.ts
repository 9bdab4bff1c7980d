import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type BoxToLoad, boxesOnPallets } from './palletBoxes.js';

const PALLET = {
  name: '48 x 40 in',
  length: 12_192,
  width: 10_160,
  deck: 1_524,
  weightMg: 20_000_000,
  mostHeight: 12_000,
  mostWeightMg: 300_000_000,
};
const SIZES = {
  SMALL: { length: 3_000, width: 2_500, height: 2_000 },
  LARGE: { length: 6_000, width: 5_000, height: 4_000 },
};
const box = (id: number, code: keyof typeof SIZES, kg: number): BoxToLoad => ({
  id: `B${id}`,
  code,
  inner: SIZES[code],
  weightMg: kg * 1_000_000,
});

test('each pallet names its boxes and weighs what they weigh', () => {
  const [pallet, ...more] = boxesOnPallets(PALLET, [
    box(1, 'LARGE', 12),
    box(2, 'SMALL', 3),
    box(3, 'LARGE', 9),
  ]);
  expect(more).toEqual([]);
  expect([...pallet!.ids].sort()).toEqual(['B1', 'B2', 'B3']);
  expect(pallet!.weightMg).toBe(44_000_000);
  expect(pallet!.height).toBeGreaterThanOrEqual(PALLET.deck + 4_000);
});

test('a box that goes on no pallet leaves all without', () => {
  expect(boxesOnPallets(PALLET, [box(1, 'SMALL', 3), box(2, 'LARGE', 400)])).toEqual([]);
  expect(boxesOnPallets(PALLET, [])).toEqual([]);
});

test('every box stands on one pallet, and none is heavier or higher than it may be', () => {
  const boxes = fc.array(fc.tuple(fc.constantFrom('SMALL', 'LARGE'), fc.integer({ min: 1, max: 40 })), {
    minLength: 1,
    maxLength: 40,
  });
  fc.assert(
    fc.property(boxes, some => {
      const all = some.map(([code, kg], i) => box(i, code as 'SMALL' | 'LARGE', kg));
      const pallets = boxesOnPallets(PALLET, all);
      expect(pallets.flatMap(p => p.ids).sort()).toEqual(all.map(b => b.id).sort());
      for (const p of pallets) {
        expect(p.weightMg).toBeLessThanOrEqual(PALLET.mostWeightMg);
        expect(p.height).toBeLessThanOrEqual(PALLET.mostHeight);
      }
    }),
    { numRuns: 40 },
  );
});
