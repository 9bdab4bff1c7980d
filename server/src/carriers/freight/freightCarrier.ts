import {
  CarrierBought,
  type CarrierBuy,
  type CarrierCollect,
  CarrierCollected,
  type CarrierDayEnd,
  CarrierManifest,
  type CarrierParcel,
  CarrierQuote,
  CarrierTracked,
  CarrierVoided,
} from '@auk/contract';
import { z } from 'zod';
import { answered, PURCHASE_MS, QUESTION_MS } from '../askCarrier.js';
import type { Asked, CarrierKindEntry } from '../carrier.js';
import { HttpCarrier } from '../httpCarrier.js';
import { askJson } from '../jsonCarrier.js';

const REFUSALS = { status: 409, words: 'declined' };
const Prices = z.object({ prices: z.array(CarrierQuote) });

/** A carrier of pallets. A booking lives under an address of ours: put there twice it is one, deleted it is cancelled. */
class FreightCarrier extends HttpCarrier {
  readonly keyed = true;

  async quote(body: CarrierParcel): Promise<Asked<CarrierQuote[]>> {
    const question = { method: 'POST', path: 'prices', ms: QUESTION_MS, body };
    const asked = await askJson(this.at, question, Prices, REFUSALS);
    return asked.kind === 'answered' ? answered(asked.value.prices) : asked;
  }

  buy({ key, ...body }: CarrierBuy): Promise<Asked<CarrierBought>> {
    const question = { method: 'PUT', path: `bookings/${key}`, ms: PURCHASE_MS, body };
    return askJson(this.at, question, CarrierBought, REFUSALS);
  }

  takeBack(key: string): Promise<Asked<CarrierVoided>> {
    return askJson(
      this.at,
      { method: 'DELETE', path: `bookings/${key}`, ms: PURCHASE_MS },
      CarrierVoided,
      REFUSALS,
    );
  }

  find(key: string): Promise<Asked<CarrierBought | null>> {
    const question = { method: 'GET', path: `bookings/${key}`, ms: QUESTION_MS };
    return askJson<CarrierBought | null>(this.at, question, CarrierBought, REFUSALS, () => null);
  }

  /** It tells of one booking at a time. */
  async track(trackings: readonly string[]): Promise<Asked<CarrierTracked[]>> {
    const tracks: CarrierTracked[] = [];
    for (const tracking of trackings) {
      const question = {
        method: 'GET',
        path: `whereabouts/${encodeURIComponent(tracking)}`,
        ms: QUESTION_MS,
      };
      const asked = await askJson<CarrierTracked | null>(
        this.at,
        question,
        CarrierTracked,
        REFUSALS,
        () => null,
      );
      if (asked.kind !== 'answered') return asked;
      if (asked.value) tracks.push(asked.value);
    }
    return answered(tracks);
  }

  collect({ key, ...body }: CarrierCollect): Promise<Asked<CarrierCollected>> {
    const question = { method: 'PUT', path: `calls/${key}`, ms: PURCHASE_MS, body };
    return askJson(this.at, question, CarrierCollected, REFUSALS);
  }

  endDay({ key, ...body }: CarrierDayEnd): Promise<Asked<CarrierManifest>> {
    const question = { method: 'PUT', path: `loads/${key}`, ms: PURCHASE_MS, body };
    return askJson(this.at, question, CarrierManifest, REFUSALS);
  }
}

export const FREIGHT_CARRIER: CarrierKindEntry = {
  kind: 'freight',
  name: 'Pallets',
  about: 'Carries pallets; a booking is put under an address of ours and deleted there.',
  open: at => new FreightCarrier(at),
};
