import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seeded } from '../random/seeded.js';
import { cellsOf, subsets } from './cells.js';
import { compile, factRow } from './compile.js';
import { type Comparison, comparisonsOf } from './condition.js';
import { type Fact, FIELD_NAMES, type Field, fieldSpec, opsOf } from './fields.js';
import { compilePartial, OTHER_WORD, type PartialFact, type PartialFacts } from './partial.js';
import { allOrders, factsWith, randomCondition, SMALL } from './randomBook.js';

/** How all comparisons of a field answer for one fact. */
const answers = (field: Field, comparisons: readonly Comparison[], fact: Fact): string =>
  comparisons
    .map(c => compile(c, 'USD')(factRow(factsWith({ [field]: fact }), [field])))
    .map(Number)
    .join('');

/** Some comparisons of a field, and any fact of it. */
function cases(field: Field, value: fc.Arbitrary<Comparison['value']>, fact: fc.Arbitrary<Fact>) {
  const comparison = fc
    .tuple(fc.constantFrom(...opsOf(fieldSpec(field)!.kind)), value)
    .map(([is, v]): Comparison => ({ field, is, value: v! }));
  return fc.tuple(fc.array(comparison, { minLength: 1, maxLength: 5 }), fact);
}

describe('cells', () => {
  const letters = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), minLength: 1, maxLength: 3 });
  const words = fc.uniqueArray(letters, { minLength: 1, maxLength: 3 });
  test.each<[Field, fc.Arbitrary<Comparison['value']>, fc.Arbitrary<Fact>]>([
    ['units', fc.integer({ min: 0, max: 9 }), fc.nat(12)],
    ['margin', fc.constantFrom('-1.00', '0.00', '0.01', '2.50'), fc.integer({ min: -300, max: 300 })],
    ['weight', fc.constantFrom('1 g', '2 g', '3 g'), fc.nat(5_000)],
    ['cutOffIn', fc.constantFrom('-1 h', '30 min', '1 h'), fc.integer({ min: -100, max: 100 })],
    ['country', words, letters],
    ['postcode', words, fc.string({ unit: fc.constantFrom('a', 'b', 'c', 'd'), maxLength: 6 })],
  ])('whatever a fact of %s is, some sample is answered alike by all comparisons', (field, value, fact) => {
    fc.assert(
      fc.property(cases(field, value, fc.oneof(fact, fc.constant(null))), ([comparisons, f]) => {
        const { samples, complete } = cellsOf(field, comparisons, 'USD');
        if (!complete) return;
        const alike = samples.some(s => answers(field, comparisons, s) === answers(field, comparisons, f));
        expect(alike, JSON.stringify([comparisons, f, samples])).toBe(true);
      }),
      { numRuns: 300 },
    );
  });

  test('more words in a text than are told apart prove nothing', () => {
    const contains = (value: string[]): Comparison => ({ field: 'buyersNote', is: 'contains', value });
    expect(cellsOf('buyersNote', [contains(['a', 'b', 'c'])], 'USD').complete).toBe(true);
    expect(cellsOf('buyersNote', [contains(['a', 'b', 'c', 'd', 'e', 'f'])], 'USD').complete).toBe(false);
  });

  test('all sets of three words are eight, each once', () => {
    const sets = subsets(['a', 'b', 'c']).map(s => s.join(''));
    expect(sets.sort()).toEqual(['', 'a', 'ab', 'abc', 'ac', 'b', 'bc', 'c']);
  });
});

describe('conditions before all facts are known', () => {
  const orders = allOrders(SMALL);

  test('with every fact known they answer as those that are compiled, on 400 random ones', () => {
    const random = seeded(9);
    for (let n = 0; n < 400; n++) {
      const condition = randomCondition(random, SMALL, 3);
      const facts = orders[Math.floor(random() * orders.length)]!;
      const named = namedWords(condition);
      const known = new Map<string, PartialFact>(
        FIELD_NAMES.map(f => [f, partialOf(facts[f], f, named.get(f) ?? [])]),
      );
      const whole = compile(condition, 'USD')(factRow(facts, FIELD_NAMES));
      expect(compilePartial(condition, 'USD', named)(known), JSON.stringify([condition, facts])).toBe(whole);
    }
  });

  test('an answer that is given early stays, whatever the facts that are missing turn out to be', () => {
    const random = seeded(10);
    let early = 0;
    for (let n = 0; n < 600; n++) {
      const condition = randomCondition(random, SMALL, 2);
      const facts = orders[Math.floor(random() * orders.length)]!;
      const named = namedWords(condition);
      const some: PartialFacts = new Map(
        FIELD_NAMES.filter(() => random() < 0.5).map(f => [f, partialOf(facts[f], f, named.get(f) ?? [])]),
      );
      const answer = compilePartial(condition, 'USD', named)(some);
      if (typeof answer !== 'boolean') continue;
      early++;
      for (let k = 0; k < 20; k++) {
        const other = orders[Math.floor(random() * orders.length)]!;
        const mixed = factsWith(
          Object.fromEntries(FIELD_NAMES.map(f => [f, some.has(f) ? facts[f] : other[f]])),
        );
        expect(compile(condition, 'USD')(factRow(mixed, FIELD_NAMES))).toBe(answer);
      }
    }
    expect(early).toBeGreaterThan(100);
  });
});

/** The words that a condition names of each field that holds many. */
function namedWords(condition: Parameters<typeof comparisonsOf>[0]): Map<string, string[]> {
  const named = new Map<string, string[]>();
  for (const c of comparisonsOf(condition))
    if (fieldSpec(c.field)?.kind === 'words')
      named.set(c.field, [...new Set([...(named.get(c.field) ?? []), ...(c.value as string[])])]);
  return named;
}

/** A fact as it is known in part: all of it, words one by one. */
function partialOf(fact: Fact, field: Field, named: readonly string[]): PartialFact {
  if (fieldSpec(field)!.kind !== 'words')
    return { time: '', fact: typeof fact === 'string' ? fact.toLowerCase() : fact };
  const held = fact as readonly string[];
  const others = held.some(w => !named.includes(w));
  return {
    time: '',
    words: new Map([...named.map(w => [w, held.includes(w)] as const), [OTHER_WORD, others]]),
  };
}
