/** Check digit of the GS1 kind over digits without it: modulo 10, weights 3 and 1 from the right (GS1 General Specifications). Example: `gs1CheckDigit('629104150021')` is 3. */
export function gs1CheckDigit(digits: string): number {
  let sum = 0;
  for (let i = 0; i < digits.length; i++)
    sum += Number(digits[digits.length - 1 - i]) * (i % 2 === 0 ? 3 : 1);
  return (10 - (sum % 10)) % 10;
}

/** True when all digits, the last of them the check digit, agree. Any length. */
export function hasGs1CheckDigit(digits: string): boolean {
  return /^\d{2,}$/.test(digits) && gs1CheckDigit(digits.slice(0, -1)) === Number(digits.at(-1));
}

/** Expands an eight-digit UPC-E (number system 0 or 1, with check digit) to UPC-A, or null when it is none. Example: `expandUpcE('01234565')` is `'012345000065'`. */
export function expandUpcE(code: string): string | null {
  const m = /^([01])(\d)(\d)(\d)(\d)(\d)(\d)(\d)$/.exec(code);
  if (!m) return null;
  const [, system, a, b, c, d, e, last, check] = m as unknown as string[];
  const body =
    Number(last) <= 2
      ? `${a}${b}${last}0000${c}${d}${e}`
      : last === '3'
        ? `${a}${b}${c}00000${d}${e}`
        : last === '4'
          ? `${a}${b}${c}${d}00000${e}`
          : `${a}${b}${c}${d}${e}0000${last}`;
  const upc = `${system}${body}${check}`;
  return hasGs1CheckDigit(upc) ? upc : null;
}

/**
 * The one written form of a GTIN: 14 digits with leading zeros, so that UPC-A, EAN-13 and GTIN-14 of one thing are equal.
 * Null when the text is not 8, 12, 13 or 14 digits or the check digit is wrong. Example: `canonicalGtin('6291041500213')` is `'06291041500213'`.
 */
export function canonicalGtin(text: string): string | null {
  if (!/^(\d{8}|\d{12,14})$/.test(text)) return null;
  // Eight digits that begin with 0 are UPC-E before they are GTIN-8: no GTIN-8 for trade begins so.
  const upc = text.length === 8 ? expandUpcE(text) : null;
  if (upc && (text.startsWith('0') || !hasGs1CheckDigit(text))) return upc.padStart(14, '0');
  return hasGs1CheckDigit(text) ? text.padStart(14, '0') : null;
}
