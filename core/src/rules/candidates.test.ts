import fc from 'fast-check';
import { expect, test } from 'vitest';
import { candidatesOf } from './candidates.js';
import { compile, factRow } from './compile.js';
import type { Comparison, Condition } from './condition.js';
import { type Fact, FIELD_NAMES } from './fields.js';
import { factsWith } from './randomBook.js';

const WORDS = ['US', 'ca', 'De', '97', '972', '9720', 'Glass', 'seeds'];
const word = fc.constantFrom(...WORDS);
const words = fc.uniqueArray(word, { minLength: 1, maxLength: 3 });
const grams = fc.integer({ min: 1, max: 6 });

/** Comparisons of every kind of field, of facts that rows change too. */
const comparison: fc.Arbitrary<Comparison> = fc.oneof(
  fc.record({
    field: fc.constantFrom('country', 'carrier'),
    is: fc.constantFrom('one of', 'not one of'),
    value: words,
  }),
  fc.record({ field: fc.constant('postcode'), is: fc.constantFrom('begins with', 'contains'), value: words }),
  fc.record({
    field: fc.constantFrom('categories', 'tags'),
    is: fc.constantFrom('has any of', 'has all of', 'has none of', 'has only'),
    value: words,
  }),
  fc.record({
    field: fc.constantFrom('units', 'parcels'),
    is: fc.constantFrom('is', 'over', 'under', 'at least', 'at most'),
    value: grams,
  }),
  fc.record({
    field: fc.constant('weight'),
    is: fc.constantFrom('over', 'under', 'at least', 'at most'),
    value: grams.map(n => `${n} g`),
  }),
  fc.record({ field: fc.constant('abroad'), is: fc.constantFrom('yes', 'no') }),
  // What cannot be read never holds.
  fc.constant<Comparison>({ field: 'weight', is: 'over', value: 'much' }),
  fc.constant<Comparison>({ field: 'nothing', is: 'yes' }),
) as fc.Arbitrary<Comparison>;

const condition = fc.letrec<{ of: Condition }>(tie => ({
  of: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    comparison as fc.Arbitrary<Condition>,
    fc.array(tie('of'), { maxLength: 3 }).map(all => ({ all })),
    fc.array(tie('of'), { maxLength: 3 }).map(any => ({ any })),
    fc.array(tie('of'), { maxLength: 3 }).map(none => ({ none })),
  ),
})).of;

const unknown = <T>(of: fc.Arbitrary<T>): fc.Arbitrary<T | null> => fc.option(of);
const facts = fc
  .record({
    country: unknown(word),
    carrier: unknown(word),
    postcode: unknown(word.map(w => `${w}01`)),
    categories: fc.uniqueArray(word, { maxLength: 3 }),
    tags: fc.uniqueArray(word, { maxLength: 3 }),
    units: unknown(fc.integer({ min: 0, max: 7 })),
    parcels: unknown(grams),
    weight: unknown(grams.map(n => n * 1_000)),
    abroad: unknown(fc.boolean()),
  })
  .map(f => factRow(factsWith(f as Record<string, Fact>), FIELD_NAMES));

test('every rule whose condition holds is among those that may act, and of a sure one the condition holds', () => {
  fc.assert(
    fc.property(
      fc.array(fc.oneof(condition, fc.constant(null)), { maxLength: 70 }),
      fc.array(facts, { minLength: 1, maxLength: 4 }),
      (conditions, rows) => {
        const candidates = candidatesOf(conditions, 'USD');
        for (const row of rows) {
          const { may, sure } = candidates.of(row);
          const at = (bits: Uint32Array, i: number) => ((bits[i >>> 5]! >>> (i & 31)) & 1) === 1;
          conditions.forEach((c, i) => {
            const holds = c === null || compile(c, 'USD')(row);
            if (holds) expect(at(may, i)).toBe(true);
            if (at(sure, i)) expect(holds && at(may, i)).toBe(true);
          });
        }
      },
    ),
    { numRuns: 300 },
  );
});

test('rules that look at one fact are found by it alone', () => {
  const over = (n: number): Condition => ({ field: 'units', is: 'over', value: n });
  const to = (...value: string[]): Condition => ({ field: 'country', is: 'one of', value });
  const conditions: Condition[] = [
    over(3),
    over(1),
    { all: [to('US'), over(9)] },
    { any: [to('CA'), over(5)] },
    { none: [over(1)] },
    { any: [{ field: 'tags', is: 'has any of', value: ['gift'] }, over(5)] },
  ];
  const { of } = candidatesOf(conditions, 'USD');
  const found = (f: Record<string, Fact>) => {
    const { may, sure } = of(factRow(factsWith(f), FIELD_NAMES));
    const places = (bits: Uint32Array) => conditions.flatMap((_, i) => ((bits[0]! >>> i) & 1 ? [i] : []));
    return { may: places(may), sure: places(sure) };
  };
  expect(found({ units: 2, country: 'MX' })).toEqual({ may: [1, 4, 5], sure: [1] });
  expect(found({ units: 4, country: 'us' })).toEqual({ may: [0, 1, 2, 4, 5], sure: [0, 1] });
  expect(found({ units: 6, country: 'CA' })).toEqual({ may: [0, 1, 3, 4, 5], sure: [0, 1, 3, 5] });
  expect(found({ units: null, country: null })).toEqual({ may: [4, 5], sure: [] });
});
