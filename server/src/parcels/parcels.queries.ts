import type { LabelView, ParcelListRow } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Sql } from '../database/db.js';
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
      `SELECT c.id, c.no, c.orderId, o.channelNumber, o.shipTo, o.promised, o.shippingMinor, o.currency, c.boxCode, c.weightMg, c.closedAt, c.departedAt, b.length, b.width, b.height, s.chosen
       FROM parcel c JOIN orders o ON o.id = c.orderId LEFT JOIN shipment s ON s.id = c.shipmentId LEFT JOIN box b ON b.code = c.boxCode WHERE c.no = ?`,
      [no],
    );
  }

  /** The label of a parcel: the live purchase, or the last refused one. */
  async label(parcelId: string): Promise<LabelView | null> {
    const row = await this.db.one<Omit<LabelView, 'service' | 'pdf'> & { serviceName: string; no: number }>(
      `SELECT b.state, b.carrierName, b.serviceName, COALESCE(b.chargedMinor, b.minor) AS minor, b.currency, b.tracking, b.why, b.arrives, c.no
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

  /** Parcels in the house and those that left today, newest first. */
  async list(): Promise<ParcelListRow[]> {
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
         COALESCE(b.chargedMinor, b.minor) AS minor, o.currency, c.weightMg, x.name AS box, CONCAT(d.carrierName, ', ', d.name) AS departure, b.why
       FROM parcel c JOIN orders o ON o.id = c.orderId LEFT JOIN label b ON b.liveParcel = c.id LEFT JOIN box x ON x.code = c.boxCode LEFT JOIN departure d ON d.id = c.departureId
       WHERE c.departedAt IS NULL OR c.departedAt > NOW() - INTERVAL 12 HOUR ORDER BY c.departedAt IS NOT NULL, c.no DESC LIMIT 300`,
    );
    return rows.map(({ no, orderNo, closedAt, departedAt, handedOverAt, labelState, ...r }) => ({
      ...r,
      no: `PA-${no}`,
      order: `OR-${orderNo}`,
      state: parcelState({ closedAt, handedOverAt, departedAt, label: labelState }),
    }));
  }
}
