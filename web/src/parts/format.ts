import { formatSize, formatWeight } from '@auk/core';
import { looks } from '../theme/look.js';

/** The warehouse's zone, set once the house is known; one warehouse on screen. */
let houseZone = 'UTC';
export const zoneOfHouse = (): string => houseZone;
export const setHouseZone = (zone: string): void => {
  houseZone = zone;
};

// Times are told by the browser itself: the library of days is large, and Bench and Floor begin sooner without it.
const SHAPES = {
  day: { weekday: 'short', day: 'numeric', month: 'short' },
  clock: { hour: '2-digit', minute: '2-digit' },
  iso: { year: 'numeric', month: '2-digit', day: '2-digit' },
} as const;
/** By zone and shape: to make one takes far longer than to use it, and a list tells thousands of times. */
const formats = new Map<string, Intl.DateTimeFormat>();

function told(at: Date | number, zone: string, shape: keyof typeof SHAPES): Record<string, string> {
  const key = `${zone} ${shape}`;
  let format = formats.get(key);
  if (!format) {
    format = new Intl.DateTimeFormat('en-US', { ...SHAPES[shape], hourCycle: 'h23', timeZone: zone });
    formats.set(key, format);
  }
  return Object.fromEntries(format.formatToParts(at).map(p => [p.type, p.value]));
}

const dayOf = (at: Date | number, zone: string): string => {
  const { weekday, day, month } = told(at, zone, 'day');
  return `${weekday} ${day} ${month}`;
};

/** "Wed 25 Nov" of an ISO day. */
export const day = (iso: string | null): string =>
  iso ? dayOf(new Date(`${iso.slice(0, 10)}T12:00Z`), 'UTC') : '';

/** "15:30" of a moment, in the warehouse's zone. */
export function clock(at: string | number, zone = houseZone): string {
  const { hour, minute } = told(new Date(at), zone, 'clock');
  return `${hour}:${minute}`;
}

/** "Mon 23 Nov 13:07" of a moment. */
export const moment = (iso: string, zone = houseZone): string =>
  `${dayOf(new Date(iso), zone)} ${clock(iso, zone)}`;

/** "Mon 23 Nov" of a moment, in the warehouse's zone. */
export const dayAt = (at: number): string => dayOf(at, houseZone);

/** Today as the warehouse counts it, ISO. */
export function today(): string {
  const { year, month, day } = told(Date.now(), houseZone, 'iso');
  return `${year}-${month}-${day}`;
}

/** Minutes from one moment until another; negative when it is past. */
export const minutesUntil = (iso: string, now: number): number => (Date.parse(iso) - now) / 60_000;

/** "23 min" or "2 h 23 min" until (or since) a moment; never negative. */
export function span(minutes: number): string {
  const m = Math.abs(Math.round(minutes));
  return m < 60 ? `${m} min` : `${Math.floor(m / 60)} h ${m % 60} min`;
}

/** A weight in milligrams, in the person's units. */
export const weight = (mg: number): string => formatWeight(mg, looks.now().units);

/** A size, in the person's units. */
export const size = (box: Parameters<typeof formatSize>[0]): string => formatSize(box, looks.now().units);
