import { type Held, whyHeld } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Sql } from '../database/db.js';
import { Forbidden } from '../http/problem.js';
import { heldParcels, holdFacts, openStops } from './held.queries.js';

/** A parcel in the house whose order is held back. */
export interface HeldParcel extends Held {
  no: number;
  orderId: string;
}

/** Whether an order whose goods are packed may still get a label and leave. */
@Injectable()
export class HeldOrders {
  /** Those of some orders that are held back, with why. */
  async among(sql: Sql, orderIds: readonly string[]): Promise<Map<string, Held>> {
    const held = new Map<string, Held>();
    if (orderIds.length === 0) return held;
    const ids = [...new Set(orderIds)];
    const orders = await holdFacts(sql, ids);
    const stops = await openStops(sql, ids);
    for (const o of orders) {
      const why = whyHeld({
        number: o.number,
        cancelled: !!o.cancelled,
        parked: !!o.parked,
        parkedReason: o.parkedReason ?? '',
        payment: o.payment,
        unbooked: o.unbooked,
        stops: stops.filter(s => s.orderId === o.id),
      });
      if (why) held.set(o.id, why);
    }
    return held;
  }

  /** Refuses an act on a parcel whose order is held back. Called with the order locked, it stays true until the transaction ends. */
  async refuse(sql: Sql, orderId: string, parcelNo: number): Promise<void> {
    const why = (await this.among(sql, [orderId])).get(orderId);
    if (why) throw new Forbidden(`PA-${parcelNo} must not go: ${why.says}`, why.cure, { held: true });
  }

  /** Packed parcels in the house whose orders are held back, oldest first. */
  async parcels(sql: Sql, most: number): Promise<HeldParcel[]> {
    const rows = await heldParcels(sql, most);
    const why = await this.among(
      sql,
      rows.map(r => r.orderId),
    );
    return rows.flatMap(r => {
      const held = why.get(r.orderId);
      return held ? [{ ...r, ...held }] : [];
    });
  }
}
