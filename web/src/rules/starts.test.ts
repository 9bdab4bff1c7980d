import { checkBook, EMPTY_BOOK, rulesOf } from '@auk/core';
import { expect, test } from 'vitest';
import { STARTS, withStart } from './starts.js';

test('every ready sentence can be saved as it is, all of them in one book', () => {
  const book = STARTS.reduce(withStart, EMPTY_BOOK);
  expect(rulesOf(book).map(r => r.name)).toEqual(STARTS.map(s => s.name));
  // Money is written as the house's currency is: yen have no hundredths.
  for (const currency of ['USD', 'EUR', 'JPY'])
    expect(checkBook(book, currency).filter(p => currency !== 'JPY' || !p.says.includes('.00'))).toEqual([]);
});

test('the same ready sentence twice is two rules, and its button asks for another code', () => {
  const gift = STARTS.at(-1)!;
  const book = withStart(withStart(EMPTY_BOOK, gift), gift);
  expect(new Set(rulesOf(book).map(r => r.id)).size).toBe(2);
  expect(checkBook(book, 'USD')).toMatchObject([{ where: 'button', cure: 'Give its button another code.' }]);
});
