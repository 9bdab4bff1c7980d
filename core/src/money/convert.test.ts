import fc from 'fast-check';
import { expect, test } from 'vitest';
import { convert } from './convert.js';

const RATES = new Map([
  ['CAD', 0.72],
  ['JPY', 0.0067],
  ['KWD', 3.25],
  ['EUR', 1.09],
]);
const to = (minor: number, a: string, b: string) => convert(minor, a, b, RATES, 'USD');

test('amounts go through the house’s currency, and minor digits are counted', () => {
  expect(to(1000, 'CAD', 'USD')).toBe(720);
  expect(to(720, 'USD', 'CAD')).toBe(1000);
  // 100 yen have no cents, a dinar has a thousand fils.
  expect(to(10_000, 'JPY', 'USD')).toBe(6700);
  expect(to(1000, 'KWD', 'USD')).toBe(325);
  expect(to(1000, 'KWD', 'CAD')).toBe(Math.round(325 / 0.72));
  expect(to(-1000, 'CAD', 'USD')).toBe(-720);
});

test('without a rate nothing is made up, and the same currency needs none', () => {
  expect(to(1000, 'GBP', 'USD')).toBeNull();
  expect(to(1000, 'USD', 'GBP')).toBeNull();
  expect(to(1000, 'GBP', 'GBP')).toBe(1000);
});

test('there and back is never further off than what one unit of the coarser currency is', () => {
  const currency = fc.constantFrom('USD', ...RATES.keys());
  fc.assert(
    fc.property(fc.integer({ min: -1e9, max: 1e9 }), currency, currency, (minor, a, b) => {
      const there = to(minor, a, b)!;
      const one = Math.abs(to(1, b, a) ?? 0);
      expect(Math.abs(to(there, b, a)! - minor)).toBeLessThanOrEqual(one / 2 + 1.5);
    }),
  );
});
