import type { Sql } from '../database/db.js';
import type { Label } from '../labels/label.entity.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { Box } from '../products/box.entity.js';
import type { Order } from '../records/order.entity.js';
import type { Place } from '../stock/place.entity.js';
import { PROMISED_KINDS } from '../stock/stock.module.js';

export interface PaperOrder {
  channel: string;
  brand: string;
  sender: string;
  home: string;
  /** What rules decided for it. */
  ruled: string | null;
}

export interface LabelToPrint extends Pick<Label, 'carrierName' | 'serviceName' | 'picture'> {
  no: number;
  channelNumber: Order['channelNumber'];
  tracking: string;
  routing: string;
  weightMg: number;
  shipTo: string;
  pickUpPoint: string;
  sender: string;
  answeredAt: Date;
}

/** A parcel as customs see it: its number among those of its order, its weight and label, and what is in which parcel of the order. */
export interface ParcelAbroad {
  id: string;
  no: number;
  orderId: string;
  weightMg: number | null;
  carrierName: string | null;
  tracking: string | null;
}

export function parcelAbroad(sql: Sql, no: number): Promise<ParcelAbroad | null> {
  return sql.one(
    'SELECT c.id, c.no, c.orderId, c.weightMg, b.carrierName, b.tracking FROM parcel c LEFT JOIN label b ON b.liveParcel = c.id WHERE c.no = ?',
    [no],
  );
}

/** Units of the parts of an order in each of its parcels, parcels in their order. */
export function unitsByParcel(
  sql: Sql,
  orderId: string,
): Promise<{ parcelId: string; partId: string; n: number }[]> {
  return sql.rows(
    'SELECT c.id AS parcelId, a.partId, CAST(SUM(a.quantity) AS SIGNED) AS n FROM parcel c JOIN allocation a ON a.parcelKey = c.id AND a.quantity > 0 WHERE c.orderId = ? GROUP BY c.id, a.partId ORDER BY c.seq',
    [orderId],
  );
}

/** Bought labels of some parcels, as they are printed; those that were bought elsewhere have none here. */
export function labelsToPrint(
  sql: Sql,
  nos: readonly number[],
  live: 'liveParcel' | 'liveReturn' = 'liveParcel',
): Promise<LabelToPrint[]> {
  return sql.rows(
    `SELECT c.no, b.carrierName, b.serviceName, b.picture, b.tracking, b.routing, c.weightMg, o.shipTo, o.pickUpPoint, h.sender, o.channelNumber, b.answeredAt FROM parcel c
       JOIN orders o ON o.id = c.orderId JOIN channel h ON h.id = o.channelId JOIN label b ON b.${live} = c.id AND b.state = 'bought' AND NOT b.elsewhere WHERE c.no IN (?)`,
    [nos],
  );
}

export function paperOrder(sql: Sql, orderId: string): Promise<PaperOrder | null> {
  return sql.one(
    'SELECT h.code AS channel, h.brand, h.sender, w.country AS home, s.ruled FROM orders o JOIN channel h ON h.id = o.channelId JOIN warehouse w ON w.id = o.warehouseId JOIN shipment s ON s.orderId = o.id AND s.seq = 1 WHERE o.id = ?',
    [orderId],
  );
}

export function placesToWalk(
  sql: Sql,
  orderId: string,
): Promise<(Pick<PickStop, 'productId'> & Pick<Place, 'code'>)[]> {
  return sql.rows(
    `SELECT s.productId, p.code, p.walk FROM pickStop s JOIN place p ON p.id = s.placeId WHERE s.orderId = ?
       UNION SELECT b.productId, p.code, p.walk FROM linePart t JOIN stockBalance b ON b.productId = t.productId AND b.onHand > 0 JOIN place p ON p.id = b.placeId AND p.kind IN (${PROMISED_KINDS})
         WHERE t.orderId = ? AND NOT EXISTS (SELECT 1 FROM pickStop s WHERE s.orderId = t.orderId AND s.productId = t.productId) ORDER BY walk`,
    [orderId, orderId],
  );
}

export function boxesByCode(sql: Sql): Promise<Pick<Box, 'code' | 'name' | 'length' | 'width' | 'height'>[]> {
  return sql.rows('SELECT code, name, length, width, height FROM box ORDER BY code');
}
