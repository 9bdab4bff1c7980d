import { gs1CheckDigit, hasGs1CheckDigit } from '../barcode/gtin.js';
import { fail, ok, type Result } from '../result.js';

/** Digits of a shipping unit's number before its check digit: extension, company prefix, serial. */
const BODY = 17;

/** How many serials a company prefix leaves room for with one extension digit. Example: `serialsOf('952000112')` is 10,000,000. */
export const serialsOf = (companyPrefix: string): number => 10 ** (BODY - 1 - companyPrefix.length);

/**
 * The number of a shipping unit (SSCC, 18 digits; GS1 General Specifications): an extension digit, the company prefix (7 to 10 digits), a
 * serial that fills it up, and the check digit. `count` is the how-manieth unit of the house it is, from 0: when the serials of one
 * extension digit are used up, the next one follows, so that no number comes twice. Refused when the prefix is none or all are used.
 * Example: `ssccOf('952000112', 0).value` is `'095200011200000008'`.
 */
export function ssccOf(companyPrefix: string, count: number): Result<string, string> {
  if (!/^\d{7,10}$/.test(companyPrefix)) return fail('The company prefix is 7 to 10 digits.');
  const serials = serialsOf(companyPrefix);
  const extension = Math.floor(count / serials);
  if (!Number.isInteger(count) || count < 0 || extension > 9)
    return fail(`All ${10 * serials} numbers of the company prefix ${companyPrefix} are used.`);
  const serial = String(count % serials).padStart(BODY - 1 - companyPrefix.length, '0');
  const body = `${extension}${companyPrefix}${serial}`;
  return ok(`${body}${gs1CheckDigit(body)}`);
}

/** True for 18 digits whose check digit agrees. */
export const isSscc = (text: string): boolean => /^\d{18}$/.test(text) && hasGs1CheckDigit(text);

/** A shipping unit's number as it is written beside its bars. Example: `'(00) 0 9520001 120000000 1'`. */
export const ssccWords = (sscc: string, prefixLength: number): string =>
  `(00) ${sscc[0]} ${sscc.slice(1, 1 + prefixLength)} ${sscc.slice(1 + prefixLength, BODY)} ${sscc.slice(BODY)}`;
