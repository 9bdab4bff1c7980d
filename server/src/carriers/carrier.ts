import type { CarrierBought, CarrierBuy, CarrierParcel, CarrierQuote } from '@auk/contract';

/** What asking a carrier can come to. `silent` is a time-out, a broken connection or an answer that makes no sense: nobody knows what was done. */
export type Asked<T> =
  | { kind: 'answered'; value: T }
  | { kind: 'refused'; why: string }
  | { kind: 'silent'; why: string };

/** A carrier as Auk sees it. Every adapter is one folder with one of these. */
export interface Carrier {
  code: string;
  name: string;
  /** Prices of all services that take the parcel. */
  quote(parcel: CarrierParcel): Promise<Asked<CarrierQuote[]>>;
  /** Buys under our key; asking twice with one key must charge once. */
  buy(order: CarrierBuy): Promise<Asked<CarrierBought>>;
  /** What the carrier's books hold under our key; null when nothing. */
  find(key: string): Promise<Asked<CarrierBought | null>>;
}

/** Where carriers are registered, by code. */
export const CARRIERS = Symbol('carriers');
export type Carriers = ReadonlyMap<string, Carrier>;
