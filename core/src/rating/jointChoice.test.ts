import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type Box, type Piece } from '../packing/boxes.js';
import { tryBox } from '../packing/boxPlan.js';
import { checkBoxPlan } from '../packing/checkBoxPlan.js';
import { MG, stepsUp } from '../units/units.js';
import { chooseTogether, type WayToSend } from './jointChoice.js';

const inch = (l: number, w: number, h: number) => ({ length: l * 254, width: w * 254, height: h * 254 });
const box = (code: string, l: number, w: number, h: number, priceMinor: number): Box => ({
  code,
  name: code,
  inner: inch(l, w, h),
  tareMg: 100_000,
  limitMg: 30 * MG.lb,
  priceMinor,
});
const piece = (id: string, l: number, w: number, h: number, quantity = 1): Piece => ({
  id,
  size: inch(l, w, h),
  weightMg: 300_000,
  quantity,
});
const BOXES = [box('small', 6, 6, 6, 30), box('long', 14, 6, 6, 50), box('large', 12, 12, 12, 90)];
/** By weight, with boxes up to a length; a flat price, whatever it weighs. */
const way = (name: string, longest: number, base: number, perLb: number): WayToSend<string> => ({
  way: name,
  stepMg: MG.lb,
  price: (b, mg) =>
    Math.max(b.inner.length, b.inner.width) > longest * 254 ? null : base + perLb * stepsUp(mg, MG.lb),
});

test('two small boxes go where one large one is dearer, and each parcel takes its cheapest way', () => {
  const pieces = [piece('a', 6, 6, 6, 2)];
  const ways = [way('light', 6, 300, 0), way('heavy', 20, 900, 10)];
  const chosen = chooseTogether(BOXES, pieces, ways);
  expect(chosen.parcels.map(p => [p.box.code, p.way])).toEqual([
    ['small', 'light'],
    ['small', 'light'],
  ]);
  expect(chosen.costMinor).toBe(2 * 330);
  const one = chooseTogether(BOXES, pieces, [way('light', 6, 900, 0), way('heavy', 20, 900, 10)]);
  expect(one.parcels.map(p => [p.box.code, p.way])).toEqual([['long', 'heavy']]);
});

test('what no way takes is said', () => {
  const chosen = chooseTogether(BOXES, [piece('a', 10, 5, 5)], [way('light', 6, 300, 0)]);
  expect(chosen).toMatchObject({
    parcels: [],
    costMinor: 0,
    unplaced: [{ id: 'a', why: 'No service takes its parcel.' }],
  });
  expect(chooseTogether(BOXES, [piece('a', 10, 5, 5)], []).parcels).toEqual([]);
});

/** All ways to part the pieces, all boxes and all ways of each part. */
function byHand(boxes: Box[], pieces: Piece[], ways: WayToSend<string>[]): number {
  const cheapest = (part: Piece[]): number => {
    let best = Infinity;
    const counts = new Map<string, Piece>();
    for (const p of part) counts.set(p.id, { ...p, quantity: (counts.get(p.id)?.quantity ?? 0) + 1 });
    for (const b of boxes) {
      const got = tryBox(b, [...counts.values()]);
      if (got.fits !== 'yes') continue;
      const weight = b.tareMg + part.reduce((n, p) => n + p.weightMg, 0);
      for (const w of ways) best = Math.min(best, b.priceMinor + (w.price(b, weight) ?? Infinity));
    }
    return best;
  };
  const units = pieces.flatMap(p => Array.from({ length: p.quantity }, () => ({ ...p, quantity: 1 })));
  const parts = (left: Piece[], open: Piece[][]): number => {
    const [first, ...rest] = left;
    if (!first) return open.reduce((sum, part) => sum + cheapest(part), 0);
    let best = parts(rest, [...open, [first]]);
    for (let i = 0; i < open.length; i++)
      best = Math.min(best, parts(rest, open.with(i, [...open[i]!, first])));
    return best;
  };
  return parts(units, []);
}

test('box and way together are never dearer than the best of all possibilities on small cases', () => {
  const side = fc.integer({ min: 2, max: 10 });
  const one = fc.record({ l: side, w: side, h: side, n: fc.integer({ min: 1, max: 2 }) });
  const price = fc.integer({ min: 100, max: 1500 });
  fc.assert(
    fc.property(
      fc.array(one, { minLength: 1, maxLength: 2 }),
      fc.array(
        fc.record({
          longest: fc.constantFrom(6, 12, 20),
          base: price,
          perLb: fc.integer({ min: 0, max: 200 }),
        }),
        {
          minLength: 1,
          maxLength: 3,
        },
      ),
      (sizes, cards) => {
        const pieces = sizes.map((s, i) => piece(`p${i}`, s.l, s.w, s.h, s.n));
        const ways = cards.map((c, i) => way(`w${i}`, c.longest, c.base, c.perLb));
        const chosen = chooseTogether(BOXES, pieces, ways);
        const best = byHand(BOXES, pieces, ways);
        if (best === Infinity) return chosen.unplaced.length > 0;
        expect(chosen.costMinor).toBe(best);
        expect(chosen.costMinor).toBe(
          chosen.parcels.reduce((n, p) => n + p.box.priceMinor + p.labelMinor, 0),
        );
        expect(checkBoxPlan(pieces, chosen.parcels)).toEqual([]);
        return true;
      },
    ),
    { numRuns: 150 },
  );
});
