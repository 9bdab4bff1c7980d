import type { CarrierKindEntry } from './carrier.js';
import { FREIGHT_CARRIER } from './freight/freightCarrier.js';
import { KEYLESS_CARRIER } from './keyless/keylessCarrier.js';
import { PLAIN_CARRIER } from './plain/plainCarrier.js';
import { XML_CARRIER } from './xml/xmlCarrier.js';

/** The kinds of carriers that Setup offers. A new one is a folder here and a line in this list (docs/carriers.md). */
export const CARRIER_KINDS: readonly CarrierKindEntry[] = [
  PLAIN_CARRIER,
  XML_CARRIER,
  KEYLESS_CARRIER,
  FREIGHT_CARRIER,
];
