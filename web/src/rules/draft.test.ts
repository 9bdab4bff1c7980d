import { type RuleBook, rulesOf } from '@auk/core';
import { expect, test } from 'vitest';
import {
  freeId,
  inGroup,
  inOrder,
  isComplete,
  newRule,
  sameBook,
  withCopy,
  withGroup,
  withNewRule,
  withoutRule,
  withRule,
} from './draft.js';

const rule = (id: string) => ({ ...newRule(id), name: id });
const BOOK: RuleBook = {
  rows: [rule('a'), { id: 'g-1', name: 'Glass', on: true, rules: [rule('b'), rule('c')] }, rule('d')],
};
const ids = (book: RuleBook) => rulesOf(book).map(r => r.id);

test('a rule is changed where it stands, in a group or not', () => {
  for (const id of ['a', 'c']) {
    const after = withRule(BOOK, { ...rule(id), stop: true });
    expect(ids(after)).toEqual(ids(BOOK));
    expect(rulesOf(after).find(r => r.id === id)?.stop).toBe(true);
  }
});

test('what is taken out is gone; a group goes with its last rule', () => {
  expect(ids(withoutRule(BOOK, 'b'))).toEqual(['a', 'c', 'd']);
  expect(withoutRule(withoutRule(BOOK, 'b'), 'c').rows.map(r => r.id)).toEqual(['a', 'd']);
});

test('a copy stands right below, off, and a new rule at the end', () => {
  const after = withCopy(BOOK, 'b', 'x');
  expect(ids(after)).toEqual(['a', 'b', 'x', 'c', 'd']);
  expect(rulesOf(after)[2]).toMatchObject({ name: 'b (copy)', on: false });
  expect(ids(withNewRule(BOOK, rule('e')))).toEqual(['a', 'b', 'c', 'd', 'e']);
});

test('rows and the rules of a group have their own orders', () => {
  expect(ids(inOrder(BOOK, ['d', 'g-1', 'a'], null))).toEqual(['d', 'b', 'c', 'a']);
  expect(ids(inOrder(BOOK, ['c', 'b'], 'g-1'))).toEqual(['a', 'c', 'b', 'd']);
});

test('a rule moves into a group, out of it, and into a new one, at the place where it stood', () => {
  expect(ids(inGroup(BOOK, rule('a'), 'Glass', 'g-2'))).toEqual(['b', 'c', 'a', 'd']);
  expect(inGroup(BOOK, rule('b'), 'Glass', 'g-2')).toBe(BOOK);
  const out = inGroup(BOOK, rule('b'), '', 'g-2');
  expect(out.rows.map(r => r.id)).toEqual(['a', 'g-1', 'b', 'd']);
  const own = inGroup(BOOK, rule('d'), 'Heavy', 'g-2');
  expect(own.rows.at(-1)).toMatchObject({ id: 'g-2', name: 'Heavy', rules: [{ id: 'd' }] });
  const first = inGroup(BOOK, rule('a'), 'Heavy', 'g-2');
  expect(first.rows.map(r => r.id)).toEqual(['g-2', 'g-1', 'd']);
});

test('a group that is off keeps its rules from running; ids are free; a book is the same as itself', () => {
  expect(rulesOf(withGroup(BOOK, 'g-1', false)).map(r => r.runs)).toEqual([true, false, false, true]);
  expect([...ids(BOOK), 'g-1']).not.toContain(freeId(BOOK, 'r'));
  expect(sameBook(BOOK, withGroup(withGroup(BOOK, 'g-1', false), 'g-1', true))).toBe(true);
});

test('a book is complete when all of it has names and says what it does', () => {
  const does = { ...rule('a'), do: [{ do: 'first' as const }] };
  expect(isComplete({ rows: [does] }, 'USD')).toBe(true);
  expect(isComplete({ rows: [rule('a')] }, 'USD')).toBe(false);
  expect(isComplete({ rows: [{ ...does, name: ' ' }] }, 'USD')).toBe(false);
  expect(isComplete({ rows: [{ id: 'g', name: '', on: true, rules: [does] }] }, 'USD')).toBe(false);
});
