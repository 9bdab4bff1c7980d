import { CarrierBuy, CarrierCollect, CarrierDayEnd, CarrierParcel } from '@auk/contract';
import { type Counter, isRefused, json, sold } from './counter.js';

const refuse = (message: string) => json(409, { declined: message });
const answer = (got: object) => (isRefused(got) ? refuse(got.refused) : json(200, got));

/** Carries pallets. A booking lives under an address that the customer chooses: put there twice it is one, deleted it is cancelled. */
export const freightCounter: Counter = (desk, { method, path, body }) => {
  const [what, key = ''] = path.split('/');
  if (method === 'POST' && what === 'prices')
    return {
      on: 'quote',
      refuse,
      act: () => {
        const got = desk.quotes(CarrierParcel.parse(JSON.parse(body)));
        return answer(isRefused(got) ? got : { prices: got });
      },
    };
  if (method === 'GET' && what === 'whereabouts')
    return {
      on: 'track',
      refuse,
      act: () => {
        const found = desk.track(decodeURIComponent(key));
        return found ? json(200, found) : json(404, {});
      },
    };
  const put = () => ({ ...(JSON.parse(body) as object), key });
  if (method === 'PUT' && what === 'calls')
    return { on: 'collect', refuse, act: () => json(200, desk.collect(CarrierCollect.parse(put()))) };
  if (method === 'PUT' && what === 'loads')
    return { on: 'day end', refuse, act: () => json(200, desk.endDay(CarrierDayEnd.parse(put()))) };
  if (what !== 'bookings' || key === '') return null;
  if (method === 'GET')
    return {
      on: 'find',
      refuse,
      act: () => {
        const found = desk.find(key);
        return found ? json(200, found) : json(404, {});
      },
    };
  if (method === 'PUT') {
    const order = CarrierBuy.parse({ ...JSON.parse(body), key });
    return { on: 'buy', refuse, act: async trick => answer(await sold(desk, order, trick)) };
  }
  if (method === 'DELETE') return { on: 'void', refuse, act: () => answer(desk.takeBack(key)) };
  return null;
};
