import { DateTime } from 'luxon';

/** The moment of a time of day such as `17:30` on an ISO day in a zone. */
export function cutOffOn(day: string, time: string, zone: string): Date {
  const [hour, minute] = time.split(':').map(Number);
  return DateTime.fromISO(day, { zone }).set({ hour: hour!, minute: minute! }).toUTC().toJSDate();
}
