import fc from 'fast-check';
import { expect, test } from 'vitest';
import { storageMinor } from './storage.js';

test('half of it lies there on average while it is sold evenly', () => {
  expect(storageMinor(400, 8, [])).toBeCloseTo((400 * 56) / 2 / (365.25 / 12), 6);
});

test('what lies long costs more from its day on', () => {
  // Of ten days the last five cost twice; a quarter of all unit-days falls into them.
  const steps = [{ afterDays: 35, times: 2 }];
  expect(storageMinor(400, 10, steps)).toBeCloseTo(1.25 * storageMinor(400, 10, []), 6);
  expect(storageMinor(400, 5, steps)).toBe(storageMinor(400, 5, []));
});

test('longer never costs less, and steps that cost more never make it cheaper', () => {
  const step = fc.record({
    afterDays: fc.integer({ min: 0, max: 400 }),
    times: fc.integer({ min: 1, max: 5 }),
  });
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 51 }), step, (weeks, s) => {
      expect(storageMinor(10, weeks + 1, [s])).toBeGreaterThan(storageMinor(10, weeks, [s]));
      expect(storageMinor(10, weeks, [s])).toBeGreaterThanOrEqual(storageMinor(10, weeks, []) - 1e-9);
    }),
  );
});
