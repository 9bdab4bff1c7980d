/** A point on the earth in degrees. */
export interface Point {
  lat: number;
  lon: number;
}

/** IUGG mean radius of the earth in kilometres. */
export const EARTH_KM = 6371.0088;
const KM_PER_MILE = 1.609344;

/** Great-circle distance in statute miles on a sphere of the IUGG mean radius (haversine formula). */
export function milesBetween(a: Point, b: Point): number {
  const rad = Math.PI / 180;
  const dLat = (b.lat - a.lat) * rad;
  const dLon = (b.lon - a.lon) * rad;
  const h = Math.sin(dLat / 2) ** 2 + Math.cos(a.lat * rad) * Math.cos(b.lat * rad) * Math.sin(dLon / 2) ** 2;
  return (2 * EARTH_KM * Math.asin(Math.min(1, Math.sqrt(h)))) / KM_PER_MILE;
}

/** Upper miles of zones 1 to 7; above is zone 8 (from memory of postal practice). */
export const ZONE_MILES = [50, 150, 300, 600, 1000, 1400, 1800] as const;

/** Carrier zone 1 to 8 by distance: up to 50, 150, 300, 600, 1000, 1400, 1800 miles, and above (from memory of postal practice). */
export function zoneByMiles(miles: number): number {
  const i = ZONE_MILES.findIndex(limit => miles <= limit);
  return i === -1 ? 8 : i + 1;
}
