import fc from 'fast-check';
import { expect, test } from 'vitest';
import { FIRST_TIMES, learnTimes, walkSeconds } from './pickTimes.js';

test('times are learned from walks and tested on later ones', () => {
  const real = { ...FIRST_TIMES, setUp: 150, speed: 8_000, stop: 12, unit: 2 };
  const walks = Array.from({ length: 60 }, (_, i) => {
    const walk = {
      distance: 1_000_000 + ((i * 7919) % 50) * 60_000,
      stops: 5 + ((i * 31) % 25),
      units: 8 + ((i * 17) % 60),
    };
    // Nobody walks like a clock: up to a twelfth more or less.
    return { ...walk, seconds: walkSeconds(real, walk) * (1 + (((i * 13) % 11) - 5) / 60) };
  });
  const learned = learnTimes(walks, FIRST_TIMES)!;
  expect(learned.error).toBeLessThan(0.06);
  expect(learned.error).toBeLessThan(learned.errorBefore / 3);
  expect(learnTimes(walks.slice(0, 5), FIRST_TIMES)).toBeNull();
  // Whatever comes in, no time becomes nothing or less.
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 5_000 }), { minLength: 30, maxLength: 40 }), seconds => {
      const odd = seconds.map((s, i) => ({
        distance: (i % 7) * 100_000,
        stops: 10,
        units: i % 5,
        seconds: s,
      }));
      const { times } = learnTimes(odd, FIRST_TIMES)!;
      expect(Math.min(times.setUp, times.speed, times.stop, times.unit)).toBeGreaterThan(0);
    }),
  );
});
