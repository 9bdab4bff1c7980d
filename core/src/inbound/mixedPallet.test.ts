import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { overlap } from '../packing/boxes.js';
import { type MixedBox, mixedPallets } from './mixedPallet.js';
import { PALLET_SUPPORT, type PalletKind } from './pallet.js';

const EURO: PalletKind = {
  name: '1200 × 800 mm',
  length: 12_000,
  width: 8_000,
  deck: 1_440,
  weightMg: 20_000_000,
  mostHeight: 18_288,
  mostWeightMg: 680_388_555,
};
const box = (
  id: string,
  quantity: number,
  l: number,
  w: number,
  h: number,
  weightMg = 8_000_000,
): MixedBox => ({
  id,
  quantity,
  size: { length: l, width: w, height: h },
  weightMg,
  upright: true,
});

/** What is wrong with a pallet, found box by box. */
function wrong({ pallets }: ReturnType<typeof mixedPallets>, kind: PalletKind): string[] {
  return pallets.flatMap(({ placed, height, weightMg, boxes }) => {
    const found: string[] = [];
    placed.forEach((p, i) => {
      const { length, width } = p.size;
      if (p.x < 0 || p.y < 0 || p.x + length > kind.length || p.y + width > kind.width)
        found.push('over the edge');
      if (placed.slice(0, i).some(q => overlap(p, q))) found.push('overlap');
      const rests = placed
        .filter(q => q.z + q.size.height === p.z)
        .reduce((n, q) => {
          const across = Math.min(p.x + length, q.x + q.size.length) - Math.max(p.x, q.x);
          const along = Math.min(p.y + width, q.y + q.size.width) - Math.max(p.y, q.y);
          return n + Math.max(0, across) * Math.max(0, along);
        }, 0);
      if (p.z > 0 && rests < PALLET_SUPPORT * length * width) found.push('not carried');
    });
    if (height > kind.mostHeight || weightMg > kind.mostWeightMg || boxes !== placed.length)
      found.push('limits');
    return found;
  });
}

describe('pallets of different boxes', () => {
  test('hold every box once, carried and within all limits', () => {
    const boxes = fc.array(
      fc.record({
        l: fc.integer({ min: 1_500, max: 7_000 }),
        w: fc.integer({ min: 1_500, max: 6_000 }),
        h: fc.integer({ min: 1_000, max: 6_000 }),
        n: fc.integer({ min: 1, max: 25 }),
        kg: fc.integer({ min: 1, max: 25 }),
      }),
      { minLength: 1, maxLength: 4 },
    );
    fc.assert(
      fc.property(boxes, all => {
        const given = all.map((b, i) => box(`b${i}`, b.n, b.l, b.w, b.h, b.kg * 1_000_000));
        const found = mixedPallets(EURO, given);
        expect(found.left).toEqual([]);
        expect(wrong(found, EURO)).toEqual([]);
        for (const { id, quantity } of given)
          expect(found.pallets.flatMap(p => p.placed).filter(p => p.piece.id === id)).toHaveLength(quantity);
        expect(found.pallets.length).toBeGreaterThanOrEqual(found.bound);
      }),
      { numRuns: 40 },
    );
  }, 60_000);

  test('the bound counts volume, weight, and what cannot share a pallet; what goes onto none is named', () => {
    expect(mixedPallets(EURO, [box('plain', 48, 4_000, 4_000, 2_500)])).toMatchObject({ bound: 2, left: [] });
    expect(mixedPallets(EURO, [box('lead', 50, 2_000, 2_000, 1_000, 30_000_000)]).bound).toBe(3);
    expect(mixedPallets(EURO, [box('tall', 3, 10_000, 8_000, 11_000)])).toMatchObject({ bound: 3 });
    expect(mixedPallets(EURO, [box('beam', 1, 13_000, 1_000, 1_000)]).left).toEqual([
      { id: 'beam', why: 'It is larger than a pallet may be.' },
    ]);
    expect(mixedPallets(EURO, [])).toEqual({ pallets: [], bound: 0, left: [] });
  });
});
