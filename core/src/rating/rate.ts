import { cubicInches, MG, type Size, stepsUp } from '../units/units.js';

/** One service of a carrier's rate card: price by zone and weight step, dimensional divisor (cubic inches a pound) and surcharges. */
export interface ServiceRates {
  service: string;
  name: string;
  step: 'lb' | 'oz';
  /** Upper weight of each row in steps, ascending; `prices[row][zone - 1]` in minor units. Above the last row the service is not offered. */
  upTo: number[];
  prices: number[][];
  dimDivisor: number | null;
  days: number[];
  /** Charged when length plus girth is over this many inches. */
  oversize: { overInches: number; minor: number } | null;
  /** Charged on addresses that are homes. */
  residentialMinor: number;
}

/** A part of a price with its words. */
export interface Charge {
  name: string;
  minor: number;
}

/** What a service costs for one parcel: the sum is exactly `minor`. */
export interface Rated {
  service: string;
  name: string;
  minor: number;
  charges: Charge[];
  billableSteps: number;
  byVolume: boolean;
  days: number;
}

/** A parcel to be rated: outer size, weight in milligrams, zone 1 to 8. */
export interface RatedParcel {
  size: Size;
  weightMg: number;
  zone: number;
  residential: boolean;
}

/** Length plus girth in tenths of a millimetre: the longest side plus twice the sum of the others (common practice). */
export function lengthPlusGirth(size: Size): number {
  const [a, b, c] = [size.length, size.width, size.height].sort((x, y) => y - x) as [number, number, number];
  return a + 2 * (b + c);
}

/** Billable weight in whole steps: the greater of actual and dimensional weight, each rounded up after snapping. Example: 12 x 12 x 12 in by 139 is 13 lb. */
export function billableSteps(
  parcel: { size: Size; weightMg: number },
  step: 'lb' | 'oz',
  dimDivisor: number | null,
): { steps: number; byVolume: boolean } {
  const actual = stepsUp(parcel.weightMg, MG[step]);
  const pounds = dimDivisor ? cubicInches(parcel.size) / dimDivisor : 0;
  const dimensional = stepsUp(pounds * (step === 'oz' ? 16 : 1), 1);
  return { steps: Math.max(1, actual, dimensional), byVolume: dimensional > actual };
}

/** Rates one parcel by one service, or null when the service does not take it. */
export function rate(card: ServiceRates, parcel: RatedParcel): Rated | null {
  const { steps, byVolume } = billableSteps(parcel, card.step, card.dimDivisor);
  const row = card.upTo.findIndex(limit => steps <= limit);
  const base = row === -1 ? undefined : card.prices[row]?.[parcel.zone - 1];
  if (base === undefined) return null;
  const charges: Charge[] = [{ name: `${steps} ${card.step} to zone ${parcel.zone}`, minor: base }];
  if (card.oversize && lengthPlusGirth(parcel.size) > card.oversize.overInches * 254)
    charges.push({
      name: `over ${card.oversize.overInches} in length and girth`,
      minor: card.oversize.minor,
    });
  if (parcel.residential && card.residentialMinor > 0)
    charges.push({ name: 'home address', minor: card.residentialMinor });
  return {
    service: card.service,
    name: card.name,
    minor: charges.reduce((s, c) => s + c.minor, 0),
    charges,
    billableSteps: steps,
    byVolume,
    days: card.days[parcel.zone - 1]!,
  };
}

/** A service with its arrival day, as offered for a choice. */
export interface Offer {
  carrier: string;
  service: string;
  minor: number;
  /** ISO day of arrival. */
  arrives: string;
}

/**
 * Orders offers for the choice: those that arrive by the promised day first, cheapest first among them; then the late ones, the
 * earliest first. Ties by carrier and service. Without a promised day, cheapest first.
 */
export function rankOffers<T extends Offer>(
  offers: readonly T[],
  promised: string | null,
): (T & { keeps: boolean })[] {
  return offers
    .map(o => ({ ...o, keeps: promised === null || o.arrives <= promised }))
    .sort(
      (a, b) =>
        Number(b.keeps) - Number(a.keeps) ||
        (a.keeps ? a.minor - b.minor : a.arrives.localeCompare(b.arrives) || a.minor - b.minor) ||
        `${a.carrier}${a.service}`.localeCompare(`${b.carrier}${b.service}`),
    );
}

/** The ISO day `days` working days (Monday to Friday) after an ISO day. Example: `addWorkingDays('2026-11-27', 1)` is `'2026-11-30'`. */
export function addWorkingDays(day: string, days: number): string {
  const date = new Date(`${day}T00:00:00Z`);
  for (let left = days; left > 0; ) {
    date.setUTCDate(date.getUTCDate() + 1);
    if (date.getUTCDay() !== 0 && date.getUTCDay() !== 6) left--;
  }
  return date.toISOString().slice(0, 10);
}
