import { gs1Day } from '../barcode/gs1.js';
import { isoMoment } from './dates.js';

/**
 * An expiry as people type it, as an ISO day: 2027-03-31, 31.03.2027, 31 Mar 2027, 270331 (day 00 is the month's last), or a month, which
 * lasts to its end: 2027-03, 03/2027, 3.2027. Null when there is no such day, and where day and month could be either: 03/04/2027. `year`
 * tells the century of six digits.
 */
export function expiryDay(text: string, year: number): string | null {
  const month = /^(\d{1,2})[/.](\d{4})$/.exec(text);
  if (month) return lastOf(month[2]!, month[1]!);
  const named = /^(\d{4})-(\d{2})$/.exec(text);
  if (named) return lastOf(named[1]!, named[2]!);
  if (/^\d{6}$/.test(text)) return gs1Day(text, year);
  const strokes = /^(\d{1,2})[/-](\d{1,2})[/-]\d{4}$/.exec(text);
  if (strokes && strokes[1] !== strokes[2] && Number(strokes[1]) <= 12 && Number(strokes[2]) <= 12)
    return null;
  return isoMoment(text, Number(strokes?.[1]) > 12 ? 'day first' : 'month first')?.slice(0, 10) ?? null;
}

function lastOf(year: string, month: string): string | null {
  const n = Number(month);
  return n < 1 || n > 12
    ? null
    : (isoMoment(`${year}-${month}-${daysIn(Number(year), n)}`)?.slice(0, 10) ?? null);
}

const daysIn = (year: number, month: number): number => new Date(Date.UTC(year, month, 0)).getUTCDate();
