import { CarrierBuy, CarrierCollect, CarrierDayEnd, CarrierParcel, CarrierVoid } from '@auk/contract';
import { type Counter, isRefused, json, sold, tracked } from './counter.js';

const answer = (got: object) => (isRefused(got) ? json(422, got) : json(200, got));
const refuse = (refused: string) => json(422, { refused });

/** Speaks the plain JSON of the contract; a purchase has a key, and asking twice with it sells once. */
export const plainCounter: Counter = (desk, { method, path, body }) => {
  const [what, key = ''] = path.split('/');
  const read = <T>(form: { parse: (v: unknown) => T }): T => form.parse(JSON.parse(body));
  if (method === 'GET' && what === 'purchases')
    return {
      on: 'find',
      refuse,
      act: () => {
        const found = desk.find(key);
        return found ? json(200, found) : json(404, { error: 'no such purchase' });
      },
    };
  if (method !== 'POST') return null;
  if (what === 'quotes')
    return {
      on: 'quote',
      refuse,
      act: () => {
        const got = desk.quotes(read(CarrierParcel));
        return answer(isRefused(got) ? got : { quotes: got });
      },
    };
  if (what === 'purchases')
    return { on: 'buy', refuse, act: async trick => answer(await sold(desk, read(CarrierBuy), trick)) };
  if (what === 'tracks')
    return {
      on: 'track',
      refuse,
      act: () =>
        json(200, { tracks: tracked(desk, (JSON.parse(body) as { trackings: string[] }).trackings) }),
    };
  if (what === 'collections')
    return { on: 'collect', refuse, act: () => json(200, desk.collect(read(CarrierCollect))) };
  if (what === 'manifests')
    return { on: 'day end', refuse, act: () => json(200, desk.endDay(read(CarrierDayEnd))) };
  if (what === 'voids')
    return { on: 'void', refuse, act: () => answer(desk.takeBack(read(CarrierVoid).key)) };
  return null;
};
