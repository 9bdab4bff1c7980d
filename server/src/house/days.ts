import { DateTime } from 'luxon';

/** The days around a moment in a zone, as the warehouse counts them: a day may have 23 or 25 hours. */
export interface Days {
  now: Date;
  zone: string;
  /** Today as an ISO day. */
  today: string;
  /** The ISO day so many days from today. */
  iso(offset: number): string;
  /** The moments at which two days (from today) begin. */
  span(from: number, to: number): [Date, Date];
  /** The beginning of an ISO day and of the next. */
  dated(iso: string): [Date, Date];
}

/** The days around `now` in a zone of the tz database. */
export function daysAround(now: Date, zone: string): Days {
  const today = DateTime.fromJSDate(now, { zone }).startOf('day');
  return {
    now,
    zone,
    today: today.toISODate()!,
    iso: offset => today.plus({ days: offset }).toISODate()!,
    span: (from, to) => [today.plus({ days: from }).toJSDate(), today.plus({ days: to }).toJSDate()],
    dated: iso => {
      const day = DateTime.fromISO(iso, { zone });
      return [day.toJSDate(), day.plus({ days: 1 }).toJSDate()];
    },
  };
}
