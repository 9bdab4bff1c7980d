import type { ElsewhereLabel, LabelView } from '@auk/contract';
import { labelHolds } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { type Carrier, CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, isDuplicate, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { type ParcelRow, ParcelsQueries } from '../parcels/parcels.module.js';
import {
  event,
  HeldOrders,
  lockOrders,
  refreshStages,
  refuseTheirs,
  toHistory,
} from '../records/records.module.js';
import { Label } from './label.entity.js';
import { labelByKeyOrParcel, lockParcel, parcelWithTracking, refuseKeyOfAnother } from './labels.queries.js';
import { Labels } from './labels.service.js';

/** Labels that were bought somewhere else: their number is typed in, and the parcel leaves with that carrier. */
@Injectable()
export class ElsewhereLabels {
  constructor(
    private readonly db: Db,
    private readonly parcels: ParcelsQueries,
    private readonly carriers: CarrierRegistry,
    private readonly held: HeldOrders,
    private readonly house: HouseService,
    private readonly labels: Labels,
  ) {}

  /** Types one in; twice under one key is once. */
  async type(no: number, wish: ElsewhereLabel, doer: Doer): Promise<LabelView> {
    const seen = await this.parcels.parcel(this.db, no);
    if (!seen) throw new NotHere(`The parcel PA-${no}`);
    const carrier = await this.carriers.get(wish.carrier);
    if (!carrier) throw new NotHere(`The carrier ${wish.carrier}`, 'Connect it under Setup > Carriers.');
    try {
      await this.db.tx(doer, async tx => {
        await lockOrders(tx, [seen.orderId]);
        await lockParcel(tx, seen.id);
        const parcel = (await this.parcels.parcel(tx, no))!;
        if (!(await this.isKnown(tx, parcel, wish.key))) await this.keep(tx, parcel, carrier, wish);
      });
    } catch (error) {
      if (!isDuplicate(error)) throw error;
      throw new TooLate(
        `${wish.tracking} was given to another parcel at this moment.`,
        'Type the number that stands on this label.',
      );
    }
    return (await this.parcels.label(seen.id))!;
  }

  /** Writes a label that was bought elsewhere; `carrier` is empty where it is none that Auk speaks with. */
  async put(
    tx: Tx,
    label: Pick<
      Label,
      'id' | 'parcelId' | 'carrier' | 'carrierName' | 'serviceName' | 'minor' | 'arrives' | 'tracking'
    >,
  ): Promise<void> {
    const { currency } = await this.house.warehouse(tx);
    await tx.insert(Label, [
      {
        ...label,
        state: 'bought',
        service: 'elsewhere',
        chargedMinor: label.minor,
        currency,
        request: '{}',
        routing: '',
        personId: tx.personId,
        intendedAt: tx.at,
        askedAt: tx.at,
        answeredAt: tx.at,
        elsewhere: true,
      },
    ]);
  }

  /** True when this very label is there already; refused when another is. */
  private async isKnown(tx: Tx, parcel: ParcelRow, key: string): Promise<boolean> {
    const known = await labelByKeyOrParcel(tx, key, parcel.id, false);
    refuseKeyOfAnother(known, key, parcel.id, false);
    if (known?.id === key) return true;
    if (known && labelHolds(known.state))
      throw new TooLate(
        `PA-${parcel.no} has a label already.`,
        'Void it first, or look at the parcel again.',
      );
    return false;
  }

  private async keep(tx: Tx, parcel: ParcelRow, carrier: Carrier, wish: ElsewhereLabel): Promise<void> {
    const { key: id, service: serviceName, tracking, minor, arrives } = wish;
    const { no, orderId } = parcel;
    if (!parcel.closedAt)
      throw new Forbidden(`PA-${no} is not closed yet.`, 'Pack it, choose a box and give its weight first.');
    await refuseTheirs(tx, orderId, no);
    await this.held.refuse(tx, orderId, no);
    const other = await parcelWithTracking(tx, id, `${carrier.code} ${tracking}`);
    if (other)
      throw new Forbidden(
        `${tracking} is the number of PA-${other.no}.`,
        'Type the number that stands on this label.',
      );
    await this.put(tx, {
      id,
      parcelId: parcel.id,
      carrier: carrier.code,
      carrierName: carrier.name,
      serviceName,
      minor,
      arrives,
      tracking,
    });
    await this.labels.leave(tx, { parcelId: parcel.id, orderId, carrier: carrier.code });
    const says = `Label bought elsewhere: ${carrier.name}, ${serviceName}, ${tracking}.`;
    await toHistory(tx, [event(tx, orderId, 'labelled', says)]);
    await refreshStages(tx, [orderId]);
    await tx.tell('parcels', parcel.id);
  }
}
