import type { OrderView } from '@auk/contract';
import { expect, test } from 'vitest';
import { editOf, instead, type LineWish, moreOf, oneFewer, oneMore, wishesOf } from './lineWishes.js';

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

test('a piece is no pack: scanned, it is a line of its own beside the packs', () => {
  const sold = (channelSku: string, units: number) => ({
    key: channelSku,
    channelSku,
    units,
    title: channelSku,
    quantity: 1,
    priceMinor: 900,
    product: { sku: 'JAR' },
  });
  const of = (...lines: object[]) => wishesOf({ lines } as unknown as OrderView);
  const jar = { sku: 'JAR', name: 'Jar' };
  expect(editOf(oneMore(of(sold('JAR-X6', 6)), jar))).toEqual([{ sku: 'JAR', quantity: 1 }]);
  expect(oneFewer(of(sold('JAR-X6', 6)), 'JAR')).toBeNull();
  expect(editOf(oneMore(of(sold('GLASS', 1)), jar))).toEqual([{ key: 'GLASS', quantity: 2 }]);
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
