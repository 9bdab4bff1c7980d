import { fail, ok, type Result } from '../result.js';

/** An amount in integer minor units (cents) of an ISO 4217 currency. */
export interface Money {
  minor: number;
  currency: string;
}

/** Minor digits by ISO 4217 where they are not two (from memory; the checks compare with a registry table). */
const DIGITS: Readonly<Record<string, number>> = {
  BHD: 3,
  BIF: 0,
  CLP: 0,
  DJF: 0,
  GNF: 0,
  IQD: 3,
  ISK: 0,
  JOD: 3,
  JPY: 0,
  KMF: 0,
  KRW: 0,
  KWD: 3,
  LYD: 3,
  OMR: 3,
  PYG: 0,
  RWF: 0,
  TND: 3,
  UGX: 0,
  VND: 0,
  VUV: 0,
  XAF: 0,
  XOF: 0,
  XPF: 0,
};

/** How many digits stand behind the point in a currency. Example: USD 2, JPY 0, KWD 3. */
export function minorDigits(currency: string): number {
  return DIGITS[currency] ?? 2;
}

/**
 * Writes a number of either habit with a point and without thousands. The last of two kinds of separator is the decimal one; a
 * lone comma with exactly three digits after it groups thousands unless `digits` is 3. Example: `plainDecimal('1.234,50', 2)` is `'1234.50'`.
 */
export function plainDecimal(text: string, digits: number): string {
  const t = text.replace(/[\s\u00a0'’]/g, '');
  const [comma, point] = [t.lastIndexOf(','), t.lastIndexOf('.')];
  if (comma !== -1 && point !== -1)
    return comma > point ? t.replaceAll('.', '').replace(',', '.') : t.replaceAll(',', '');
  if (comma === -1) return t;
  const groups = /^\D*\d{1,3}(,\d{3})+$/.test(t) && (digits !== 3 || t.indexOf(',') !== comma);
  return groups ? t.replaceAll(',', '') : t.replace(',', '.');
}

/** Reads a decimal amount, with point or comma and with or without the currency's sign or code, into minor units. Refuses more digits than the currency has and over 10^12 minor. Example: `parseAmount('12.50', 'USD')` is 1250. */
export function parseAmount(text: string, currency: string): Result<number, string> {
  const digits = minorDigits(currency);
  const m = /^([-−]?)[$€£]?(\d{1,12})(?:\.(\d{1,3}))?[$€£]?$/.exec(
    plainDecimal(text.toUpperCase().replace(currency, ''), digits),
  );
  if (!m) return fail(`"${text.slice(0, 30)}" is not an amount of money such as 12.50`);
  const fraction = m[3] ?? '';
  if (fraction.length > digits && /[1-9]/.test(fraction.slice(digits)))
    return fail(`${currency} has ${digits} digits behind the point, "${text.trim()}" has more`);
  const minor = Number(m[2] + fraction.slice(0, digits).padEnd(digits, '0'));
  if (minor > 1e12) return fail(`"${text.trim()}" is larger than any order`);
  return ok(m[1] ? -minor || 0 : minor);
}

/** An amount as people read it. Example: `formatMoney(18460, 'USD')` is `$184.60`; other currencies carry their code. */
export function formatMoney(minor: number, currency: string): string {
  const digits = minorDigits(currency);
  const whole = Math.trunc(Math.abs(minor) / 10 ** digits)
    .toString()
    .replace(/\B(?=(\d{3})+$)/g, ',');
  const rest = digits ? `.${(Math.abs(minor) % 10 ** digits).toString().padStart(digits, '0')}` : '';
  const sign = minor < 0 ? '−' : '';
  return currency === 'USD' ? `${sign}$${whole}${rest}` : `${sign}${currency} ${whole}${rest}`;
}
