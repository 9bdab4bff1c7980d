import type { BuyLabel, CarrierBuy, OffersView, ServiceOptions } from '@auk/contract';
import { type Address, addressLines, convert, formatMoney, pointLine, rankOffers } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { type ParcelRow, ParcelsQueries } from '../parcels/parcels.module.js';
import { HeldOrders, type WantedService, wantedOf } from '../records/records.module.js';
import { asksOf } from './asks.js';
import { bySheet, type Priced, type PricedParcel, type PriceGround, Prices } from './prices.service.js';

/** Prices for a closed parcel, in the order of choice, and what a carrier is told when one is bought. */
@Injectable()
export class RatingService {
  constructor(
    private readonly db: Db,
    private readonly parcels: ParcelsQueries,
    private readonly held: HeldOrders,
    private readonly prices: Prices,
    private readonly house: HouseService,
  ) {}

  /** What prices are made from, for who asks for many. */
  ground(sql: Sql, now: Date): Promise<PriceGround> {
    return this.prices.ground(sql, now);
  }

  /** Services for a closed parcel, the cheapest that keeps the promised day first. */
  async offers(
    no: number,
    now: Date,
    options: ServiceOptions = {},
    known?: PriceGround,
  ): Promise<OffersView> {
    const parcel = await this.parcels.parcel(this.db, no);
    if (!parcel) throw new NotHere(`The parcel PA-${no}`);
    await this.held.refuse(this.db, parcel.orderId, no);
    const ground = known ?? (await this.prices.ground(this.db, now));
    const { priced, silent, dropped } = await this.prices.of(ground, this.told(parcel, ground), {
      ...this.asked(parcel, ground),
      ...options,
    });
    const { service, by } = wantedOf(parcel);
    return {
      offers: offersOf(priced, parcel.promised, service, parcel.preferred),
      chosenBy: by,
      // Nobody takes it at all: then why is said, too.
      silent: priced.length > 0 ? silent : [...silent, ...dropped],
      promised: parcel.promised,
      paidMinor: parcel.shippingMinor,
      currency: parcel.currency,
      houseCurrency: ground.house,
      paidHouseMinor: convert(
        parcel.shippingMinor,
        parcel.currency,
        ground.house,
        ground.rates,
        ground.house,
      ),
    };
  }

  /** What the order asks, and what a person or a rule asked with the service that was chosen for it. */
  private asked(parcel: ParcelRow, ground: PriceGround): ServiceOptions {
    return { ...asksOf(parcel, ground), ...wantedOf(parcel).options };
  }

  /** Services for the way back of a parcel to the house, the cheapest first; nothing is promised of it. */
  async returnOffers(no: number, now: Date): Promise<OffersView> {
    const parcel = await this.parcels.parcel(this.db, no);
    if (!parcel) throw new NotHere(`The parcel PA-${no}`);
    const ground = await this.prices.ground(this.db, now);
    const { priced, silent, dropped } = await this.prices.of(ground, await this.toldBack(parcel, ground), {});
    return {
      offers: offersOf(priced, null, null, null),
      chosenBy: null,
      silent: priced.length > 0 ? silent : [...silent, ...dropped],
      promised: null,
      paidMinor: 0,
      currency: parcel.currency,
      houseCurrency: ground.house,
      paidHouseMinor: null,
    };
  }

  /** The same parcel on its way back: from its buyer to the house, which is no home. */
  private async toldBack(parcel: ParcelRow, ground: PriceGround): Promise<PricedParcel> {
    const { to, latin: _, ...told } = this.told(parcel, ground);
    const house = await this.house.sender(this.db);
    return {
      ...told,
      from: { postcode: to.postcode, country: to.country },
      to: { ...ground.from, residential: false, lines: addressLines(house, to.country) },
    };
  }

  /**
   * What a carrier is asked for when a label is bought. The price of a rate sheet of one's own is computed anew; when it is not the
   * one that was chosen, nothing is bought.
   */
  async purchase(
    parcel: ParcelRow,
    wish: BuyLabel,
    now: Date,
    { known, back = false }: { known?: PriceGround | undefined; back?: boolean } = {},
  ): Promise<CarrierBuy> {
    const ground = known ?? (await this.prices.ground(this.db, now));
    const serving = ground.accounts.find(
      a => a.carrier.code === wish.carrier && a.account.number === wish.account,
    );
    const told = back ? await this.toldBack(parcel, ground) : this.told(parcel, ground);
    const options = back ? wish.options : { ...this.asked(parcel, ground), ...wish.options };
    const request = serving && this.prices.request(ground, serving, told, options);
    if (!request) throw new NotHere(`The carrier ${wish.carrier}`, 'Ask for the prices again.');
    if (serving.account.rates === 'sheet') {
      const quotes = serving.sheet ? bySheet(serving.sheet, request, ground.closed).quotes : [];
      const now = quotes.find(q => q.service === wish.service);
      if (now?.minor !== wish.minor || now.currency !== wish.currency)
        throw new Forbidden(
          `${wish.name} costs ${now ? formatMoney(now.minor, now.currency) : 'nothing that is known'} by its rate sheet now, not ${formatMoney(wish.minor, wish.currency)}.`,
          'Ask for the prices again.',
        );
    }
    const { key, quoteId, minor, currency, service } = wish;
    return { key, quoteId, minor, currency, service, parcel: request, reference: `PA-${parcel.no}` };
  }

  /** What is told of a parcel. Refused while it has no box or weight. */
  told(parcel: ParcelRow, { from }: Pick<PriceGround, 'from'>): PricedParcel {
    if (parcel.closedAt && !parcel.weightMg)
      throw new Forbidden(
        `PA-${parcel.no} was only checked: it has no weight.`,
        'Open it again at a bench that weighs, and close it there.',
      );
    if (!(parcel.closedAt || parcel.aheadAt) || !parcel.boxCode || !parcel.weightMg)
      throw new Forbidden(
        `PA-${parcel.no} is not closed yet.`,
        'Pack it, choose a box and give its weight first.',
      );
    return {
      from,
      to: whereto(fromJson<Address>(parcel.shipTo), from.country, parcel.pickUpPoint),
      ...latinOf(parcel, from.country),
      size: { length: parcel.length, width: parcel.width, height: parcel.height },
      weightMg: parcel.weightMg,
      worthMinor: parcel.worthMinor,
    };
  }
}

/** An address as carriers are told it; without a company it is a home. */
export const whereto = (to: Address, home: string, pickUpPoint: string): PricedParcel['to'] => ({
  postcode: to.postcode,
  country: to.country,
  residential: to.company === '',
  lines: [...(pickUpPoint ? [pointLine(pickUpPoint)] : []), ...addressLines(to, home)],
});

/** The lines of an address in Latin letters, where somebody has given them. */
export const latinOf = (
  { latin, pickUpPoint }: { latin: string | null; pickUpPoint: string },
  home: string,
): { latin?: string[] } =>
  latin ? { latin: whereto(fromJson<Address>(latin), home, pickUpPoint).lines } : {};

/** Priced services as they are offered: what a person chose first, then what the products in it prefer, then by house money, those in a currency without a rate last. */
function offersOf(
  priced: readonly Priced[],
  promised: string | null,
  chosen: WantedService['service'],
  preferred: string | null,
): OffersView['offers'] {
  const ranked = rankOffers(
    priced.map(p => ({
      priced: p,
      carrier: p.serving.carrier.code,
      service: `${p.quote.service} ${p.serving.account.number}`,
      minor: p.houseMinor ?? Number.MAX_SAFE_INTEGER,
      arrives: p.quote.arrives,
    })),
    promised,
  );
  const offers = ranked.map(
    ({ priced: { serving, quote, departure, houseMinor }, keeps, cheapest, fastest }) => ({
      ...quote,
      carrier: serving.carrier.code,
      carrierName: serving.carrier.name,
      account: { number: serving.account.number, name: serving.account.name },
      houseMinor,
      departure: departure && { id: departure.id, cutOff: departure.cutOff },
      keeps,
      cheapest,
      fastest,
      chosen:
        chosen?.carrier === serving.carrier.code &&
        chosen.account === serving.account.number &&
        chosen.service === quote.service,
      preferred: !!preferred && prefers(preferred, quote),
    }),
  );
  const first = (o: OffersView['offers'][number]) => Number(o.chosen) * 2 + Number(o.preferred);
  return [...offers].sort((a, b) => first(b) - first(a));
}

/** Whether a product's word for its preferred service means this one: its code or its name. */
const prefers = (word: string, { service, name }: { service: string; name: string }): boolean =>
  [service, name].some(s => s.toLowerCase() === word.trim().toLowerCase());
