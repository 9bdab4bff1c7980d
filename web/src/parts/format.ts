import { formatSize, formatWeight } from '@auk/core';
import { DateTime } from 'luxon';
import { looks } from '../theme/look.js';

/** The warehouse's zone, set once the house is known; one warehouse on screen. */
let houseZone = 'UTC';
export const setHouseZone = (zone: string): void => {
  houseZone = zone;
};
export const zoneOfHouse = (): string => houseZone;

/** "Wed 25 Nov" of an ISO day. */
export const day = (iso: string | null): string => (iso ? DateTime.fromISO(iso).toFormat('ccc d LLL') : '');

/** "15:30" in the warehouse's zone. */
export const clock = (iso: string, zone = houseZone): string =>
  DateTime.fromISO(iso, { zone }).toFormat('HH:mm');

/** "23 min" or "2 h 23 min" until (or since) a moment; never negative. */
export function span(minutes: number): string {
  const m = Math.abs(Math.round(minutes));
  return m < 60 ? `${m} min` : `${Math.floor(m / 60)} h ${m % 60} min`;
}

/** "Mon 23 Nov 13:07" of a moment. */
export const moment = (iso: string, zone = houseZone): string =>
  DateTime.fromISO(iso, { zone }).toFormat('ccc d LLL HH:mm');

/** A weight in milligrams, in the person's units. */
export const weight = (mg: number): string => formatWeight(mg, looks.now().units);

/** A size, in the person's units. */
export const size = (box: Parameters<typeof formatSize>[0]): string => formatSize(box, looks.now().units);
