import { expect, test } from 'vitest';
import { settledWord } from './settled.js';

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
