import fc from 'fast-check';
import { expect, test } from 'vitest';
import { pickersNeeded } from './pickersNeeded.js';

test('earlier departures are picked first, and what is past cannot be saved', () => {
  expect(
    pickersNeeded([
      { seconds: 3000, left: 3600 },
      { seconds: 9000, left: 7200 },
    ]),
  ).toEqual([1, 2]);
  expect(
    pickersNeeded([
      { seconds: 0, left: -5 },
      { seconds: 10, left: 0 },
      { seconds: 100, left: 10 },
    ]),
  ).toEqual([0, null, 10]);
  expect(pickersNeeded([])).toEqual([]);
});

test('so many pickers are enough, and one fewer is not', () => {
  const work = fc.record({
    seconds: fc.integer({ min: 1, max: 20_000 }),
    left: fc.integer({ min: 1, max: 20_000 }),
  });
  fc.assert(
    fc.property(fc.array(work, { minLength: 1, maxLength: 8 }), departures => {
      let before = 0;
      pickersNeeded(departures).forEach((n, i) => {
        before += departures[i]!.seconds;
        expect(n! * departures[i]!.left).toBeGreaterThanOrEqual(before);
        expect((n! - 1) * departures[i]!.left).toBeLessThan(before);
      });
    }),
  );
});
