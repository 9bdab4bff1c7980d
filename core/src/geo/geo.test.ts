import fc from 'fast-check';
import { expect, test } from 'vitest';
import { centreFinder } from './centres.js';
import { EARTH_KM, milesBetween, ZONE_MILES, zoneByMiles } from './distance.js';

const point = fc.record({
  lat: fc.double({ min: -90, max: 90, noNaN: true }),
  lon: fc.double({ min: -180, max: 180, noNaN: true }),
});
/** Half of the way round the earth, in miles: no two places are further apart. */
const FARTHEST = (Math.PI * EARTH_KM) / 1.609344;

test('distances are the same from both ends, nothing to oneself, and no way over a third place is shorter', () => {
  fc.assert(
    fc.property(point, point, point, (a, b, c) => {
      const ab = milesBetween(a, b);
      expect(ab).toBeCloseTo(milesBetween(b, a), 6);
      expect(milesBetween(a, a)).toBe(0);
      expect(ab).toBeGreaterThanOrEqual(0);
      expect(ab).toBeLessThanOrEqual(FARTHEST + 1e-6);
      // Between places on opposite sides the sine is flat, and what is lost of its digits comes to some inches.
      expect(ab).toBeLessThanOrEqual(milesBetween(a, c) + milesBetween(c, b) + 1e-3);
    }),
  );
});

test('a degree along the equator, over a pole, and across the line of dates', () => {
  const degree = FARTHEST / 180;
  expect(milesBetween({ lat: 0, lon: 10 }, { lat: 0, lon: 11 })).toBeCloseTo(degree, 6);
  expect(milesBetween({ lat: 89, lon: 0 }, { lat: 89, lon: 180 })).toBeCloseTo(2 * degree, 6);
  expect(milesBetween({ lat: 0, lon: 179.5 }, { lat: 0, lon: -179.5 })).toBeCloseTo(degree, 6);
  expect(milesBetween({ lat: 0, lon: 0 }, { lat: 0, lon: 180 })).toBeCloseTo(FARTHEST, 6);
});

test('zones go up with the distance, and a limit belongs to the zone below it', () => {
  expect(ZONE_MILES.map(zoneByMiles)).toEqual([1, 2, 3, 4, 5, 6, 7]);
  expect(ZONE_MILES.map(m => zoneByMiles(m + 0.01))).toEqual([2, 3, 4, 5, 6, 7, 8]);
  expect(zoneByMiles(0)).toBe(1);
});

test('a postcode is found by its five digits, else by the middle of its area, and else not at all', () => {
  const find = centreFinder({
    '83702': { latitude: 43.6, longitude: -116.2 },
    '83704': { latitude: 43.8, longitude: -116.4 },
    '96701': { latitude: 21.3, longitude: -157.9 },
  });
  expect(find('US', '83702')).toEqual({ lat: 43.6, lon: -116.2 });
  expect(find('US', '83702-1234')).toEqual({ lat: 43.6, lon: -116.2 });
  const middle = find('US', '83799')!;
  expect(middle.lat).toBeCloseTo(43.7, 9);
  expect(middle.lon).toBeCloseTo(-116.3, 9);
  expect(find('US', '10001')).toBeNull();
  for (const none of ['', '8370', 'constructor', '__proto__', 'K1A0B1'])
    expect(find('US', none), none).toBeNull();
  expect(find('CA', '83702')).toBeNull();
});
