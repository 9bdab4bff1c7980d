import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { labelMisfit, oneBox, proposeBoxes } from './ahead.js';
import type { Box, Piece } from './boxes.js';
import { planBoxes } from './boxPlan.js';

const MM = 10;
const box = (code: string, side: number, priceMinor: number): Box => ({
  code,
  name: code,
  inner: { length: side * MM, width: side * MM, height: side * MM },
  tareMg: 100_000,
  limitMg: 20_000_000,
  priceMinor,
  stock: null,
});
const BOXES = [box('S', 100, 20), box('M', 200, 40), box('L', 400, 90)];
const piece = (id: string, side: number, quantity: number, weightMg = 50_000): Piece => ({
  id,
  quantity,
  size: { length: side * MM, width: side * MM, height: side * MM },
  weightMg,
  fragile: false,
  upright: false,
  foldable: false,
});
const HOW = { padding: 0, parcelCostMinor: 100, preferred: [], wanted: [] };

describe('boxes that are proposed', () => {
  test('one box that was chosen comes first, then the one that products prefer, where all of it goes in', () => {
    const pieces = [piece('a', 90, 1)];
    const first = (how: { preferred?: string[]; wanted?: string[] }) =>
      proposeBoxes(BOXES, pieces, { ...HOW, ...how }).map(p => p.box.code);
    expect(first({})).toEqual(['S']);
    expect(first({ preferred: ['M'] })).toEqual(['M']);
    expect(first({ preferred: ['M'], wanted: ['L'] })).toEqual(['L']);
    // Two wishes are none, and a box that the house has not is not said.
    expect(first({ preferred: ['M', 'L'] })).toEqual(['S']);
    expect(first({ preferred: ['M'], wanted: ['X'] })).toEqual(['M']);
    expect(oneBox(BOXES, [], ['S', 'M'])).toBeUndefined();
  });

  test('a wished box into which not all goes gives way to the cheapest plan', () => {
    const pieces = [piece('a', 150, 2)];
    const plain = planBoxes(BOXES, pieces, { cost: b => 100 + b.priceMinor }).parcels;
    expect(proposeBoxes(BOXES, pieces, { ...HOW, preferred: ['S'] }).map(p => p.box.code)).toEqual(
      plain.map(p => p.box.code),
    );
  });

  test('the weight is that of the pieces and the box, by a wish as by a plan', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1_000, max: 900_000 }),
        fc.constantFrom('M', 'L'),
        (quantity, weightMg, wish) => {
          const pieces = [piece('a', 60, quantity, weightMg)];
          for (const how of [HOW, { ...HOW, wanted: [wish] }]) {
            const parcels = proposeBoxes(BOXES, pieces, how);
            const sum = parcels.reduce((n, p) => n + p.weightMg, 0);
            expect(sum).toBe(quantity * weightMg + parcels.length * 100_000);
          }
        },
      ),
    );
  });
});

describe('a label that was bought ahead', () => {
  const CHOICES = { toleranceMg: 30_000, tolerancePpm: 30_000 };
  const bought = { boxCode: 'BX-2', weightMg: 1_000_000 };
  const misfit = (boxCode: string | null, weightMg: number | null, choices = CHOICES) =>
    labelMisfit(bought, { boxCode, weightMg }, choices);

  test('fits the same box and about the same weight, by what the bench allows', () => {
    expect(misfit('BX-2', 1_030_000)).toBeNull();
    expect(misfit('BX-2', 970_000)).toBeNull();
    expect(misfit('BX-2', 1_030_001)).toBe(
      'Its label was bought for BX-2, 2 lb 3.3 oz; it is BX-2, 2 lb 4.3 oz.',
    );
    expect(misfit('BX-2', 969_999)).not.toBeNull();
    expect(misfit('BX-2', 1_050_000, { toleranceMg: 0, tolerancePpm: 50_000 })).toBeNull();
  });

  test('does not fit another box, whatever it weighs; a parcel that was only checked keeps it', () => {
    expect(misfit('BX-3', 1_000_000)).toMatch(/bought for BX-2, .*; it is BX-3, /);
    expect(misfit(null, null)).toBeNull();
  });
});
