import fc from 'fast-check';
import { expect, test } from 'vitest';
import { evenLayout } from './layout.js';
import { placeParts, type ShelfStock } from './placeParts.js';

const layout = evenLayout({ aisles: 5, length: 200_000, pitch: 30_000 });
const TODAY = '2026-11-26';
const shelf = (
  productId: string,
  placeId: string,
  aisle: number | null,
  along: number,
  onHand: number,
  more: Partial<ShelfStock> = {},
): ShelfStock => ({
  productId,
  placeId,
  lotId: null,
  expiry: null,
  onHand,
  held: 0,
  walk: 0,
  aisle,
  along: aisle === null ? null : along,
  ...more,
});
const part = (productId: string, quantity: number, walk = 'one') => ({ productId, quantity, walk });
const places = (parts: Parameters<typeof placeParts>[0], stock: ShelfStock[]) =>
  placeParts(parts, stock, layout, TODAY).map(units => units.map(u => `${u.quantity} of ${u.stock.placeId}`));

test('what lies in one place alone decides where the rest is taken from', () => {
  const stock = [
    shelf('jar', 'A-1', 0, 10_000, 9, { walk: 1 }),
    shelf('jar', 'E-1', 4, 20_000, 9, { walk: 9 }),
    shelf('lid', 'E-2', 4, 30_000, 9, { walk: 9 }),
  ];
  // By walking order alone the jar would come from the first aisle.
  expect(places([part('jar', 1)], stock)).toEqual([['1 of A-1']]);
  expect(places([part('jar', 1), part('lid', 1)], stock)).toEqual([['1 of E-1'], ['1 of E-2']]);
  // Another walk is no reason.
  expect(places([part('jar', 1), part('lid', 1, 'other')], stock)).toEqual([['1 of A-1'], ['1 of E-2']]);
});

test('expiry and pick faces come before nearness; a place that nobody knows is last', () => {
  const old = { expiry: '2027-01-01', lotId: 'old' };
  const young = { expiry: '2027-06-01', lotId: 'young' };
  const stock = [
    shelf('mite', 'E-1', 4, 20_000, 9, young),
    shelf('mite', 'A-1', 0, 10_000, 9, old),
    shelf('lid', 'E-2', 4, 30_000, 9),
    shelf('jar', 'UPPER', null, 0, 9),
    shelf('jar', 'A-9', 0, 90_000, 9, { walk: 99 }),
    shelf('jar', 'E-3', 4, 40_000, 9, { rank: 1 }),
  ];
  expect(places([part('lid', 1), part('mite', 2), part('jar', 1)], stock)).toEqual([
    ['1 of E-2'],
    ['2 of A-1'],
    ['1 of A-9'],
  ]);
});

test('a part whose lots must last so long takes no lot that expires before', () => {
  const stock = [
    shelf('mite', 'A-1', 0, 10_000, 9, { expiry: '2027-01-01', lotId: 'old' }),
    shelf('mite', 'E-1', 4, 20_000, 4, { expiry: '2027-06-01', lotId: 'young' }),
  ];
  expect(places([{ ...part('mite', 6), lasts: '2027-03-01' }], stock)).toEqual([['4 of E-1']]);
  // A day that has passed already asks for nothing more.
  expect(places([{ ...part('mite', 6), lasts: '2026-01-01' }], stock)).toEqual([['6 of A-1']]);
});

test('no unit is given twice, nothing more than lies there, and all that can be had is', () => {
  const amount = fc.integer({ min: 1, max: 6 });
  const goods = fc.array(
    fc.record({
      product: fc.constantFrom('a', 'b', 'c'),
      place: fc.integer({ min: 0, max: 8 }),
      units: amount,
    }),
    { maxLength: 12 },
  );
  const wants = fc.array(
    fc.record({
      productId: fc.constantFrom('a', 'b', 'c'),
      quantity: amount,
      walk: fc.constantFrom('x', 'y'),
    }),
    { maxLength: 10 },
  );
  fc.assert(
    fc.property(goods, wants, (lies, parts) => {
      const stock = [
        ...new Map(
          lies.map(g => [
            `${g.product} ${g.place}`,
            shelf(g.product, String(g.place), g.place % 5, g.place * 20_000, g.units),
          ]),
        ).values(),
      ];
      const placed = placeParts(parts, stock, layout, TODAY);
      for (const s of stock) {
        const taken = placed.flat().filter(u => u.stock === s);
        expect(taken.reduce((n, u) => n + u.quantity, 0)).toBeLessThanOrEqual(s.onHand);
      }
      for (const product of ['a', 'b', 'c']) {
        const wanted = parts.filter(p => p.productId === product).reduce((n, p) => n + p.quantity, 0);
        const there = stock.filter(s => s.productId === product).reduce((n, s) => n + s.onHand, 0);
        const given = placed.flatMap((units, i) => (parts[i]!.productId === product ? units : []));
        expect(given.reduce((n, u) => n + u.quantity, 0)).toBe(Math.min(wanted, there));
      }
    }),
    { numRuns: 300 },
  );
});
