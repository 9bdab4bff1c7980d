import type { CarrierBought, CarrierBuy, CarrierTracked, Mischief } from '@auk/contract';
import type { BuyTrick, CarrierDesk, Refused } from './desk.js';

/** What is asked of a carrier's stand-in over HTTP. */
export interface CounterAsk {
  method: string;
  /** The address behind the carrier's own, such as `purchases/KEY`. */
  path: string;
  query: URLSearchParams;
  body: string;
}

export interface CounterAnswer {
  status: number;
  type: string;
  body: string;
}

/** An answer of a desk on its way to the wire, and what it was asked; `act` does it. */
export interface Deed {
  on: Mischief['on'];
  act: (trick: BuyTrick | null) => CounterAnswer | Promise<CounterAnswer>;
  refuse: (why: string) => CounterAnswer;
}

/** How a carrier speaks: reads what is asked into a deed; null when nobody can read it. */
export type Counter = (desk: CarrierDesk, ask: CounterAsk) => Deed | null;

export const json = (status: number, body: unknown): CounterAnswer => ({
  status,
  type: 'application/json',
  body: JSON.stringify(body),
});

export const isRefused = (got: object): got is Refused => 'refused' in got;

/** What a carrier tells of parcels; those it never sold are left out. */
export const tracked = (desk: CarrierDesk, trackings: readonly string[]): CarrierTracked[] =>
  trackings.flatMap(t => desk.track(t) ?? []);

/** Sells, and adds the carrier's own picture where it draws one. */
export async function sold(
  desk: CarrierDesk,
  order: CarrierBuy,
  trick: BuyTrick | null,
  again = false,
): Promise<CarrierBought | Refused> {
  const bought = desk.buy(order, trick, again);
  if (isRefused(bought) || !desk.carrier.draws) return bought;
  return {
    ...bought,
    picture: trick === 'no picture' ? 'bm8gcGljdHVyZQ==' : await desk.picture(order, bought),
  };
}
