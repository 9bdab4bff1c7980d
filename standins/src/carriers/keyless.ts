import { CarrierBuy, CarrierCollect, CarrierDayEnd, CarrierParcel } from '@auk/contract';
import { type Counter, isRefused, json, sold, tracked } from './counter.js';

const refuse = (sorry: string) => json(422, { sorry });
const answer = (got: object) => (isRefused(got) ? refuse(got.refused) : json(200, got));

/**
 * Speaks JSON of its own and knows no keys: every `consignments` that is posted is a new one. What was booked is found by the reference
 * that the customer gave; it is cancelled by the carrier's own number.
 */
export const keylessCounter: Counter = (desk, { method, path, query, body }) => {
  const [what, number = '', verb = ''] = path.split('/');
  if (method === 'GET' && what === 'consignments')
    return {
      on: 'find',
      refuse,
      act: () =>
        json(200, {
          consignments: desk.sold(query.get('reference') ?? '').map(({ ours, ...c }) => ({
            ...c,
            returned: desk.voids.find(c.key)?.refundMinor ?? null,
          })),
        }),
    };
  if (method === 'GET' && what === 'movements')
    return {
      on: 'track',
      refuse,
      act: () => json(200, { movements: tracked(desk, query.getAll('number')) }),
    };
  if (method === 'GET' && what === 'pickups')
    return {
      on: 'find',
      refuse,
      act: () => {
        const known = desk.kept.collections.find(query.get('reference') ?? '');
        return json(200, { pickups: known ? [known] : [] });
      },
    };
  if (method !== 'POST') return null;
  if (what === 'pickups')
    return {
      on: 'collect',
      refuse,
      act: () => json(200, desk.collect(CarrierCollect.parse(JSON.parse(body)))),
    };
  if (what === 'handed-over')
    return {
      on: 'day end',
      refuse,
      act: () => json(200, desk.endDay(CarrierDayEnd.parse(JSON.parse(body)))),
    };
  const read = () => JSON.parse(body) as { parcel: unknown; consignment: unknown };
  if (what === 'estimates')
    return {
      on: 'quote',
      refuse,
      act: () => {
        const got = desk.quotes(CarrierParcel.parse(read().parcel));
        return answer(isRefused(got) ? got : { estimates: got });
      },
    };
  if (what === 'consignments' && verb === 'cancel')
    return {
      on: 'void',
      refuse,
      act: () => {
        const got = desk.takeBack(number);
        return answer(isRefused(got) ? got : { returned: got.refundMinor });
      },
    };
  if (what === 'consignments') {
    const order = CarrierBuy.parse(read().consignment);
    return {
      on: 'buy',
      refuse,
      act: async trick => answer(await sold(desk, order, trick, true)),
    };
  }
  return null;
};
