import { folded } from './compile.js';
import type { Comparison } from './condition.js';
import { type Fact, type FieldKind, fieldSpec } from './fields.js';
import { readNumber, readWords } from './literals.js';

/** A character that no word of a book has: what follows it begins nothing and is contained in nothing. */
const OTHER = '~';

/** More words than these that a text may contain are not told apart; then nothing is proved by them. */
const MOST_CONTAINED = 5;

/** OrderFacts that stand for all others of a field: whatever a fact is, comparisons answer for it as for one of these. */
export interface Cells {
  samples: readonly Fact[];
  /** Every fact is stood for. */
  complete: boolean;
}

/** What may lie below nothing. */
const mayBeNegative = (field: string, kind: FieldKind): boolean => kind === 'time' || field === 'margin';

/**
 * The samples of a field whose comparisons are known: for numbers what lies at, just below and just above each that is compared with; for
 * words each and another; for texts each, each beginning, and those that hold some of the words and no others. Last what nobody knows.
 * Fields that hold many words have none: each word of them is asked alone.
 */
export function cellsOf(field: string, comparisons: readonly Comparison[], currency: string): Cells {
  const kind = fieldSpec(field)!.kind;
  if (kind === 'flag') return { samples: [true, false, null], complete: true };
  if (kind === 'text') return textCells(comparisons);
  if (kind === 'choice' || kind === 'words')
    return { samples: [...new Set([...wordsOf(comparisons), OTHER]), null], complete: true };
  const numbers = comparisons.flatMap(c => {
    const read = readNumber(kind, c.value, currency);
    return read.ok ? [read.value - 1, read.value, read.value + 1] : [];
  });
  const possible = mayBeNegative(field, kind) ? numbers : numbers.filter(n => n >= 0);
  const samples = [...new Set([...possible, 0])].sort((a, b) => a - b);
  return { samples: [...samples, null], complete: true };
}

/** The words that comparisons name, in lower case, each once. */
export function wordsOf(comparisons: readonly Comparison[]): string[] {
  return [
    ...new Set(
      comparisons.flatMap(c => {
        const read = readWords(c.value);
        return read.ok ? read.value.map(folded) : [];
      }),
    ),
  ];
}

function textCells(comparisons: readonly Comparison[]): Cells {
  const begun = wordsOf(comparisons.filter(c => c.is === 'begins with'));
  const exact = wordsOf(comparisons.filter(c => c.is === 'one of' || c.is === 'not one of'));
  const held = wordsOf(comparisons.filter(c => c.is === 'contains'));
  const sets = subsets(held.slice(0, MOST_CONTAINED));
  const samples = ['', ...begun].flatMap(p => sets.map(s => [p, '', ...s].join(OTHER)));
  return { samples: [...new Set([...exact, ...samples]), null], complete: held.length <= MOST_CONTAINED };
}

/** All sets of some words, each in their order. */
export function subsets(words: readonly string[]): string[][] {
  return Array.from({ length: 2 ** words.length }, (_, bits) => words.filter((_w, i) => (bits >> i) & 1));
}
