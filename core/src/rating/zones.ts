import { milesBetween, type Point } from '../geo/distance.js';
import type { ZoneReach } from './rateSheet.js';

/** Where a parcel goes, as zones see it: its postcode as `plainPostcode` writes it, `point` the centre of it, null where nobody knows it. */
export interface ZonePlace {
  country: string;
  postcode: string;
  point: Point | null;
}

/**
 * The reach of a service that takes an address: of its country, the longest prefix that its postcode begins with, else the least
 * distance that it is within, else a reach for the whole country; null when there is none, and where only distance could tell and it is not known.
 */
export function reachOf(reaches: readonly ZoneReach[], from: ZonePlace, to: ZonePlace): ZoneReach | null {
  let best: ZoneReach | null = null;
  let miles: number | null = null;
  for (const reach of reaches) {
    if (reach.country !== to.country) continue;
    if (reach.prefix !== undefined && !to.postcode.startsWith(reach.prefix)) continue;
    if (reach.milesUpTo !== undefined) {
      if (!from.point || !to.point) continue;
      miles ??= milesBetween(from.point, to.point);
      if (miles > reach.milesUpTo) continue;
    }
    if (!best || closer(reach, best)) best = reach;
  }
  return best;
}

function closer(a: ZoneReach, b: ZoneReach): boolean {
  const [pa, pb] = [a.prefix?.length ?? -1, b.prefix?.length ?? -1];
  if (pa !== pb) return pa > pb;
  return (a.milesUpTo ?? Infinity) < (b.milesUpTo ?? Infinity);
}

/** A postcode as zones compare it: without spaces and dashes, in capitals. Example: `plainPostcode('k1a 0b1')` is `'K1A0B1'`. */
export const plainPostcode = (postcode: string): string => postcode.toUpperCase().replace(/[\s-]/g, '');
