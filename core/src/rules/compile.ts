import { type Comparison, type Condition, groupOf } from './condition.js';
import {
  type Fact,
  FIELD_NAMES,
  type Field,
  fieldSpec,
  LINE_FIELDS,
  type LineFacts,
  type OrderFacts,
} from './fields.js';
import { readNumber, readWords } from './literals.js';

/** What is known of an order or a line, by the place of each field, all words in lower case; rows of a book write into it what they set. */
export type FactRow = Fact[];
export type Test = (row: FactRow) => boolean;

const LINE_NAMES = Object.keys(LINE_FIELDS);
const ORDER_PLACES = new Map<string, number>(FIELD_NAMES.map((f, i) => [f, i]));
const LINE_PLACES = new Map<string, number>(LINE_NAMES.map((f, i) => [f, i]));

/** Where a field of orders stands in a row of facts. */
export const placeOf = (field: string): number => ORDER_PLACES.get(field)!;

/** Words are compared without regard to upper and lower case. */
export const folded = (word: string): string => word.toLowerCase();

const foldedFact = (fact: Fact): Fact => {
  if (typeof fact === 'string') return folded(fact);
  return Array.isArray(fact) ? fact.map(folded) : fact;
};

const UNKNOWN: readonly Fact[] = FIELD_NAMES.map(() => null);

/** A row in which nothing is known. */
export const emptyRow = (): FactRow => UNKNOWN.slice();

/** The facts that are asked for, in their places; all others stand as unknown. A row that is given is written over. */
export function factRow(
  facts: OrderFacts,
  asked: readonly Field[],
  places: readonly number[] = asked.map(placeOf),
  row: FactRow = emptyRow(),
): FactRow {
  row.fill(null);
  for (let i = 0; i < asked.length; i++) row[places[i]!] = foldedFact(facts[asked[i]!]);
  return row;
}
export const lineRow = (facts: LineFacts): FactRow =>
  LINE_NAMES.map(f => foldedFact(facts[f as keyof LineFacts]));

/**
 * A condition as a function that is quick to ask. It always answers: what nobody knows meets no comparison. The book must have been
 * checked (`checkBook`); a comparison that cannot be read never holds. `of` says whether fields are those of orders or of lines.
 */
export function compile(condition: Condition, currency: string, of: 'order' | 'line' = 'order'): Test {
  const group = groupOf(condition);
  if (!group)
    return comparison(condition as Comparison, currency, of === 'order' ? ORDER_PLACES : LINE_PLACES);
  const tests = group.parts.map(p => compile(p, currency, of));
  if (group.kind === 'all') return everyOf(tests);
  const some = someOf(tests);
  return group.kind === 'any' ? some : row => !some(row);
}

/** Groups are short as a rule; the short ones need no loop. */
function everyOf(tests: readonly Test[]): Test {
  const [a, b, c] = tests;
  if (!a) return () => true;
  if (!b) return a;
  if (!c) return row => a(row) && b(row);
  if (tests.length === 3) return row => a(row) && b(row) && c(row);
  return row => {
    for (const test of tests) if (!test(row)) return false;
    return true;
  };
}

function someOf(tests: readonly Test[]): Test {
  const [a, b] = tests;
  if (!a) return () => false;
  if (!b) return a;
  if (tests.length === 2) return row => a(row) || b(row);
  return row => {
    for (const test of tests) if (test(row)) return true;
    return false;
  };
}

const NEVER: Test = () => false;

function comparison(c: Comparison, currency: string, places: ReadonlyMap<string, number>): Test {
  const at = places.get(c.field);
  const spec = fieldSpec(c.field);
  if (at === undefined || !spec) return NEVER;
  if (spec.kind === 'flag') {
    const wanted = c.is === 'yes';
    return row => row[at] === wanted;
  }
  if (spec.kind === 'choice' || spec.kind === 'text' || spec.kind === 'words') {
    const read = readWords(c.value);
    if (!read.ok) return NEVER;
    const words = read.value.map(folded);
    return spec.kind === 'words' ? wordsTest(c, at, words) : textTest(c, at, words);
  }
  const read = readNumber(spec.kind, c.value, currency);
  return read.ok ? numberTest(c, at, read.value) : NEVER;
}

/** Nothing is over, under or equal to what is no number. */
const numberAt = (row: FactRow, at: number): number => {
  const fact = row[at];
  return typeof fact === 'number' ? fact : Number.NaN;
};

function numberTest(c: Comparison, at: number, n: number): Test {
  if (c.is === 'is') return row => row[at] === n;
  if (c.is === 'over') return row => numberAt(row, at) > n;
  if (c.is === 'under') return row => numberAt(row, at) < n;
  if (c.is === 'at least') return row => numberAt(row, at) >= n;
  return row => numberAt(row, at) <= n;
}

function textTest(c: Comparison, at: number, words: readonly string[]): Test {
  const given = new Set<Fact | undefined>(words);
  if (c.is === 'one of') return row => given.has(row[at]);
  if (c.is === 'not one of') return row => typeof row[at] === 'string' && !given.has(row[at]);
  const begins = c.is === 'begins with';
  const [word] = words;
  // Rows with one word are most of a book.
  if (word !== undefined && words.length === 1)
    return begins
      ? row => {
          const text = row[at];
          return typeof text === 'string' && text.startsWith(word);
        }
      : row => {
          const text = row[at];
          return typeof text === 'string' && text.includes(word);
        };
  return row => {
    const text = row[at];
    return typeof text === 'string' && words.some(w => (begins ? text.startsWith(w) : text.includes(w)));
  };
}

function wordsTest(c: Comparison, at: number, words: readonly string[]): Test {
  const held = (row: FactRow): readonly string[] | null => {
    const fact = row[at];
    return Array.isArray(fact) ? fact : null;
  };
  const [word] = words;
  if (word !== undefined && words.length === 1 && (c.is === 'has any of' || c.is === 'has all of'))
    return row => {
      const fact = row[at];
      return Array.isArray(fact) && fact.includes(word);
    };
  if (c.is === 'has any of') return row => words.some(w => held(row)?.includes(w));
  if (c.is === 'has all of') return row => words.every(w => held(row)?.includes(w));
  if (c.is === 'has none of') return row => held(row)?.every(f => !words.includes(f)) === true;
  return row => {
    const all = held(row);
    return all !== null && all.length > 0 && all.every(f => words.includes(f));
  };
}
