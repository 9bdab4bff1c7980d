import type { RuleProof } from '@auk/contract';
import { FIELDS, type Field, type RuleBook, type RuleVerdict, readsAs, rulesOf } from '@auk/core';

/** What was proved of each rule, in words. */
export function proofSays(book: RuleBook, verdicts: ReadonlyMap<string, RuleVerdict>): RuleProof[] {
  const rules = rulesOf(book);
  const called = (ids: readonly string[]) =>
    ids.map(id => {
      const r = rules.find(x => x.id === id)!;
      return `rule ${r.no} “${r.name}”`;
    });
  const because = (ids: readonly string[]) => (ids.length > 0 ? ` because of ${called(ids).join(', ')}` : '');
  return [...verdicts].map(([rule, v]): RuleProof => {
    switch (v.is) {
      case 'contradicts itself':
        return {
          rule,
          is: v.is,
          by: [],
          says: 'Its conditions contradict each other: no order meets them all.',
        };
      case 'never acts':
        return { rule, is: v.is, by: [...v.by], says: `It can never act${because(v.by)}.` };
      case 'always overridden':
        return {
          rule,
          is: v.is,
          by: [...v.by],
          says: `All that it decides is always decided again by ${called(v.by).join(', ')}.`,
        };
      case 'unknown':
        return { rule, is: v.is, by: [], says: 'Whether it can act could not be found out.' };
      default:
        return {
          rule,
          is: v.is,
          by: [],
          says: `It acts, for example on an order whose ${exampleWords(v.example.facts)}.`,
        };
    }
  });
}

function exampleWords(facts: object): string {
  const words = Object.entries(facts).flatMap(([field, fact]) => {
    const { words } = FIELDS[field as Field];
    if (fact === true) return [words];
    if (Array.isArray(fact) && fact.length > 0)
      return [`${words} are ${fact.map(f => readsAs(f)).join(', ')}`];
    return typeof fact === 'number' || (typeof fact === 'string' && fact !== '')
      ? [`${words} is ${readsAs(fact)}`]
      : [];
  });
  return words.length > 0 ? words.join(', ') : 'facts are anything at all';
}
