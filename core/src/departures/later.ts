import { addBusinessDays, type Calendar, isBusinessDay } from './businessDays.js';

const DAY_MS = 86_400_000;
const next = (day: string): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + DAY_MS).toISOString().slice(0, 10);

/** Business days after one ISO day until another, which counts itself; 0 when it is not after it. Example: Friday to Monday is 1. */
export function businessDaysUntil(from: string, until: string, calendar: Calendar = {}): number {
  let days = 0;
  for (let day = next(from); day <= until; day = next(day)) if (isBusinessDay(day, calendar)) days++;
  return days;
}

/** The ISO day of arrival of what was to leave on one day and leaves on another: it is on the way for as many business days. */
export function arrivesInstead(
  was: { leaves: string; arrives: string },
  leaves: string,
  calendar: Calendar = {},
): string {
  if (leaves === was.leaves) return was.arrives;
  return addBusinessDays(leaves, businessDaysUntil(was.leaves, was.arrives, calendar), calendar);
}
