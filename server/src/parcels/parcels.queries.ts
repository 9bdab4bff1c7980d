import type { Charge, LabelView, ParcelListRow, ParcelView } from '@auk/contract';
import { type Address, addressLines, formatMoney } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, type Sql } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { parcelState } from './parcelState.js';

/** One parcel with what its label and rating need. */
export interface ParcelRow {
  id: string;
  no: number;
  orderId: string;
  channelNumber: string;
  shipTo: string;
  promised: string | null;
  shippingMinor: number;
  currency: string;
  boxCode: string | null;
  boxName: string | null;
  weightMg: number | null;
  closedAt: Date | null;
  departedAt: Date | null;
  length: number;
  width: number;
  height: number;
  /** The service that a person chose for its order. */
  chosen: string | null;
}

/** Reads of parcels and their labels. */
@Injectable()
export class ParcelsQueries {
  constructor(private readonly db: Db) {}

  parcel(sql: Sql, no: number): Promise<ParcelRow | null> {
    return sql.one(
      `SELECT c.id, c.no, c.orderId, o.channelNumber, o.shipTo, o.promised, o.shippingMinor, o.currency, c.boxCode, c.weightMg, c.closedAt, c.departedAt, b.name AS boxName, b.length, b.width, b.height, s.chosen
       FROM parcel c JOIN orders o ON o.id = c.orderId LEFT JOIN shipment s ON s.id = c.shipmentId LEFT JOIN box b ON b.code = c.boxCode WHERE c.no = ?`,
      [no],
    );
  }

  /** The label of a parcel: the live purchase, or the last refused one. */
  async label(parcelId: string): Promise<LabelView | null> {
    const row = await this.db.one<Omit<LabelView, 'service' | 'pdf'> & { serviceName: string; no: number }>(
      `SELECT b.id, b.state, b.carrierName, b.serviceName, COALESCE(b.chargedMinor, b.minor) AS minor, b.currency, b.tracking, b.why, b.arrives, c.no
       FROM label b JOIN parcel c ON c.id = b.parcelId WHERE b.parcelId = ? ORDER BY b.liveParcel IS NULL, b.intendedAt DESC LIMIT 1`,
      [parcelId],
    );
    if (!row) return null;
    const { serviceName, no, ...label } = row;
    return {
      ...label,
      service: serviceName,
      pdf: row.state === 'bought' ? `/api/v1/parcels/PA-${no}/label.pdf` : null,
    };
  }

  /** Parcels in the house and those that left in the last hours, newest first. */
  list(): Promise<ParcelListRow[]> {
    return this.rows('c.departedAt IS NULL OR c.departedAt > NOW() - INTERVAL 12 HOUR', []);
  }

  private async rows(which: string, params: unknown[]): Promise<ParcelListRow[]> {
    const rows = await this.db.rows<
      Omit<ParcelListRow, 'no' | 'order' | 'state'> & {
        no: number;
        orderNo: number;
        closedAt: Date | null;
        departedAt: Date | null;
        handedOverAt: Date | null;
        labelState: string | null;
      }
    >(
      `SELECT c.no, o.no AS orderNo, o.channelNumber, o.buyer, c.closedAt, c.departedAt, c.handedOverAt, b.state AS labelState, b.carrierName AS carrier, b.serviceName AS service, b.tracking,
         COALESCE(b.chargedMinor, b.minor) AS minor, COALESCE(b.currency, o.currency) AS currency, c.weightMg, x.name AS box, CONCAT(d.carrierName, ', ', d.name) AS departure, b.why
       FROM parcel c JOIN orders o ON o.id = c.orderId LEFT JOIN label b ON b.liveParcel = c.id LEFT JOIN box x ON x.code = c.boxCode LEFT JOIN departure d ON d.id = c.departureId
       WHERE ${which} ORDER BY c.departedAt IS NOT NULL, c.no DESC LIMIT 300`,
      params,
    );
    return rows.map(({ no, orderNo, closedAt, departedAt, handedOverAt, labelState, ...r }) => ({
      ...r,
      no: `PA-${no}`,
      order: `OR-${orderNo}`,
      state: parcelState({ closedAt, handedOverAt, departedAt, label: labelState }),
    }));
  }

  /** One parcel with its address, what is in it, and what was bought for it. */
  async view(no: number): Promise<ParcelView> {
    const [row] = await this.rows('c.no = ?', [no]);
    if (!row) throw new NotHere(`The parcel PA-${no}`);
    const order = (await this.parcel(this.db, no))!;
    const contents = await this.db.rows<ParcelView['contents'][number]>(
      `SELECT p.sku, p.name, CAST(SUM(a.quantity) AS SIGNED) AS quantity FROM allocation a JOIN product p ON p.id = a.productId
       WHERE a.parcelKey = ? AND a.quantity > 0 GROUP BY p.sku, p.name ORDER BY p.sku`,
      [order.id],
    );
    const labels = await this.db.rows<LabelOfParcel>(
      `SELECT b.state, b.carrierName, b.serviceName AS service, COALESCE(b.chargedMinor, b.minor) AS minor, b.refundMinor, b.currency, b.charges, b.zone, b.billable, b.arrives, b.elsewhere, b.why, b.tracking,
         b.liveParcel FROM label b WHERE b.parcelId = ? ORDER BY b.intendedAt DESC LIMIT 20`,
      [order.id],
    );
    const live = labels.find(l => l.liveParcel !== null);
    return {
      ...row,
      orderId: order.orderId,
      address: addressLines(fromJson<Address>(order.shipTo)),
      contents,
      promised: order.promised,
      label: live
        ? {
            state: live.state,
            carrierName: live.carrierName,
            service: live.service,
            minor: live.minor,
            currency: live.currency,
            charges: live.charges ? fromJson<Charge[]>(live.charges) : [],
            zone: live.zone,
            billable: live.billable,
            arrives: live.arrives,
            elsewhere: !!live.elsewhere,
            why: live.why,
          }
        : null,
      before: labels.filter(l => l !== live).map(l => ({ state: l.state, says: becameOf(l) })),
    };
  }
}

interface LabelOfParcel {
  state: string;
  carrierName: string;
  service: string;
  minor: number;
  refundMinor: number | null;
  currency: string;
  charges: string | null;
  zone: string | null;
  billable: string | null;
  arrives: string;
  elsewhere: number;
  why: string | null;
  tracking: string | null;
  liveParcel: string | null;
}

function becameOf(l: LabelOfParcel): string {
  const what = `${l.carrierName}, ${l.service}, ${formatMoney(l.minor, l.currency)}`;
  return l.state === 'voided'
    ? `${what}: given back${l.refundMinor ? `, ${formatMoney(l.refundMinor, l.currency)} came back` : ''}.`
    : `${what}: ${l.state}. ${l.why ?? ''}`.trim();
}
