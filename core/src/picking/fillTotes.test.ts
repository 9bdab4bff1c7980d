import fc from 'fast-check';
import { expect, test } from 'vitest';
import { fillTotes } from './fillTotes.js';

const LIMITS = { volume: 100, weight: 50 };

test('a light order fills one tote, a heavy one two, a product without measures takes no room', () => {
  expect(fillTotes([{ quantity: 5, volume: 10, weight: 5 }], LIMITS)).toEqual([[{ stop: 0, units: 5 }]]);
  const heavy = [
    { quantity: 3, volume: 1, weight: 20 },
    { quantity: 4, volume: null, weight: null },
  ];
  expect(fillTotes(heavy, LIMITS)).toEqual([
    [{ stop: 0, units: 2 }],
    [
      { stop: 0, units: 1 },
      { stop: 1, units: 4 },
    ],
  ]);
  expect(fillTotes([{ quantity: 2, volume: 500, weight: 1 }], LIMITS)).toHaveLength(2);
  expect(fillTotes([], LIMITS)).toEqual([[]]);
});

test('every unit is in one tote, and no tote holds more than its limits unless it holds one unit', () => {
  const stop = fc.record({
    quantity: fc.integer({ min: 1, max: 30 }),
    volume: fc.option(fc.integer({ min: 1, max: 130 })),
    weight: fc.option(fc.integer({ min: 1, max: 60 })),
  });
  fc.assert(
    fc.property(fc.array(stop, { maxLength: 6 }), stops => {
      const totes = fillTotes(stops, LIMITS);
      for (const [i, s] of stops.entries())
        expect(totes.flat().reduce((n, u) => (u.stop === i ? n + u.units : n), 0)).toBe(s.quantity);
      for (const tote of totes) {
        const sum = (of: 'volume' | 'weight') =>
          tote.reduce((n, u) => n + u.units * (stops[u.stop]![of] ?? 0), 0);
        const large = tote.filter(
          u => (stops[u.stop]!.volume ?? 0) > 100 || (stops[u.stop]!.weight ?? 0) > 50,
        );
        if (large.length === 0) expect(sum('volume') <= 100 && sum('weight') <= 50).toBe(true);
        else expect(large).toHaveLength(1);
      }
    }),
  );
});
