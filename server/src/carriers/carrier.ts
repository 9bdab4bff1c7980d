import type {
  CarrierBought,
  CarrierBuy,
  CarrierCollect,
  CarrierCollected,
  CarrierDayEnd,
  CarrierManifest,
  CarrierParcel,
  CarrierQuote,
  CarrierTracked,
  CarrierVoided,
} from '@auk/contract';
import type { CarrierAnswer } from '@auk/core';

/** What asking a carrier can come to. `silent` is a time-out, a broken connection or an answer that makes no sense: nobody knows what was done. */
export type Asked<T> = CarrierAnswer<T>;

/** A carrier as Auk sees it. Every adapter is one folder with one of these (docs/carriers.md). */
export interface Carrier {
  code: string;
  name: string;
  /** Longest time in milliseconds after it was asked to sell in which a purchase may still come about. */
  longestMs: number;
  /** False for a carrier to which every asking is a purchase of its own: what it does not know is never asked for again by itself. */
  keyed: boolean;
  /** Prices of all services that take the parcel. */
  quote(parcel: CarrierParcel): Promise<Asked<CarrierQuote[]>>;
  /** Buys under our key; asking twice with one key must charge once. */
  buy(order: CarrierBuy): Promise<Asked<CarrierBought>>;
  /** Takes a purchase back by our key; asking twice takes it back once. */
  takeBack(key: string): Promise<Asked<CarrierVoided>>;
  /** What the carrier's books hold under our key; null when nothing. */
  find(key: string): Promise<Asked<CarrierBought | null>>;
  /** What it knows of parcels by their tracking numbers, at most `TRACK_AT_ONCE`; one that it does not know is left out. */
  track(trackings: readonly string[]): Promise<Asked<CarrierTracked[]>>;
  /** Books a collection under our key; asking twice books it once. */
  collect(collection: CarrierCollect): Promise<Asked<CarrierCollected>>;
  /** Tells what was handed over under our key; asking twice gives the same manifest. */
  endDay(day: CarrierDayEnd): Promise<Asked<CarrierManifest>>;
}

/** So many parcels are asked after in one question. */
export const TRACK_AT_ONCE = 30;

/** Where and how to reach a carrier. */
export interface CarrierAddress {
  code: string;
  name: string;
  address: string;
  key: string;
}

/** A kind of carrier that Setup offers. */
export interface CarrierKindEntry {
  kind: string;
  name: string;
  /** Its habit, in words that help to choose. */
  about: string;
  open(at: CarrierAddress): Carrier;
}
