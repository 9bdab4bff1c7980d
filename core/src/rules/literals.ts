import { parseAmount } from '../money/money.js';
import { fail, ok, type Result } from '../result.js';
import { parseDistance, parseWeight } from '../units/units.js';
import type { FieldKind } from './fields.js';

const MINUTES = { min: 1, h: 60, d: 1440 } as const;

/** Largest number of things that is compared with. */
const MOST = 1_000_000_000;

/**
 * Reads what a number is compared with into its smallest unit: milligrams, tenths of a millimetre, minor units of the house's currency,
 * minutes, or how many. Example: `readNumber('time', '1.5 h', 'USD')` is 90.
 */
export function readNumber(
  kind: FieldKind,
  value: string | number | readonly string[] | undefined,
  currency: string,
): Result<number, string> {
  if (kind === 'count')
    return typeof value === 'number' && Number.isInteger(value) && Math.abs(value) <= MOST
      ? ok(value)
      : fail('is not a whole number');
  if (typeof value !== 'string') return fail('is not written with its unit');
  if (kind === 'weight') {
    const read = parseWeight(value);
    return read.ok ? read : fail('is not a weight such as 40 lb or 1.2 kg');
  }
  if (kind === 'length') {
    const read = parseDistance(value);
    return read.ok && /[a-z'"]$/i.test(value) && read.value > 0
      ? read
      : fail('is not a length such as 25 in or 60 cm');
  }
  if (kind === 'money') {
    const read = parseAmount(value, currency);
    return read.ok ? read : fail(`is not an amount in ${currency} such as 60.00`);
  }
  const m = /^(-?\d{1,5}(?:\.\d{1,2})?) (min|h|d)$/.exec(value);
  return m
    ? ok(Math.round(Number(m[1]) * MINUTES[m[2] as 'h']))
    : fail('is not a time such as 90 min, 2 h or 3 d');
}

/** Reads the words that a field is compared with: one at least, none of them empty, each once. */
export function readWords(
  value: string | number | readonly string[] | undefined,
): Result<readonly string[], string> {
  if (
    !Array.isArray(value) ||
    value.length === 0 ||
    value.some(v => typeof v !== 'string' || v.trim() === '')
  )
    return fail('wants one word at least');
  return ok([...new Set(value as readonly string[])]);
}
