/** Which days count: Monday to Friday, Saturdays too when told so, and never a day of `closed` (ISO). */
export interface Calendar {
  closed?: ReadonlySet<string>;
  saturdays?: boolean;
}

const DAY_MS = 86_400_000;

/** True when a carrier works on an ISO day. */
export function isBusinessDay(day: string, { closed, saturdays = false }: Calendar = {}): boolean {
  const weekday = new Date(`${day}T00:00:00Z`).getUTCDay();
  return weekday !== 0 && (weekday !== 6 || saturdays) && !closed?.has(day);
}

/**
 * The ISO day `days` business days after an ISO day; for 0 days the day itself, or the first business day after it. Saturdays count only as
 * the day of arrival, when the calendar says that they do. Example: `addBusinessDays('2026-11-27', 1)` is `'2026-11-30'`.
 */
export function addBusinessDays(day: string, days: number, calendar: Calendar = {}): string {
  const { closed } = calendar;
  let at = Date.parse(`${day}T00:00:00Z`);
  const iso = () => new Date(at).toISOString().slice(0, 10);
  for (let left = days; left > 0; ) {
    at += DAY_MS;
    if (left === 1 && isBusinessDay(iso(), calendar)) return iso();
    if (isBusinessDay(iso(), { ...(closed && { closed }) })) left--;
  }
  while (!isBusinessDay(iso(), calendar)) at += DAY_MS;
  return iso();
}
