import type Holidays from 'date-holidays';
import { whenNeeded } from '../reference/whenNeeded.js';

const holidays = whenNeeded<typeof Holidays>('date-holidays');

/** Public holidays of a country from one ISO day until another, without those that fall on a weekend; none where nobody knows the country's. */
export function publicHolidays(
  country: string,
  from: string,
  until: string,
): { day: string; name: string }[] {
  const known = new (holidays())(country);
  const [first, last] = [Number(from.slice(0, 4)), Number(until.slice(0, 4))];
  const years = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  const all = years.flatMap(y => known.getHolidays(y) ?? []);
  const days = new Map<string, string>();
  for (const { date, name, type, substitute } of all) {
    const day = date.slice(0, 10);
    const weekday = new Date(`${day}T00:00:00Z`).getUTCDay();
    const free = type === 'public' || (type === 'bank' && substitute);
    if (free && day >= from && day < until && weekday !== 0 && weekday !== 6) days.set(day, name);
  }
  return [...days].map(([day, name]) => ({ day, name })).sort((a, b) => a.day.localeCompare(b.day));
}
