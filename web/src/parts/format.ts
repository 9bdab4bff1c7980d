import { DateTime } from 'luxon';

/** "Wed 25 Nov" of an ISO day. */
export const day = (iso: string | null): string => (iso ? DateTime.fromISO(iso).toFormat('ccc d LLL') : '');

/** "15:30" in the warehouse's zone. */
export const clock = (iso: string, zone = ZONE): string => DateTime.fromISO(iso, { zone }).toFormat('HH:mm');

/** "23 min" or "2 h 23 min" until (or since) a moment; never negative. */
export function span(minutes: number): string {
  const m = Math.abs(Math.round(minutes));
  return m < 60 ? `${m} min` : `${Math.floor(m / 60)} h ${m % 60} min`;
}

/** "Mon 23 Nov 13:07" of a moment. */
export const moment = (iso: string, zone = ZONE): string =>
  DateTime.fromISO(iso, { zone }).toFormat('ccc d LLL HH:mm');

/** The warehouse's zone; one warehouse on screen. */
export const ZONE = 'America/New_York';
