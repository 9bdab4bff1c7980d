import fc from 'fast-check';
import { expect, test } from 'vitest';
import { parseGs1 } from '../barcode/gs1.js';
import { isSscc, serialsOf, ssccOf, ssccWords } from './sscc.js';

const prefix = fc.integer({ min: 7, max: 10 }).chain(n => fc.stringMatching(new RegExp(`^[0-9]{${n}}$`)));

test('every number has 18 digits, its check digit, its prefix, and is read back as a shipping unit', () => {
  fc.assert(
    fc.property(prefix, fc.nat(), (companyPrefix, n) => {
      const made = ssccOf(companyPrefix, n % (10 * serialsOf(companyPrefix)));
      if (!made.ok) throw new Error(made.problem);
      expect(isSscc(made.value)).toBe(true);
      expect(made.value.slice(1, 1 + companyPrefix.length)).toBe(companyPrefix);
      expect(parseGs1(`(00)${made.value}`, 2026)).toEqual({ ok: true, value: { sscc: made.value } });
    }),
  );
});

test('two units never have one number, also where the serials of an extension digit end', () => {
  const serials = serialsOf('9520001123');
  expect(serials).toBe(1_000_000);
  const of = (n: number) => {
    const made = ssccOf('9520001123', n);
    return made.ok ? made.value : made.problem;
  };
  expect(of(serials - 1)).toMatch(/^09520001123999999\d$/);
  expect(of(serials)).toMatch(/^19520001123000000\d$/);
  expect(of(10 * serials)).toMatch(/^All 10000000 numbers/);
  fc.assert(
    fc.property(fc.nat({ max: 9_999_999 }), fc.nat({ max: 9_999_999 }), (a, b) => {
      expect(of(a) === of(b)).toBe(a === b);
    }),
  );
});

test('what is no company prefix is refused; the number is written in its parts', () => {
  expect(ssccOf('12345', 0)).toEqual({ ok: false, problem: 'The company prefix is 7 to 10 digits.' });
  expect(ssccOf('952000112', -1).ok).toBe(false);
  // The worked example of check digits in textbooks of the standard.
  expect(isSscc('006141411234567890')).toBe(true);
  expect(isSscc('006141411234567891')).toBe(false);
  expect(ssccWords('006141411234567890', 7)).toBe('(00) 0 0614141 123456789 0');
});
