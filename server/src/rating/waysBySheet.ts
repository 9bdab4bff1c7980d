import type { ServiceOptions } from '@auk/contract';
import { type Box, convert, rate, type Size, type WayToSend } from '@auk/core';
import type { ServingAccount } from '../carriers/carriers.module.js';
import { type PricedParcel, type PriceGround, ratedParcel } from './prices.service.js';

/** A service of an account as one way to send a parcel. */
export interface Way {
  serving: ServingAccount;
  service: string;
  name: string;
  arrives: string;
}

/** A parcel that every service takes which goes there at all. */
const SMALL: Size = { length: 1_000, width: 1_000, height: 1_000 };

/**
 * Every service whose rates are known beforehand and that goes to an address, priced in house money, to search boxes by. Where a carrier
 * is asked for its prices, its sheet is what is expected; what counts is asked afterwards.
 */
export function waysBySheet(
  ground: PriceGround,
  { from, to }: Pick<PricedParcel, 'from' | 'to'>,
  { insured, ...asked }: ServiceOptions,
): WayToSend<Way>[] {
  // How much is declared follows from the boxes that are found; that the service declares at all is known before.
  const options = insured ? { ...asked, valueMinor: Math.max(asked.valueMinor ?? 0, 1) } : asked;
  return ground.accounts.flatMap(serving => {
    const { carrier, sheet } = serving;
    return (sheet?.services ?? []).flatMap((card): WayToSend<Way>[] => {
      if (ground.shut.has(`${carrier.code} ${card.service}`)) return [];
      const weightMg = Math.max(1, card.leastMg);
      const parcel = ratedParcel({ from, to, size: SMALL, weightMg, account: '', options });
      const reached = rate(card, parcel);
      if (!reached.ok) return [];
      const way: Way = {
        serving,
        service: card.service,
        name: card.name,
        arrives: ground.arrival(carrier.code, reached.value.days, options.saturday === true),
      };
      const price = (box: Box, weightMg: number): number | null => {
        const rated = rate(card, { ...parcel, size: box.inner, weightMg });
        return rated.ok
          ? convert(rated.value.minor, sheet!.currency, ground.house, ground.rates, ground.house)
          : null;
      };
      return [{ way, stepMg: card.step.mg, price }];
    });
  });
}
