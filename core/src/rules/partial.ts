import { compile, type FactRow, folded, placeOf, type Test } from './compile.js';
import { type Comparison, type Condition, groupOf } from './condition.js';
import { type Fact, fieldSpec } from './fields.js';

/** Any word that a book does not name. */
export const OTHER_WORD = '~';

/** A question that an example answers: a field's fact, or whether one word is among a field's. */
export interface Question {
  field: string;
  /** The word asked for; null asks for the fact itself. */
  word: string | null;
  /** Which time it is asked: facts that rows change are others afterwards. Empty for what stands at the beginning. */
  time: string;
}

/** What is known so far: by field, its fact, or its words with yes and no. What is missing is not known yet; `time` says since when. */
export interface PartialFact {
  time: string;
  fact?: Fact;
  words?: ReadonlyMap<string, boolean>;
}
export type PartialFacts = ReadonlyMap<string, PartialFact>;

/** Yes, no, or the question that is to be answered first. */
export type Maybe = boolean | Question;

/** A condition as it is answered while not all is known. */
export type PartialTest = (facts: PartialFacts) => Maybe;

/** All words that a book names of each field that holds many, in lower case; whatever else is there is another word. */
export type NamedWords = ReadonlyMap<string, readonly string[]>;

/** Prepares a condition to be asked before all facts are known. It agrees with `compile` where they are. */
export function compilePartial(condition: Condition, currency: string, named: NamedWords): PartialTest {
  const group = groupOf(condition);
  if (!group) return comparisonTest(condition as Comparison, currency, named);
  const parts = group.parts.map(p => compilePartial(p, currency, named));
  if (group.kind === 'all') return facts => settled(parts, facts, false);
  if (group.kind === 'any') return facts => settled(parts, facts, true);
  return facts => {
    const any = settled(parts, facts, true);
    return typeof any === 'boolean' ? !any : any;
  };
}

/** One part that answers `enough` settles it, however little is known of the others. */
function settled(parts: readonly PartialTest[], facts: PartialFacts, enough: boolean): Maybe {
  let open: Question | null = null;
  for (const part of parts) {
    const answer = part(facts);
    if (answer === enough) return enough;
    if (typeof answer !== 'boolean') open ??= answer;
  }
  return open ?? !enough;
}

function comparisonTest(c: Comparison, currency: string, named: NamedWords): PartialTest {
  if (fieldSpec(c.field)?.kind === 'words') return wordsTest(c, named.get(c.field) ?? []);
  const test: Test = compile(c, currency);
  const at = placeOf(c.field);
  const row: FactRow = [];
  return facts => {
    const known = facts.get(c.field);
    if (known?.fact === undefined) return { field: c.field, word: null, time: known?.time ?? '' };
    row[at] = known.fact;
    return test(row);
  };
}

function wordsTest(c: Comparison, all: readonly string[]): PartialTest {
  const named = (c.value as readonly string[]).map(folded);
  const others = [...all, OTHER_WORD].filter(w => !named.includes(w));
  return facts => {
    const known = facts.get(c.field);
    const has = (word: string): Maybe =>
      known?.words?.get(word) ?? { field: c.field, word, time: known?.time ?? '' };
    if (c.is === 'has any of') return someOf(named.map(has));
    if (c.is === 'has all of') return everyOf(named.map(has));
    if (c.is === 'has none of') return not(someOf(named.map(has)));
    return everyOf([not(someOf(others.map(has))), someOf(named.map(has))]);
  };
}

const not = (m: Maybe): Maybe => (typeof m === 'boolean' ? !m : m);
const someOf = (all: readonly Maybe[]): Maybe =>
  all.includes(true) || (all.find(m => typeof m !== 'boolean') ?? false);
const everyOf = (all: readonly Maybe[]): Maybe => {
  if (all.includes(false)) return false;
  return all.find(m => typeof m !== 'boolean') ?? true;
};
