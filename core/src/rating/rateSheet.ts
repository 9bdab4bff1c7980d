import type { Size } from '../units/units.js';

/** How billable weight is counted: steps of this many milligrams, said in the unit. */
export interface WeightStep {
  count: number;
  unit: 'oz' | 'lb' | 'kg';
  mg: number;
}

/** Volume for one unit of weight: cubic inches for a pound, or cubic centimetres for a kilogram. */
export interface DimDivisor {
  value: number;
  unit: 'in/lb' | 'cm/kg';
}

/** An address that a zone takes: of a country, by the beginning of its postcode or by its distance in miles, and the business days to it. */
export interface ZoneReach {
  zone: string;
  country: string;
  prefix?: string;
  milesUpTo?: number;
  days: number;
}

/** What a person may ask of a service beside carrying. */
export interface ServiceOptions {
  signature?: boolean;
  /** Delivered on a Saturday too. */
  saturday?: boolean;
  /** Brought to a counter of the carrier instead of waiting for its truck. */
  dropOff?: boolean;
  /** Waits at a pick-up point. */
  toPoint?: boolean;
  /** Paid by the buyer at the door, minor units of the sheet's currency. */
  cashMinor?: number;
  /** Insured for this much, minor units of the sheet's currency. */
  valueMinor?: number;
}

/** When a surcharge is due. An option that no surcharge of a service names is not to be had with it. */
export type SurchargeWhen =
  | { kind: 'always' | 'home' | 'signature' | 'saturday' | 'drop-off' | 'point' | 'cash' }
  /** Each begun `eachMinor` of the declared value above `overMinor`. */
  | { kind: 'value'; overMinor: number; eachMinor: number }
  | { kind: 'girth' | 'side'; overTenths: number }
  | { kind: 'weight'; overMg: number }
  | { kind: 'postcode'; prefixes: string[] };

/** A part of a price beside the way itself: an amount, or a share of the price of the way in parts of a million. Negative ones are rebates. */
export interface Surcharge {
  name: string;
  when: SurchargeWhen;
  minor?: number;
  ppm?: number;
}

/** A price row: up to this weight in milligrams, a price for each zone in the order of `zones`; null where the zone is not served. */
export interface WeightRow {
  upToMg: number;
  prices: (number | null)[];
}

/** A cubic tier: up to this volume in cubic feet the price goes by volume and not by weight. */
export interface CubicRow {
  upToFeet: number;
  prices: (number | null)[];
}

/** One service of a rate sheet. */
export interface ServiceRates {
  service: string;
  name: string;
  step: WeightStep;
  dim: DimDivisor | null;
  /** The least that the way costs, minor units. */
  leastMinor: number;
  /** Fuel, in parts of a million of the way and its surcharges. */
  fuelPpm: number;
  /** The lightest parcel that is taken, milligrams; pallets weigh something. */
  leastMg: number;
  /** Longest side and length plus girth that are taken, tenths of a millimetre. */
  mostSide: number | null;
  mostGirth: number | null;
  zones: string[];
  reaches: ZoneReach[];
  /** Ascending; above the last row the service takes nothing. */
  weights: WeightRow[];
  /** Ascending; where a parcel is within the last tier and its tier costs less, the tier counts. */
  cubic: CubicRow[];
  surcharges: Surcharge[];
}

/** What one account of a carrier pays, from a day on. */
export interface RateSheet {
  name: string;
  currency: string;
  /** ISO day of the first shipment that it counts for. */
  from: string;
  services: ServiceRates[];
}

/** Length plus girth in tenths of a millimetre: the longest side plus twice the sum of the others (common practice). */
export function lengthPlusGirth(size: Size): number {
  const longest = longestSide(size);
  return longest + 2 * (size.length + size.width + size.height - longest);
}

/** The longest side in tenths of a millimetre. */
export const longestSide = (size: Size): number => Math.max(size.length, size.width, size.height);
