import { clock, zoneOfHouse } from './format.js';

const MINUTE_MS = 60_000;
const HALF_DAY = 12 * 60;

/** The moment of a time such as "17:30" on the day of another moment, in the warehouse's zone; null for what is no time. */
export function atClock(iso: string, time: string, zone = zoneOfHouse()): string | null {
  const [, hours, minutes] = /^([01]?\d|2[0-3]):([0-5]\d)$/.exec(time.trim()) ?? [];
  if (hours === undefined || minutes === undefined) return null;
  const wanted = Number(hours) * 60 + Number(minutes);
  const minutesAt = (at: number) => {
    const [h, m] = clock(at, zone).split(':').map(Number) as [number, number];
    return h * 60 + m;
  };
  const begun = Date.parse(iso);
  const near = begun + (wanted - minutesAt(begun)) * MINUTE_MS;
  // The clock may have been put forward or back in between; an hour that was left out is taken as the one after it.
  const off = wanted - minutesAt(near);
  const by = off > HALF_DAY ? off - 2 * HALF_DAY : off < -HALF_DAY ? off + 2 * HALF_DAY : off;
  return new Date(near + by * MINUTE_MS).toISOString();
}
