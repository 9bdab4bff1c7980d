import { type CarrierParcel, type OffersView, type OfferView } from '@auk/contract';
import { type Address, nextDeparture, rankOffers } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, fromJson } from '../database/db.js';
import { daysAround, HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { type ParcelRow, ParcelsQueries } from '../parcels/parcels.module.js';
import { HeldOrders } from '../records/records.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';

/** Asks all carriers for prices and puts the services in the order of choice. */
@Injectable()
export class RatingService {
  constructor(
    private readonly db: Db,
    private readonly parcels: ParcelsQueries,
    private readonly planner: DeparturePlanner,
    private readonly house: HouseService,
    private readonly held: HeldOrders,
    private readonly carriers: CarrierRegistry,
  ) {}

  /** Services for a closed parcel, the cheapest that keeps the promised day first; a silent carrier is named and leaves the others be. */
  async offers(no: number, now: Date): Promise<OffersView> {
    const parcel = await this.parcels.parcel(this.db, no);
    if (!parcel) throw new NotHere(`The parcel PA-${no}`);
    await this.held.refuse(this.db, parcel.orderId, no);
    const request = await this.request(parcel, now);
    const open = await this.planner.open(this.db, now);
    const asked = await Promise.all(
      this.carriers.all().map(async c => ({ carrier: c, answer: await c.quote(request) })),
    );
    const offers = asked.flatMap(({ carrier, answer }): Omit<OfferView, 'keeps'>[] => {
      if (answer.kind !== 'answered') return [];
      const next = nextDeparture(open, carrier.code, now.toISOString());
      return answer.value.map(q => ({
        ...q,
        carrier: carrier.code,
        carrierName: carrier.name,
        currency: 'USD',
        departure: next && { id: next.id, cutOff: next.cutOff },
      }));
    });
    const silent = asked.flatMap(({ carrier, answer }) =>
      answer.kind === 'answered' ? [] : [{ carrierName: carrier.name, why: answer.why }],
    );
    return {
      offers: rankOffers(offers, parcel.promised),
      silent,
      promised: parcel.promised,
      paidMinor: parcel.shippingMinor,
      currency: parcel.currency,
    };
  }

  /** What a carrier is told of a parcel. Refused while it has no box or weight. */
  async request(parcel: ParcelRow, now: Date): Promise<CarrierParcel> {
    if (parcel.closedAt && !parcel.weightMg)
      throw new Forbidden(
        `PA-${parcel.no} was only checked: it has no weight.`,
        'Open it again at a bench that weighs, and close it there.',
      );
    if (!parcel.closedAt || !parcel.boxCode || !parcel.weightMg)
      throw new Forbidden(
        `PA-${parcel.no} is not closed yet.`,
        'Pack it, choose a box and give its weight first.',
      );
    const { postcode, country, zone } = await this.house.warehouse(this.db);
    const to = fromJson<Address>(parcel.shipTo);
    return {
      from: { postcode, country },
      to: { postcode: to.postcode, country: to.country, residential: to.company === '' },
      size: { length: parcel.length, width: parcel.width, height: parcel.height },
      weightMg: parcel.weightMg,
      shipDay: daysAround(now, zone).today,
    };
  }
}
