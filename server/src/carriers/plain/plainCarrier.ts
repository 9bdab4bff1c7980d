import {
  CarrierBought,
  type CarrierBuy,
  type CarrierCollect,
  CarrierCollected,
  type CarrierDayEnd,
  CarrierManifest,
  type CarrierParcel,
  type CarrierQuote,
  CarrierQuotes,
  CarrierTracked,
  CarrierVoided,
} from '@auk/contract';
import { z } from 'zod';
import { answered, PURCHASE_MS, QUESTION_MS } from '../askCarrier.js';
import type { Asked, CarrierKindEntry } from '../carrier.js';
import { HttpCarrier } from '../httpCarrier.js';
import { askJson } from '../jsonCarrier.js';

const REFUSALS = { status: 422, words: 'refused' };
const Tracks = z.object({ tracks: CarrierTracked.array() });

/** A carrier that speaks the plain JSON of contract/carriers over HTTP, with a key for each purchase. */
class PlainCarrier extends HttpCarrier {
  readonly keyed = true;

  async quote(body: CarrierParcel): Promise<Asked<CarrierQuote[]>> {
    const question = { method: 'POST', path: 'quotes', ms: QUESTION_MS, body };
    const asked = await askJson(this.at, question, CarrierQuotes, REFUSALS);
    return asked.kind === 'answered' ? { kind: 'answered', value: asked.value.quotes } : asked;
  }

  buy(body: CarrierBuy): Promise<Asked<CarrierBought>> {
    const question = { method: 'POST', path: 'purchases', ms: PURCHASE_MS, body };
    return askJson(this.at, question, CarrierBought, REFUSALS);
  }

  takeBack(key: string): Promise<Asked<CarrierVoided>> {
    const question = { method: 'POST', path: 'voids', ms: PURCHASE_MS, body: { key } };
    return askJson(this.at, question, CarrierVoided, REFUSALS);
  }

  find(key: string): Promise<Asked<CarrierBought | null>> {
    const question = { method: 'GET', path: `purchases/${key}`, ms: QUESTION_MS };
    return askJson<CarrierBought | null>(this.at, question, CarrierBought, REFUSALS, () => null);
  }

  async track(trackings: readonly string[]): Promise<Asked<CarrierTracked[]>> {
    const question = { method: 'POST', path: 'tracks', ms: QUESTION_MS, body: { trackings } };
    const asked = await askJson(this.at, question, Tracks, REFUSALS);
    return asked.kind === 'answered' ? answered(asked.value.tracks) : asked;
  }

  collect(body: CarrierCollect): Promise<Asked<CarrierCollected>> {
    const question = { method: 'POST', path: 'collections', ms: PURCHASE_MS, body };
    return askJson(this.at, question, CarrierCollected, REFUSALS);
  }

  endDay(body: CarrierDayEnd): Promise<Asked<CarrierManifest>> {
    const question = { method: 'POST', path: 'manifests', ms: PURCHASE_MS, body };
    return askJson(this.at, question, CarrierManifest, REFUSALS);
  }
}

export const PLAIN_CARRIER: CarrierKindEntry = {
  kind: 'plain',
  name: 'JSON with keys',
  about: 'A purchase has a key of ours; asking twice with it buys once.',
  open: at => new PlainCarrier(at),
};
