import { checkBook, isGroup, type Rule, type RuleBook, type RuleGroup, rulesOf } from '@auk/core';

type Row = RuleBook['rows'][number];

/** A rule that is begun: it does nothing yet. */
export const newRule = (id: string): Rule => ({
  id,
  name: '',
  note: '',
  on: true,
  at: 'clear',
  when: { all: [] },
  do: [],
  stop: false,
});

const mapRows = (book: RuleBook, change: (row: Row) => Row[]): RuleBook => ({
  rows: book.rows.flatMap(change),
});

/** A rule with other contents, wherever it stands. */
export const withRule = (book: RuleBook, rule: Rule): RuleBook =>
  mapRows(book, row =>
    isGroup(row)
      ? [{ ...row, rules: row.rules.map(r => (r.id === rule.id ? rule : r)) }]
      : [row.id === rule.id ? rule : row],
  );

/** Without a rule; a group that held nothing else goes with it. */
export const withoutRule = (book: RuleBook, id: string): RuleBook =>
  mapRows(book, row => {
    if (!isGroup(row)) return row.id === id ? [] : [row];
    const rules = row.rules.filter(r => r.id !== id);
    return rules.length === 0 && row.rules.length > 0 ? [] : [{ ...row, rules }];
  });

/** A rule at the end of the book, where it has the last word. */
export const withNewRule = (book: RuleBook, rule: Rule): RuleBook => ({ rows: [...book.rows, rule] });

/** A copy right below a rule, off until somebody looks at it. */
export function withCopy(book: RuleBook, id: string, copyId: string): RuleBook {
  const copyOf = (r: Rule): Rule => ({ ...r, id: copyId, name: `${r.name} (copy)`.slice(0, 80), on: false });
  const twice = (r: Rule): Rule[] => (r.id === id ? [r, copyOf(r)] : [r]);
  return mapRows(book, row => (isGroup(row) ? [{ ...row, rules: row.rules.flatMap(twice) }] : twice(row)));
}

/** The rows in another order: those of the book, or those of a group. */
export function inOrder(book: RuleBook, ids: readonly string[], group: string | null): RuleBook {
  const sorted = <T extends { id: string }>(rows: readonly T[]): T[] =>
    [...rows].sort((a, b) => ids.indexOf(a.id) - ids.indexOf(b.id));
  if (group === null) return { rows: sorted(book.rows) };
  return mapRows(book, row => [
    isGroup(row) && row.id === group ? { ...row, rules: sorted(row.rules) } : row,
  ]);
}

/** A rule in a group of that name, which is made where there is none; an empty name takes it out of its group. */
export function inGroup(book: RuleBook, rule: Rule, name: string, groupId: string): RuleBook {
  const known = book.rows.find((row): row is RuleGroup => isGroup(row) && row.name === name);
  if (name !== '' && known?.rules.some(r => r.id === rule.id)) return book;
  const place = book.rows.findIndex(row =>
    isGroup(row) ? row.rules.some(r => r.id === rule.id) : row.id === rule.id,
  );
  const without = withoutRule(book, rule.id);
  if (name !== '' && known)
    return mapRows(without, row => [
      row.id === known.id && isGroup(row) ? { ...row, rules: [...row.rules, rule] } : row,
    ]);
  const row: Row = name === '' ? rule : { id: groupId, name, on: true, rules: [rule] };
  const rows = [...without.rows];
  rows.splice(Math.min(place, rows.length) + (rows.length >= book.rows.length ? 1 : 0), 0, row);
  return { rows };
}

/** A group put on or off as a whole. */
export const withGroup = (book: RuleBook, id: string, on: boolean): RuleBook =>
  mapRows(book, row => [isGroup(row) && row.id === id ? { ...row, on } : row]);

/** An id that no rule and no group of the book has. */
export function freeId(book: RuleBook, prefix: 'r' | 'g'): string {
  const taken = new Set([...book.rows.map(r => r.id), ...rulesOf(book).map(r => r.id)]);
  for (let n = taken.size + 1; ; n++) if (!taken.has(`${prefix}-${n}`)) return `${prefix}-${n}`;
}

export const sameBook = (a: RuleBook, b: RuleBook): boolean => JSON.stringify(a) === JSON.stringify(b);

export const hasUnnamed = (book: RuleBook): boolean =>
  [...book.rows, ...rulesOf(book)].some(r => r.name.trim() === '');

/** Whether a book could be saved as it stands. */
export const isComplete = (book: RuleBook, currency: string): boolean =>
  !hasUnnamed(book) && checkBook(book, currency).length === 0;
