import { DECIDED, type DecidedField } from './actions.js';
import { type Rule, type RuleBook, rulesOf } from './book.js';
import type { DecidedBy, Ruled } from './runBook.js';
import { actionWords, sentenceOf } from './sentence.js';

/** A rule that differs between two versions of a book. `before` and `after` are its sentences, null where it is not there. */
export interface RuleDifference {
  id: string;
  name: string;
  how: 'new' | 'gone' | 'changed' | 'moved' | 'on' | 'off';
  before: string | null;
  after: string | null;
}

const saysAll = (r: Rule): string => JSON.stringify([sentenceOf(r), r.name, r.note, r.button ?? null]);

/** What differs between two versions of a book, in the order of the later one, what is gone at the end. A rule that only slid because others came or went has not moved. */
export function bookDifferences(before: RuleBook, after: RuleBook): RuleDifference[] {
  const [was, is] = [rulesOf(before), rulesOf(after)];
  const known = new Map(was.map(r => [r.id, r]));
  const stays = new Set(is.map(r => r.id));
  const kept = longestKept(
    was.filter(r => stays.has(r.id)).map(r => r.id),
    is.filter(r => known.has(r.id)).map(r => r.id),
  );
  const differences = is.flatMap((r): RuleDifference[] => {
    const old = known.get(r.id);
    const row = { id: r.id, name: r.name, before: old ? sentenceOf(old) : null, after: sentenceOf(r) };
    if (!old) return [{ ...row, how: 'new' }];
    if (saysAll(old) !== saysAll(r)) return [{ ...row, how: 'changed' }];
    if (old.runs !== r.runs) return [{ ...row, how: r.runs ? 'on' : 'off' }];
    return kept.has(r.id) ? [] : [{ ...row, how: 'moved' }];
  });
  const gone = was.filter(r => !stays.has(r.id));
  return [
    ...differences,
    ...gone.map(r => ({ id: r.id, name: r.name, how: 'gone' as const, before: sentenceOf(r), after: null })),
  ];
}

/** The ids that stand in the same order in both lists, as many as can be: the longest common subsequence. */
function longestKept(was: readonly string[], is: readonly string[]): Set<string> {
  const at = new Map(was.map((id, i) => [id, i]));
  // Patience sorting: `tails` holds the place that ends the best run of each length.
  const tails: number[] = [];
  const before: number[] = [];
  is.forEach((id, i) => {
    const place = at.get(id)!;
    let k = tails.findIndex(t => at.get(is[t]!)! >= place);
    if (k === -1) k = tails.length;
    before[i] = k > 0 ? tails[k - 1]! : -1;
    tails[k] = i;
  });
  const kept = new Set<string>();
  for (let i = tails.at(-1) ?? -1; i >= 0; i = before[i]!) kept.add(is[i]!);
  return kept;
}

/** A field that two runs decide otherwise. */
export interface FieldDifference {
  field: DecidedField;
  before: DecidedBy | null;
  after: DecidedBy | null;
}

/** What two outcomes for one order differ in: decided fields, and what is added or done, in words. */
export interface OutcomeDifference {
  fields: FieldDifference[];
  more: string[];
  less: string[];
}

/** Compares two outcomes of one order. That another rule decides the same is no difference. */
export function outcomeDifference(before: Ruled, after: Ruled): OutcomeDifference {
  const fields = DECIDED.flatMap((field): FieldDifference[] => {
    const [b, a] = [before.fields[field] ?? null, after.fields[field] ?? null];
    return b?.value === a?.value ? [] : [{ field, before: b, after: a }];
  });
  const does = (r: Ruled) =>
    [...r.added, ...r.deeds].map(d => ({
      says: actionWords(d.action),
      mark: [d.action, d.lines].map(x => JSON.stringify(x)).join(),
    }));
  const [had, has] = [does(before), does(after)];
  const without = (a: typeof had, b: typeof had) =>
    a.filter(x => !b.some(y => y.mark === x.mark)).map(x => x.says);
  return { fields, more: without(has, had), less: without(had, has) };
}
