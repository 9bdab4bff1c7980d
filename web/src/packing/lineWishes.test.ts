import { expect, test } from 'vitest';
import { editOf, instead, type LineWish, moreOf, oneFewer, oneMore } from './lineWishes.js';

const line = (sku: string, quantity: number): LineWish => ({
  key: sku,
  sku,
  name: sku,
  before: quantity,
  quantity,
  priceMinor: 500,
});
const wishes = [line('JAR', 2), line('BOOK', 1)];

test('what was scanned counts on its line, or is a new line at its own price', () => {
  expect(editOf(wishes)).toEqual([]);
  expect(editOf(oneMore(wishes, { sku: 'JAR', name: 'Jar' }))).toEqual([{ key: 'JAR', quantity: 3 }]);
  const added = oneMore(oneMore(wishes, { sku: 'TIN', name: 'Tin' }), { sku: 'TIN', name: 'Tin' });
  expect(editOf(added)).toEqual([{ sku: 'TIN', quantity: 2 }]);
  expect(editOf(moreOf(added, 2, -2))).toEqual([]);
});

test('fewer, down to none, which removes the line; never fewer than none', () => {
  expect(editOf(oneFewer(wishes, 'JAR')!)).toEqual([{ key: 'JAR', quantity: 1 }]);
  const none = oneFewer(wishes, 'BOOK')!;
  expect(editOf(none)).toEqual([{ key: 'BOOK', remove: true }]);
  expect(oneFewer(none, 'BOOK')).toBeNull();
  expect(editOf(moreOf(none, 1, -1))).toEqual([{ key: 'BOOK', remove: true }]);
});

test('another product instead costs what the line cost', () => {
  expect(editOf(instead(wishes, 0, { sku: 'TIN', name: 'Tin' }))).toEqual([
    { key: 'JAR', remove: true },
    { sku: 'TIN', quantity: 2, priceMinor: 500 },
  ]);
});
