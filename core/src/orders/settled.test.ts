import { expect, test } from 'vitest';
import { openBalance, paidWhen, settledWord } from './settled.js';

test.each([
  ['paid', 12_000, 12_000, 'paid'],
  ['paid', 12_000, 25_300, 'part paid'],
  ['paid', 0, 12_000, 'unpaid'],
  ['paid', 0, 0, 'paid'],
  ['paid', 13_000, 12_000, 'paid'],
  ['unpaid', 0, 12_000, 'unpaid'],
  ['unpaid', 500, 12_000, 'part paid'],
  ['unpaid', 12_000, 12_000, 'paid'],
  ['unpaid', 0, 0, 'unpaid'],
  ['part refunded', 9_000, 12_000, 'part refunded'],
  ['refunded', 0, 12_000, 'refunded'],
  ['on delivery', 0, 12_000, 'on delivery'],
] as const)('told %s with %d paid of %d is %s', (told, paid, total, word) => {
  expect(settledWord(told, paid, total)).toBe(word);
});

test.each([
  ['unpaid', 0, 6_195, -6_195],
  ['on delivery', 0, 6_195, -6_195],
  ['paid', 5_000, 6_195, -1_195],
  ['paid', 7_000, 6_195, 805],
  ['refunded', 0, 6_195, 0],
  ['part refunded', 5_000, 6_195, 0],
  ['refunded', 7_000, 6_195, 805],
] as const)('told %s with %d paid of %d, %d is open', (told, paid, total, open) => {
  expect(openBalance(told, paid, total)).toBe(open);
});

test.each([
  ['paid', 0, 6_195, 6_195],
  ['paid', 7_000, 6_195, 7_000],
  ['unpaid', 6_195, 6_195, 0],
  ['refunded', 6_195, 6_195, 0],
  ['part refunded', 6_195, 6_195, 6_195],
  ['on delivery', 0, 6_195, 0],
] as const)('once it is told to be %s, %d paid of %d are %d', (told, paid, total, after) => {
  expect(paidWhen(told, paid, total)).toBe(after);
});
