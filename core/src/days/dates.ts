/** Which of day and month stands first in dates of numbers with strokes. */
export type DateOrder = 'day first' | 'month first';

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** Finds the order of day and month in a column: a first number over 12 means day first; without such a sign month first. Example: `dateOrder(['3/4/2026', '25/4/2026'])` is `day first`. */
export function dateOrder(values: readonly string[]): DateOrder {
  return values.some(v => Number(/^\s*(\d{1,2})[/-]\d{1,2}[/-]\d{4}/.exec(v)?.[1] ?? 0) > 12)
    ? 'day first'
    : 'month first';
}

/**
 * An ISO moment of "2026-11-23", "2026-11-23T08:00:00Z", "2026-11-23 08:00", "11/23/2026" (or 23/11/2026, by `order`), "23.11.2026"
 * (always day first), "23 Nov 2026" or "Nov 23, 2026", each with or without a time. What names no zone is read as UTC; an offset such
 * as +02:00 counts. Null for anything else or no such day.
 */
export function isoMoment(text: string, order: DateOrder = 'month first'): string | null {
  const m = /^(.*?)(?:[T ]\s*(\d{1,2}):(\d{2})(?::(\d{2})(?:\.\d+)?)?\s*(Z|[+-]\d{2}:?\d{2})?)?$/.exec(
    text.trim(),
  );
  const date = m && dayOf(m[1]!.trim(), order);
  if (!date) return null;
  const [h, mi, s] = [m[2], m[3], m[4]].map(n => Number(n ?? 0)) as [number, number, number];
  const [y, mo, d] = date;
  const utc = Date.UTC(y, mo - 1, d, h, mi, s);
  const back = new Date(utc);
  if (back.getUTCMonth() !== mo - 1 || back.getUTCDate() !== d || h > 23 || mi > 59 || s > 59) return null;
  const iso = new Date(utc - offset(m[5]) * 60_000).toISOString();
  return y >= 2000 && iso.startsWith('20') ? iso : null;
}

function dayOf(text: string, order: DateOrder): [year: number, month: number, day: number] | null {
  const numbers = (m: RegExpExecArray) => m.slice(1, 4).map(Number) as [number, number, number];
  let m = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text);
  if (m) return numbers(m);
  m = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(text);
  if (m) return numbers(m).reverse() as [number, number, number];
  m = /^(\d{1,2})[/-](\d{1,2})[/-](\d{4})$/.exec(text);
  if (m) {
    const [a, b, y] = numbers(m);
    return order === 'day first' ? [y, b, a] : [y, a, b];
  }
  m = /^(\d{1,2})\.? ([a-z]{3})[a-z]*\.?,? (\d{4})$/i.exec(text);
  if (m) return named(m[3]!, m[2]!, m[1]!);
  m = /^([a-z]{3})[a-z]*\.? (\d{1,2}),? (\d{4})$/i.exec(text);
  return m ? named(m[3]!, m[1]!, m[2]!) : null;
}

function named(year: string, month: string, day: string): [number, number, number] | null {
  const at = MONTHS.indexOf(month.toLowerCase());
  return at === -1 ? null : [Number(year), at + 1, Number(day)];
}

function offset(zone: string | undefined): number {
  const m = /^([+-])(\d{2}):?(\d{2})$/.exec(zone ?? '');
  return m ? (m[1] === '-' ? -1 : 1) * (Number(m[2]) * 60 + Number(m[3])) : 0;
}
