import { type Payment } from '@auk/core';
import type { Sql } from '../database/db.js';
import type { StopReason } from '../intake/stopReason.entity.js';
import type { Parcel } from '../parcels/parcel.entity.js';

export interface Facts {
  id: string;
  number: string;
  cancelled: number;
  parked: number;
  parkedReason: string | null;
  payment: Payment;
  /** The shipment to a center that it is and that is not booked there; null for all others. */
  unbooked: string | null;
}

export function holdFacts(sql: Sql, ids: readonly string[]): Promise<Facts[]> {
  return sql.rows(
    `SELECT id, channelNumber AS number, cancelledAt IS NOT NULL AS cancelled, parkedAt IS NOT NULL AS parked, parkedReason, payment,
       (SELECT CONCAT('IN-', s.no, ' at ', p.center) FROM inboundPart p JOIN inboundShipment s ON s.id = p.shipmentId WHERE p.orderId = orders.id AND p.bookState <> 'booked') AS unbooked FROM orders WHERE id IN (?)`,
    [ids],
  );
}

export function openStops(
  sql: Sql,
  ids: readonly string[],
): Promise<Pick<StopReason, 'orderId' | 'says' | 'cure'>[]> {
  return sql.rows(
    'SELECT orderId, says, cure FROM stopReason WHERE orderId IN (?) AND liftedAt IS NULL ORDER BY raisedAt, id',
    [ids],
  );
}

export function heldParcels(sql: Sql, most: number): Promise<Pick<Parcel, 'no' | 'orderId'>[]> {
  return sql.rows(
    `SELECT c.no, c.orderId FROM parcel c JOIN orders o ON o.id = c.orderId WHERE c.departedAt IS NULL AND (c.closedAt IS NOT NULL OR EXISTS (SELECT 1 FROM label b WHERE b.liveParcel = c.id))
       AND (o.cancelledAt IS NOT NULL OR o.parkedAt IS NOT NULL OR o.payment = 'refunded' OR EXISTS (SELECT 1 FROM stopReason s WHERE s.orderId = o.id AND s.liftedAt IS NULL)) ORDER BY c.no LIMIT ?`,
    [most],
  );
}
