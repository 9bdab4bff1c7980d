import type { Point } from './distance.js';

/** Centres of five-digit postcodes, as tables of them are published. */
export type CentreTable = Readonly<Record<string, { latitude: number; longitude: number }>>;

/**
 * Finds the centre of a five-digit postcode in a table of them: ZIP+4 is cut; where the code itself is not in the table, the mean of its
 * three-digit area; null for neither, and for other lands.
 */
export function centreFinder(table: CentreTable): (country: string, postcode: string) => Point | null {
  const areas = new Map<string, { lat: number; lon: number; n: number }>();
  for (const [code, { latitude, longitude }] of Object.entries(table)) {
    const area = areas.get(code.slice(0, 3)) ?? { lat: 0, lon: 0, n: 0 };
    areas.set(code.slice(0, 3), { lat: area.lat + latitude, lon: area.lon + longitude, n: area.n + 1 });
  }
  return (country, postcode) => {
    const five = /^\d{5}/.exec(postcode)?.[0];
    if (country !== 'US' || !five) return null;
    const exact = table[five];
    if (exact) return { lat: exact.latitude, lon: exact.longitude };
    const area = areas.get(five.slice(0, 3));
    return area ? { lat: area.lat / area.n, lon: area.lon / area.n } : null;
  };
}
