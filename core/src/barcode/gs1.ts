import { hasGs1CheckDigit } from './gtin.js';

/** What a GS1 element string says, application identifier by identifier (only those Auk uses). Dates are ISO days. */
export interface Gs1Elements {
  sscc?: string;
  gtin?: string;
  lot?: string;
  serial?: string;
  expiry?: string;
  count?: number;
}

const GS = '\u001d';
/** AI -> [field, longest length, fixed]. GS1 General Specifications (from memory). */
const FIELDS: Record<string, [name: string, length: number, fixed: boolean]> = {
  '00': ['sscc', 18, true],
  '01': ['gtin', 14, true],
  '02': ['gtin', 14, true],
  '10': ['lot', 20, false],
  '11': ['made', 6, true],
  '15': ['best', 6, true],
  '17': ['expiry', 6, true],
  '21': ['serial', 20, false],
  '30': ['count', 8, false],
  '37': ['count', 8, false],
};

/**
 * Reads a GS1 element string as a scanner sends it (symbology prefix and a leading GS are accepted, variable fields end with GS)
 * or with brackets. Returns null when any part is not understood, so that nothing is half read.
 */
export function parseGs1(text: string, year: number): Gs1Elements | null {
  let rest = text.replace(/^\](C1|d2|Q3|e0)/, '').replace(new RegExp(`^${GS}`), '');
  if (/^\(\d{2}\)/.test(rest)) rest = bracketsToSeparators(rest);
  const found: Gs1Elements = {};
  while (rest !== '') {
    const field = FIELDS[rest.slice(0, 2)];
    if (!field) return null;
    const [name, length, fixed] = field;
    const end = fixed ? 2 + length : rest.indexOf(GS) === -1 ? rest.length : rest.indexOf(GS);
    const value = rest.slice(2, end);
    if (value === '' || value.length > length || (fixed && value.length !== length)) return null;
    if (!take(found, name, value, year)) return null;
    rest = rest.slice(end).replace(new RegExp(`^${GS}`), '');
  }
  return found;
}

function bracketsToSeparators(text: string): string {
  return [...text.matchAll(/\((\d{2})\)([^(]*)/g)]
    .map(m => `${m[1]}${m[2]}${FIELDS[m[1]!]?.[2] ? '' : GS}`)
    .join('');
}

function take(found: Gs1Elements, name: string, value: string, year: number): boolean {
  switch (name) {
    case 'sscc':
    case 'gtin':
      if (!hasGs1CheckDigit(value)) return false;
      found[name] = value;
      return true;
    case 'count':
      if (!/^\d+$/.test(value)) return false;
      found.count = Number(value);
      return true;
    case 'made':
    case 'best':
    case 'expiry': {
      const day = gs1Day(value, year);
      if (day && name === 'expiry') found.expiry = day;
      return day !== null;
    }
    default:
      found[name as 'lot' | 'serial'] = value;
      return true;
  }
}

/** ISO day of a six-digit YYMMDD; day 00 is the month's last; the century is the one that puts the year within 49 back and 50 ahead of `year`. Null when there is no such day. */
export function gs1Day(digits: string, year: number): string | null {
  const m = /^(\d{2})(\d{2})(\d{2})$/.exec(digits);
  if (!m) return null;
  const century = Math.floor(year / 100) * 100;
  let full = century + Number(m[1]);
  if (full - year >= 51) full -= 100;
  else if (full - year <= -50) full += 100;
  const month = Number(m[2]);
  if (month < 1 || month > 12) return null;
  const last = new Date(Date.UTC(full, month, 0)).getUTCDate();
  const day = Number(m[3]) === 0 ? last : Number(m[3]);
  return day > last ? null : `${full}-${m[2]}-${String(day).padStart(2, '0')}`;
}
