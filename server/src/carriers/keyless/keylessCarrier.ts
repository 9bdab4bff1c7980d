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
  type CarrierVoided,
} from '@auk/contract';
import { z } from 'zod';
import { answered, PURCHASE_MS, QUESTION_MS } from '../askCarrier.js';
import type { Asked, CarrierKindEntry } from '../carrier.js';
import { HttpCarrier } from '../httpCarrier.js';
import { askJson } from '../jsonCarrier.js';

const REFUSALS = { status: 422, words: 'sorry' };
const Estimates = z.object({ estimates: z.array(CarrierQuote) });
const Consignments = z.object({
  consignments: z.array(CarrierBought.and(z.object({ returned: z.number().int().min(0).nullable() }))),
});
const Movements = z.object({ movements: CarrierTracked.array() });
const Pickups = z.object({ pickups: CarrierCollected.array() });
const Cancelled = z.object({ returned: z.number().int().min(0) });

/**
 * A carrier that knows no keys: every consignment that is posted is a new one. Before it is asked to sell it is asked what it has under
 * our reference; what it does not know is never asked for again without a person.
 */
class KeylessCarrier extends HttpCarrier {
  readonly keyed = false;

  async quote(parcel: CarrierParcel): Promise<Asked<CarrierQuote[]>> {
    const question = { method: 'POST', path: 'estimates', ms: QUESTION_MS, body: { parcel } };
    const asked = await askJson(this.at, question, Estimates, REFUSALS);
    return asked.kind === 'answered' ? answered(asked.value.estimates) : asked;
  }

  async buy(consignment: CarrierBuy): Promise<Asked<CarrierBought>> {
    const known = await this.find(consignment.key);
    // Not knowing what it has, nothing may be posted; the question alone has no part in a purchase.
    if (known.kind === 'refused') return { kind: 'silent', why: known.why };
    if (known.kind === 'silent') return known;
    if (known.value) return answered(known.value);
    const question = { method: 'POST', path: 'consignments', ms: PURCHASE_MS, body: { consignment } };
    return askJson(this.at, question, CarrierBought, REFUSALS);
  }

  async takeBack(key: string): Promise<Asked<CarrierVoided>> {
    const held = await this.held(key);
    if (held.kind !== 'answered') return held;
    let refundMinor = 0;
    for (const { key: number, returned } of held.value) {
      if (returned !== null) refundMinor += returned;
      else {
        const question = { method: 'POST', path: `consignments/${number}/cancel`, ms: PURCHASE_MS, body: {} };
        const back = await askJson(this.at, question, Cancelled, REFUSALS);
        if (back.kind !== 'answered') return back;
        refundMinor += back.value.returned;
      }
    }
    return held.value.length === 0
      ? { kind: 'refused', why: `${this.name} says: there is no such consignment` }
      : answered({ key, refundMinor });
  }

  async find(key: string): Promise<Asked<CarrierBought | null>> {
    const held = await this.held(key);
    if (held.kind !== 'answered') return held;
    const first = held.value.find(c => c.returned === null) ?? held.value[0];
    if (!first) return answered(null);
    const { returned, ...bought } = first;
    return answered({ ...bought, key, ...(returned !== null && { refundMinor: returned }) });
  }

  async track(trackings: readonly string[]): Promise<Asked<CarrierTracked[]>> {
    const path = `movements?${trackings.map(t => `number=${encodeURIComponent(t)}`).join('&')}`;
    const asked = await askJson(this.at, { method: 'GET', path, ms: QUESTION_MS }, Movements, REFUSALS);
    return asked.kind === 'answered' ? answered(asked.value.movements) : asked;
  }

  async collect(collection: CarrierCollect): Promise<Asked<CarrierCollected>> {
    const path = `pickups?reference=${encodeURIComponent(collection.key)}`;
    const known = await askJson(this.at, { method: 'GET', path, ms: QUESTION_MS }, Pickups, REFUSALS);
    if (known.kind === 'refused') return { kind: 'silent', why: known.why };
    if (known.kind === 'silent') return known;
    const [first] = known.value.pickups;
    if (first) return answered(first);
    const question = { method: 'POST', path: 'pickups', ms: PURCHASE_MS, body: collection };
    return askJson(this.at, question, CarrierCollected, REFUSALS);
  }

  endDay(body: CarrierDayEnd): Promise<Asked<CarrierManifest>> {
    const question = { method: 'POST', path: 'handed-over', ms: PURCHASE_MS, body };
    return askJson(this.at, question, CarrierManifest, REFUSALS);
  }

  private async held(key: string) {
    const path = `consignments?reference=${encodeURIComponent(key)}`;
    const asked = await askJson(this.at, { method: 'GET', path, ms: QUESTION_MS }, Consignments, REFUSALS);
    return asked.kind === 'answered' ? answered(asked.value.consignments) : asked;
  }
}

export const KEYLESS_CARRIER: CarrierKindEntry = {
  kind: 'keyless',
  name: 'JSON by reference',
  about: 'Every asking is a purchase of its own, so it is asked by reference first.',
  open: at => new KeylessCarrier(at),
};
