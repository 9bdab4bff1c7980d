import fc from 'fast-check';
import { expect, test } from 'vitest';
import { parseScan } from '../barcode/parseScan.js';
import { isoMoment } from '../days/dates.js';
import { formatMoney, minorDigits, parseAmount } from '../money/money.js';
import { formatRate, parseRate } from '../money/round.js';
import { readScaleLine } from '../packing/scaleLine.js';
import { readSentence } from '../rules/readSentence.js';
import {
  formatLength,
  formatSize,
  formatWeight,
  MG,
  parseDistance,
  parseSize,
  parseWeight,
  TENTHS,
} from './units.js';

/** What people, scanners and spreadsheets put into a field: pieces of what is meant, out of order, and what nobody meant. */
const PIECES = [
  ...['0', '1', '12', '007', '99999999999999999999', '1e9', '.', ',', '-', '−', '+', '½', '٣', ' ', '\u00a0'],
  ...['kg', 'g', 'lb', 'oz', 'in', 'cm', 'mm', 'm', 'ft', '"', "'", 'x', '×', '%', '$', '€', 'USD', 'lbs'],
  ...['ST', 'US', 'OL', 'GS', ',', '(01)', '(10)', ']C1', '\u001d', 'AUK-', 'PL-', 'https://', '/01/', '#'],
  ...[
    'when',
    'if',
    'the',
    'weight',
    'is',
    'over',
    'then',
    '"',
    ':',
    '\n',
    '\t',
    '\u0000',
    '\ud800',
    '😀',
    'é',
  ],
  ...['2026', '-11-', '31', 'Nov', 'T', '25:61', 'Z', '+99:99', '/', 'NaN', 'Infinity', 'null'],
];
const typed = fc.oneof(
  fc.string({ unit: 'binary', maxLength: 60 }),
  fc.array(fc.constantFrom(...PIECES), { maxLength: 12 }).map(p => p.join('')),
  fc.array(fc.constantFrom(...PIECES), { maxLength: 12 }).map(p => p.join(' ')),
);
const RUNS = { numRuns: 2_000 };

test('whatever is typed for a weight is a whole number of milligrams up to a tonne, or refused with a sentence', () => {
  fc.assert(
    fc.property(typed, text => {
      const read = parseWeight(text);
      if (!read.ok) expect(read.problem).toMatch(/^[A-Z].*\.$/);
      else {
        expect(Number.isInteger(read.value)).toBe(true);
        expect(read.value).toBeGreaterThan(0);
        expect(read.value).toBeLessThanOrEqual(1_000 * MG.kg);
      }
    }),
    RUNS,
  );
  for (const nothing of ['0.0001 g', '0 lb 0 oz']) expect(parseWeight(nothing).ok, nothing).toBe(false);
});

test('whatever is typed for a size has sides of this world, or is refused with a sentence', () => {
  fc.assert(
    fc.property(typed, text => {
      const read = parseSize(text);
      if (!read.ok) expect(read.problem).toMatch(/^[A-Z].*\.$/);
      else
        for (const side of Object.values(read.value)) {
          expect(Number.isInteger(side)).toBe(true);
          expect(side).toBeGreaterThan(0);
          expect(side).toBeLessThanOrEqual(100_000);
        }
    }),
    RUNS,
  );
  expect(parseSize('11,5 x 9 x 14 cm')).toEqual({
    ok: true,
    value: { length: 1150, width: 900, height: 1400 },
  });
  for (const no of ['99999999999999999999x1x1 in', '1.2.3x1x1 in', '.x1x1 in', '0.01x1x1 mm'])
    expect(parseSize(no).ok, no).toBe(false);
});

test('whatever is typed for an amount is whole minor units, or refused', () => {
  fc.assert(
    fc.property(typed, fc.constantFrom('USD', 'JPY', 'KWD', 'EUR'), (text, currency) => {
      const read = parseAmount(text, currency);
      if (read.ok) expect(Number.isSafeInteger(read.value) && Math.abs(read.value) <= 1e12).toBe(true);
      else expect(read.problem.length).toBeGreaterThan(10);
    }),
    RUNS,
  );
});

test('whatever is typed for a rate, a distance, a date or comes from a scale is read or not, and never something else', () => {
  fc.assert(
    fc.property(typed, text => {
      const rate = parseRate(text);
      expect(rate === null || Number.isSafeInteger(rate)).toBe(true);
      const distance = parseDistance(text);
      if (distance.ok) expect(Number.isInteger(distance.value)).toBe(true);
      const scale = readScaleLine(text);
      if (scale && scale.state !== 'overloaded') expect(Number.isSafeInteger(scale.mg)).toBe(true);
      const moment = isoMoment(text);
      if (moment !== null) expect(moment).toMatch(/^20\d\d-\d\d-\d\dT\d\d:\d\d:\d\d\.000Z$/);
    }),
    RUNS,
  );
  for (const no of ['0026-11-23', '9999-12-31 23:59-10:00', '1926-01-01', '2026-02-30', '2026-11-23 24:00'])
    expect(isoMoment(no), no).toBeNull();
});

test('whatever is scanned is something, or refused with a sentence that says what to do', () => {
  fc.assert(
    fc.property(typed, text => {
      const read = parseScan(text, 2026);
      if (!read.ok) expect(read.problem).toMatch(/\.$/);
      else if (read.value.type === 'weight') expect(read.value.mg).toBeGreaterThan(0);
      else if (read.value.type === 'quantity') expect(Number.isSafeInteger(read.value.n)).toBe(true);
    }),
    RUNS,
  );
});

test('whatever is written for a rule is read, or refused at a place within it', () => {
  fc.assert(
    fc.property(typed, text => {
      const read = readSentence(text);
      if (read.ok) return;
      expect(read.problem.at).toBeGreaterThanOrEqual(0);
      expect(read.problem.at).toBeLessThanOrEqual(text.length);
    }),
    RUNS,
  );
});

test('what is shown is read again as the same, but for what was rounded away', () => {
  const mg = fc.integer({ min: 100_000, max: 900_000_000 });
  fc.assert(
    fc.property(mg, weight => {
      const metric = parseWeight(formatWeight(weight, 'metric'));
      const imperial = parseWeight(formatWeight(weight, 'imperial'));
      expect(metric.ok && Math.abs(metric.value - weight)).toBeLessThanOrEqual(weight < MG.kg ? 500 : 5_000);
      expect(imperial.ok && Math.abs(imperial.value - weight)).toBeLessThanOrEqual(MG.oz / 20 + 1);
    }),
  );
  const side = fc.integer({ min: 20, max: 90_000 });
  fc.assert(
    fc.property(side, side, side, (length, width, height) => {
      for (const [system, per] of [
        ['imperial', TENTHS.in],
        ['metric', TENTHS.cm],
      ] as const) {
        const read = parseSize(formatSize({ length, width, height }, system));
        expect(read.ok && Math.abs(read.value.length - length)).toBeLessThanOrEqual(per / 20 + 1);
        expect(read.ok && Math.abs(read.value.height - height)).toBeLessThanOrEqual(per / 20 + 1);
        expect(formatLength(length, system)).toMatch(/^\d+(\.\d)? (in|cm)$/);
      }
    }),
  );
  fc.assert(
    fc.property(
      fc.integer({ min: -1e11, max: 1e11 }),
      fc.constantFrom('USD', 'JPY', 'KWD', 'EUR'),
      (minor, currency) => {
        const shown = formatMoney(minor, currency);
        expect(parseAmount(shown, currency), shown).toEqual({ ok: true, value: minor || 0 });
        expect(minorDigits(currency)).toBeLessThanOrEqual(3);
      },
    ),
  );
  fc.assert(
    fc.property(fc.integer({ min: -99_999_999, max: 99_999_999 }), ppm => {
      expect(parseRate(formatRate(ppm))).toBe(ppm || 0);
    }),
  );
});
