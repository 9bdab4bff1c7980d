import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Visit } from '../picking/visit.js';
import { seeded, shuffled } from '../random/seeded.js';
import { remembered } from '../remembered.js';
import { best, covered, shared } from './likeness.js';

/** Visits of some ways, of which only matters whether they are gone. */
const visit = fc
  .array(fc.boolean(), { maxLength: 12 })
  .map(ways => ways.map(w => (w ? 1 : 0)) as unknown as Visit);

test('two visits have in common what both go on, whichever is asked first', () => {
  const of = (...ways: number[]) => ways as unknown as Visit;
  expect(shared(of(1, 0, 1), of(1, 1, 0))).toBe(3 - 1 - 1);
  expect(shared(of(), of(1))).toBe(-1);
  fc.assert(
    fc.property(visit, visit, (a, b) => {
      expect(shared(a, b)).toBe(shared(b, a));
      const ways = (v: Visit) => [...v].filter(Boolean).length;
      expect(shared(a, a)).toBe(3 * ways(a));
      expect(shared(a, b)).toBeLessThanOrEqual(3 * Math.min(ways(a), ways(b)));
    }),
  );
});

test('a visit is covered by itself wholly, and by none not at all', () => {
  fc.assert(
    fc.property(visit, visit, (a, b) => {
      expect(covered(a, a)).toBe(1);
      const share = covered(a, b);
      expect(share).toBeGreaterThanOrEqual(0);
      expect(share).toBeLessThanOrEqual(1);
      if ([...a].some(Boolean)) expect(covered(a, [] as unknown as Visit)).toBe(0);
    }),
  );
});

test('the best are what sorting gives, of equal ones the first', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 6 })), fc.integer({ min: 1, max: 8 }), (scores, n) => {
      const scored = scores.map((score, of) => ({ of, score }));
      const sorted = scored.toSorted((a, b) => b.score - a.score || a.of - b.of).slice(0, n);
      expect(best(scored, n)).toEqual(sorted.map(s => s.of));
    }),
  );
});

test('what is remembered is worked out once for each question', () => {
  const asked: string[] = [];
  const length = remembered((text: string, more: number) => {
    asked.push(`${text} ${more}`);
    return text.length + more;
  });
  expect([length('ab', 1), length('ab', 1), length('ab', 2), length('', 1)]).toEqual([3, 3, 4, 1]);
  expect(asked).toEqual(['ab 1', 'ab 2', ' 1']);
  // Nothing is an answer, too.
  let times = 0;
  const nothing = remembered((n: number) => {
    times += n;
    return undefined;
  });
  nothing(1);
  nothing(1);
  expect(times).toBe(1);
});

test('a seed gives the same numbers and the same order, within their bounds', () => {
  fc.assert(
    fc.property(fc.integer(), fc.array(fc.integer()), (seed, list) => {
      const [a, b] = [seeded(seed), seeded(seed)];
      const numbers = Array.from({ length: 20 }, a);
      expect(numbers).toEqual(Array.from({ length: 20 }, b));
      expect(numbers.every(n => n >= 0 && n < 1)).toBe(true);
      const mixed = shuffled(list, seeded(seed));
      expect(mixed.toSorted((x, y) => x - y)).toEqual(list.toSorted((x, y) => x - y));
      expect(mixed).toEqual(shuffled(list, seeded(seed)));
    }),
  );
});
