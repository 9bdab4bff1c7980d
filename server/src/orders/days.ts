import { DateTime } from 'luxon';
import type { Sql } from '../database/db.js';

/** The days around a moment in the warehouse's zone. */
export interface Day {
  now: Date;
  /** The ISO day so many days from today. */
  iso(offset: number): string;
  /** The moments at which two days (from today) begin. */
  span(from: number, to: number): [Date, Date];
  /** The beginning of an ISO day and of the next. */
  dated(iso: string): [Date, Date];
}

/** Days as the warehouse counts them. */
export async function daysOf(sql: Sql, now: Date): Promise<Day> {
  const { zone } = (await sql.one<{ zone: string }>('SELECT zone FROM warehouse LIMIT 1'))!;
  const today = DateTime.fromJSDate(now, { zone }).startOf('day');
  return {
    now,
    iso: offset => today.plus({ days: offset }).toISODate()!,
    span: (from, to) => [today.plus({ days: from }).toJSDate(), today.plus({ days: to }).toJSDate()],
    dated: iso => {
      const day = DateTime.fromISO(iso, { zone });
      return [day.toJSDate(), day.plus({ days: 1 }).toJSDate()];
    },
  };
}
