import type { CarrierParcel, CarrierQuote, ServiceOptions } from '@auk/contract';
import {
  addBusinessDays,
  convert,
  type ExchangeRates,
  isLatin,
  nextDeparture,
  type RatedParcel,
  type RateSheet,
  rate,
  remembered,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry, type ServingAccount } from '../carriers/carriers.module.js';
import type { Sql } from '../database/db.js';
import { daysAround, HouseService } from '../house/house.module.js';
import { zonePlace } from '../reference/postcodes.js';
import { DeparturePlanner, type OpenDeparture } from '../timetable/timetable.module.js';

/** A parcel as it is to be priced: who pays, what is asked beside carrying and when it goes are added for each account. */
export type PricedParcel = Omit<CarrierParcel, 'account' | 'options' | 'shipDay'> & {
  /** The lines of its address in Latin letters, where they are others and somebody has given them. */
  latin?: string[];
  /** What is in it, in house money; null where a product has no value. */
  worthMinor: number | null;
};

/** A service with its price for one parcel. */
export interface Priced {
  serving: ServingAccount;
  quote: CarrierQuote;
  departure: OpenDeparture | null;
  houseMinor: number | null;
}

export interface PricesFound {
  priced: Priced[];
  dropped: { carrierName: string; name: string; why: string }[];
  silent: { carrierName: string; why: string }[];
}

/** What prices are made from: accounts with their sheets, days, rates of currencies. Read once for many parcels. */
export interface PriceGround {
  accounts: ServingAccount[];
  shut: ReadonlySet<string>;
  closed: ReadonlySet<string>;
  open: OpenDeparture[];
  zone: string;
  house: string;
  /** Where parcels are sent from. */
  from: PricedParcel['from'];
  rates: ExchangeRates;
  now: Date;
  /** The day on which a carrier takes a parcel: of its next departure, today where none is planned. */
  collected: (carrier: string) => string;
  /** The day on which a service that takes so many business days arrives. */
  arrival: (carrier: string, days: number, saturdays: boolean) => string;
}

/** Prices of all services of all accounts: carriers are asked, own rate sheets are computed. */
@Injectable()
export class Prices {
  constructor(
    private readonly carriers: CarrierRegistry,
    private readonly house: HouseService,
    private readonly planner: DeparturePlanner,
  ) {}

  async ground(sql: Sql, now: Date): Promise<PriceGround> {
    const { zone, currency, postcode, country } = await this.house.warehouse(sql);
    const { today } = daysAround(now, zone);
    const closed = await this.carriers.closedDays(sql);
    const open = await this.planner.open(sql, now);
    const collected = remembered((carrier: string) => collectedOn({ open, zone, now }, carrier));
    return {
      accounts: await this.carriers.serving(sql, today),
      shut: await this.carriers.shut(sql),
      closed,
      open,
      zone,
      house: currency,
      from: { postcode, country },
      rates: await this.house.exchangeRates(sql, today),
      now,
      collected,
      arrival: remembered((carrier: string, days: number, saturdays: boolean) =>
        addBusinessDays(collected(carrier), days, { closed, saturdays }),
      ),
    };
  }

  /** All services for a parcel. `options` are in house money. A carrier that is silent is named and leaves the others be. */
  async of(ground: PriceGround, parcel: PricedParcel, options: ServiceOptions): Promise<PricesFound> {
    const found: PricesFound = { priced: [], dropped: [], silent: [] };
    const each = await Promise.all(ground.accounts.map(a => this.account(ground, a, parcel, options)));
    for (const f of each) {
      found.priced.push(...f.priced);
      found.dropped.push(...f.dropped);
      found.silent.push(...f.silent);
    }
    return found;
  }

  /** What is told of a parcel to a carrier for one of its accounts; null when the options' money cannot be put into its currency. */
  request(
    ground: PriceGround,
    { carrier, account, sheet, latin }: ServingAccount,
    { latin: inLatin, worthMinor, ...parcel }: PricedParcel,
    options: ServiceOptions,
  ): CarrierParcel | null {
    const asked = inCurrency(ground, insuredFor(options, worthMinor), sheet?.currency ?? ground.house);
    const shipDay = ground.collected(carrier.code);
    const to = latin && inLatin ? { ...parcel.to, lines: inLatin } : parcel.to;
    return asked && { ...parcel, to, account: account.number, options: asked, shipDay };
  }

  private async account(
    ground: PriceGround,
    serving: ServingAccount,
    parcel: PricedParcel,
    options: ServiceOptions,
  ): Promise<PricesFound> {
    const { carrier, account, sheet } = serving;
    const carrierName = carrier.name;
    const request = this.request(ground, serving, parcel, options);
    const none: PricesFound = { priced: [], dropped: [], silent: [] };
    if (serving.latin && !(parcel.latin ?? parcel.to.lines).every(isLatin))
      return { ...none, dropped: [{ carrierName, name: account.name, why: NOT_LATIN }] };
    if (options.insured && parcel.worthMinor === null)
      return { ...none, dropped: [{ carrierName, name: account.name, why: NO_WORTH }] };
    if (!request)
      return { ...none, silent: [{ carrierName, why: `No rate is known for ${sheet?.currency}.` }] };
    if (account.rates === 'sheet') {
      if (!sheet) return { ...none, silent: [{ carrierName, why: `${account.name} has no rate sheet.` }] };
      const own = bySheet(sheet, request, ground.closed);
      return {
        ...none,
        priced: own.quotes.flatMap(q => this.priced(ground, serving, q)),
        dropped: own.dropped.map(d => ({ ...d, carrierName })),
      };
    }
    const answer = await carrier.quote(request);
    if (answer.kind === 'answered')
      return { ...none, priced: answer.value.flatMap(q => this.priced(ground, serving, q)) };
    return answer.kind === 'refused'
      ? { ...none, dropped: [{ carrierName, name: account.name, why: saidBy(carrierName, answer.why) }] }
      : { ...none, silent: [{ carrierName, why: answer.why }] };
  }

  private priced(ground: PriceGround, serving: ServingAccount, quote: CarrierQuote): Priced[] {
    const { code } = serving.carrier;
    if (ground.shut.has(`${code} ${quote.service}`)) return [];
    const houseMinor = convert(quote.minor, quote.currency, ground.house, ground.rates, ground.house);
    return [{ serving, quote, houseMinor, departure: departureOf(ground, code) }];
  }
}

/** Why a carrier that takes Latin letters only is not offered. */
const NOT_LATIN = 'it takes addresses in Latin letters only; give it so on the page of the order';

/** Why nothing is offered for a parcel that is to be insured for what is in it. */
const NO_WORTH =
  'a product in it has no value to be insured for; give it one on its page, or declare a value';

/** The options of one parcel: what is in it is declared, if that is more than what was typed. */
const insuredFor = ({ insured, ...options }: ServiceOptions, worthMinor: number | null): ServiceOptions =>
  insured ? { ...options, valueMinor: Math.max(options.valueMinor ?? 0, worthMinor ?? 0) } : options;

const departureOf = (ground: PriceGround, carrier: string): OpenDeparture | null =>
  nextDeparture(ground.open, carrier, ground.now.toISOString());

/** A refusal in the carrier's words, without its name before them. */
const saidBy = (carrier: string, why: string): string => why.replace(`${carrier} says: `, '');

/** The day on which a carrier takes the parcel: of its next departure, today where none is planned. */
export function collectedOn(
  { open, zone, now }: Pick<PriceGround, 'open' | 'zone' | 'now'>,
  carrier: string,
): string {
  const next = nextDeparture(open, carrier, now.toISOString());
  return daysAround(next ? new Date(next.cutOff) : now, zone).today;
}

/** Options with their money in another currency; null when no rate is known for it. */
function inCurrency(ground: PriceGround, options: ServiceOptions, currency: string): ServiceOptions | null {
  const { cashMinor, valueMinor, ...rest } = options;
  const [cash, value] = [cashMinor ?? 0, valueMinor ?? 0].map(m =>
    m === 0 ? 0 : convert(m, ground.house, currency, ground.rates, ground.house),
  ) as [number | null, number | null];
  if (cash === null || value === null) return null;
  return { ...rest, ...(cash > 0 && { cashMinor: cash }), ...(value > 0 && { valueMinor: value }) };
}

/** A parcel as the core rates it. */
export const ratedParcel = (request: Omit<CarrierParcel, 'shipDay'>): RatedParcel => ({
  size: request.size,
  weightMg: request.weightMg,
  from: zonePlace(request.from.country, request.from.postcode),
  to: zonePlace(request.to.country, request.to.postcode),
  residential: request.to.residential,
  options: request.options as object,
});

/** Prices of all services of a rate sheet, and which it does not give, with why. */
export function bySheet(
  sheet: RateSheet,
  request: CarrierParcel,
  closed: ReadonlySet<string>,
): { quotes: CarrierQuote[]; dropped: { name: string; why: string }[] } {
  const parcel = ratedParcel(request);
  const saturdays = request.options.saturday === true;
  const quotes: CarrierQuote[] = [];
  const dropped: { name: string; why: string }[] = [];
  for (const card of sheet.services) {
    const rated = rate(card, parcel);
    if (!rated.ok) dropped.push({ name: card.name, why: rated.problem });
    else
      quotes.push({
        ...rated.value,
        currency: sheet.currency,
        quoteId: `sheet ${sheet.from} ${card.service}`.slice(0, 80),
        arrives: addBusinessDays(request.shipDay, rated.value.days, { closed, saturdays }),
      });
  }
  return { quotes, dropped };
}
