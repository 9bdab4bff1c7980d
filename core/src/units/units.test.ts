import fc from 'fast-check';
import { expect, test } from 'vitest';
import { formatMoney, minorDigits, parseAmount } from '../money/money.js';
import { cubicInches, formatSize, formatWeight, MG, parseSize, parseWeight, stepsUp } from './units.js';

const value = <T>(r: { ok: true; value: T } | { ok: false; problem: string }) => (r.ok ? r.value : r.problem);

test('weights in the ways people type them', () => {
  expect(value(parseWeight('1 lb'))).toBe(453_592);
  expect(value(parseWeight('2 lb 3 oz'))).toBe(992_233);
  expect(value(parseWeight('1.2 kg'))).toBe(1_200_000);
  expect(value(parseWeight('1,2 kg'))).toBe(1_200_000);
  for (const bad of ['', '12', '0 kg', '-1 kg', '2000 kg', '1 stone', '1 kg and more'])
    expect(parseWeight(bad).ok, bad).toBe(false);
});

test('a pound typed is a pound rated', () => {
  expect(stepsUp(453_592, MG.lb)).toBe(1);
  expect(stepsUp(460_000, MG.lb)).toBe(2);
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 150 }), lb => stepsUp(Math.round(lb * MG.lb), MG.lb) === lb),
  );
});

test('8 x 8 x 8 in is 0.296 cubic feet', () => {
  const size = parseSize('8x8x8 in');
  expect(size.ok && (cubicInches(size.value) / 1728).toFixed(3)).toBe('0.296');
  expect(parseSize('8x8 in').ok).toBe(false);
  expect(parseSize('0x8x8 in').ok).toBe(false);
});

test('what is shown', () => {
  expect(formatWeight(992_233, 'imperial')).toBe('2 lb 3 oz');
  expect(formatWeight(350_000, 'metric')).toBe('350 g');
  expect(formatSize({ length: 2032, width: 2032, height: 2032 }, 'imperial')).toBe('8 × 8 × 8 in');
  expect(formatMoney(18_460, 'USD')).toBe('$184.60');
  expect(formatMoney(123_456_789, 'USD')).toBe('$1,234,567.89');
  expect(formatMoney(-1200, 'JPY')).toBe('−JPY 1,200');
});

test('money is read exactly or not at all', () => {
  expect(value(parseAmount('12.50', 'USD'))).toBe(1250);
  expect(value(parseAmount('1,234.5', 'USD'))).toBe(123_450);
  expect(value(parseAmount('12', 'JPY'))).toBe(12);
  expect(parseAmount('12.505', 'USD').ok).toBe(false);
  expect(parseAmount('twelve', 'USD').ok).toBe(false);
  expect(minorDigits('KWD')).toBe(3);
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 99_999_999 }),
      n => value(parseAmount((n / 100).toFixed(2), 'USD')) === n,
    ),
  );
});
