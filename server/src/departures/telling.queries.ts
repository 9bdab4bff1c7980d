import type { Sql } from '../database/db.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { Order } from '../records/order.entity.js';

export interface Told {
  orderId: string;
  channelId: string;
  channel: string;
  channelNumber: string;
  carrier: string;
  tracking: string;
}

export function channelsOfParcels(
  sql: Sql,
  parcelIds: readonly string[],
): Promise<(Pick<Parcel, 'id'> & Pick<Order, 'channelId'>)[]> {
  return sql.rows(
    'SELECT c.id, o.channelId FROM parcel c JOIN orders o ON o.id = c.orderId WHERE c.id IN (?)',
    [parcelIds],
  );
}

export function whatToTell(sql: Sql, parcelId: string): Promise<Told[]> {
  return sql.rows(
    `SELECT o.id AS orderId, h.id AS channelId, h.code AS channel, COALESCE(r.channelNumber, o.channelNumber) AS channelNumber, b.carrierName AS carrier, b.tracking
       FROM parcel c JOIN orders o ON o.id = c.orderId OR o.mergedIntoId = c.orderId LEFT JOIN orders r ON r.id = o.splitOfId
       JOIN channel h ON h.id = o.channelId JOIN label b ON b.liveParcel = c.id WHERE c.id = ? ORDER BY o.no`,
    [parcelId],
  );
}
