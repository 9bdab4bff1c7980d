import fc from 'fast-check';
import { expect, test } from 'vitest';
import { actOnLines } from '../orders/linesAct.js';
import { lineRate, orderTotals, type PricedLine } from '../orders/totals.js';
import { apportion } from './apportion.js';
import { minorDigits, parseAmount } from './money.js';
import { divideRound, formatRate, parseRate, rateOf, timesRate } from './round.js';

const whole = fc.integer({ min: -1_000_000_000, max: 1_000_000_000 });
const weights = fc.array(fc.integer({ min: 0, max: 10_000_000 }), { minLength: 1, maxLength: 40 });
const line = fc.record({
  quantity: fc.integer({ min: 1, max: 500 }),
  priceMinor: fc.integer({ min: 0, max: 500_000 }),
  taxPpm: fc.integer({ min: 0, max: 300_000 }),
  taxMinor: fc.constant(null),
});

test('halves go away from zero, on both sides', () => {
  expect([divideRound(5n, 2n), divideRound(-5n, 2n), divideRound(4n, 3n), divideRound(-1n, 3n)]).toEqual([
    3, -3, 1, 0,
  ]);
  expect(timesRate(1999, 900_000)).toBe(1799);
  expect(timesRate(50, 10_000)).toBe(1);
  expect(timesRate(-50, 10_000)).toBe(-1);
});

test('rounding is never further than half a unit, and is odd', () => {
  fc.assert(
    fc.property(whole, fc.integer({ min: 0, max: 2_000_000 }), (minor, ppm) => {
      const exact = (minor * ppm) / 1_000_000;
      expect(Math.abs(timesRate(minor, ppm) - exact)).toBeLessThanOrEqual(0.5 + 1e-6);
      expect(timesRate(-minor, ppm)).toBe(-timesRate(minor, ppm) || 0);
    }),
  );
});

test('rates are read with point or comma and shown again', () => {
  expect(parseRate('7.25 %')).toBe(72_500);
  expect(parseRate('7,25')).toBe(72_500);
  expect(parseRate('-10%')).toBe(-100_000);
  expect(parseRate('ten')).toBeNull();
  expect(parseRate('1.23456')).toBeNull();
  expect(formatRate(72_500)).toBe('7.25 %');
  expect(rateOf(145, 2000)).toBe(72_500);
  expect(rateOf(1, 0)).toBe(0);
});

test('largest remainder: sums exactly, each part within one of its quota, ties to the earlier', () => {
  expect(apportion(100, [1, 1, 1])).toEqual([34, 33, 33]);
  expect(apportion(-100, [1, 1, 1])).toEqual([-34, -33, -33]);
  expect(apportion(5, [0, 0])).toEqual([3, 2]);
  expect(apportion(5, [])).toEqual([]);
  fc.assert(
    fc.property(whole, weights, (total, w) => {
      const parts = apportion(total, w);
      expect(parts.reduce((a, b) => a + b, 0)).toBe(total);
      const sum = w.reduce((a, b) => a + b, 0);
      if (sum > 0)
        for (const [i, p] of parts.entries())
          expect(Math.abs(p - (total * w[i]!) / sum)).toBeLessThan(1 + 1e-6);
    }),
  );
});

test('the total is the sum of the lines, and of its kinds', () => {
  fc.assert(
    fc.property(
      fc.array(line, { minLength: 1, maxLength: 12 }),
      fc.integer({ min: 0, max: 9_999 }),
      fc.integer({ min: 0, max: 9_999 }),
      (lines, shippingMinor, discountMinor) => {
        const t = orderTotals({ lines, shippingMinor, discountMinor });
        expect(t.total).toBe(t.lines.reduce((n, l) => n + l.total, 0));
        expect(t.total).toBe(t.goods - t.discount + t.shipping + t.tax);
      },
    ),
  );
});

test('a channel’s tax is a fact; a changed line is taxed by its rate from then on', () => {
  const told: PricedLine = { quantity: 2, priceMinor: 1000, taxPpm: null, taxMinor: 146 };
  expect(orderTotals({ lines: [told], shippingMinor: 0, discountMinor: 0 }).total).toBe(2146);
  expect(lineRate(told)).toBe(73_000);
  const raised = actOnLines([told], { type: 'amount', minor: 500 }, lineRate);
  expect(raised.ok && orderTotals({ lines: raised.value, shippingMinor: 0, discountMinor: 0 }).tax).toBe(219);
});

test('10 % off is 0.9 of each price rounded per line; no price falls under zero (common practice)', () => {
  const lines: PricedLine[] = [1999, 5, 0].map(priceMinor => ({
    quantity: 1,
    priceMinor,
    taxPpm: null,
    taxMinor: null,
  }));
  const off = actOnLines(lines, { type: 'percent', ppm: -100_000 }, lineRate);
  expect(off.ok && off.value.map(l => l.priceMinor)).toEqual([1799, 5, 0]);
  expect(actOnLines(lines, { type: 'amount', minor: -10 }, lineRate)).toEqual({
    ok: false,
    problem: { line: 1 },
  });
  const taxed = actOnLines(lines, { type: 'tax', ppm: 72_500 }, lineRate);
  expect(taxed.ok && taxed.value.every(l => l.taxPpm === 72_500)).toBe(true);
});

test('amounts with decimal comma, thousands and signs of either habit', () => {
  const read = (text: string, currency = 'EUR') => {
    const got = parseAmount(text, currency);
    return got.ok ? got.value : got.problem;
  };
  expect(read('12,50')).toBe(1250);
  expect(read('1.234,50')).toBe(123_450);
  expect(read('1,234.50')).toBe(123_450);
  expect(read('1,234')).toBe(123_400);
  expect(read('1 234,5')).toBe(123_450);
  expect(read('€ 7,00')).toBe(700);
  expect(read('12.345', 'KWD')).toBe(12_345);
  expect(read('12,345', 'KWD')).toBe(12_345);
  expect(read('1.2.3')).toContain('is not an amount');
  expect(read('12.505')).toContain('has 2 digits');
  expect(minorDigits('JPY')).toBe(0);
});
