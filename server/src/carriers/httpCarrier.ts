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
import type { Asked, Carrier, CarrierAddress } from './carrier.js';

/** A carrier that was asked to sell has done so, or never will, after this long. */
const LONGEST_MS = 30_000;

/** What all carriers share that are asked over HTTP. */
export abstract class HttpCarrier implements Carrier {
  readonly longestMs = LONGEST_MS;

  constructor(protected readonly at: CarrierAddress) {}

  get code(): string {
    return this.at.code;
  }

  get name(): string {
    return this.at.name;
  }

  abstract readonly keyed: boolean;
  abstract quote(parcel: CarrierParcel): Promise<Asked<CarrierQuote[]>>;
  abstract buy(order: CarrierBuy): Promise<Asked<CarrierBought>>;
  abstract takeBack(key: string): Promise<Asked<CarrierVoided>>;
  abstract find(key: string): Promise<Asked<CarrierBought | null>>;
  abstract track(trackings: readonly string[]): Promise<Asked<CarrierTracked[]>>;
  abstract collect(collection: CarrierCollect): Promise<Asked<CarrierCollected>>;
  abstract endDay(day: CarrierDayEnd): Promise<Asked<CarrierManifest>>;
}
