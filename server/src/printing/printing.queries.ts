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
}

export interface LabelToPrint extends Pick<Label, 'carrierName' | 'serviceName' | 'picture'> {
  no: number;
  channelNumber: Order['channelNumber'];
  tracking: string;
  routing: string;
  weightMg: number;
  shipTo: string;
  sender: string;
  answeredAt: Date;
}

/** Bought labels of some parcels, as they are printed; those that were bought elsewhere have none here. */
export function labelsToPrint(sql: Sql, nos: readonly number[]): Promise<LabelToPrint[]> {
  return sql.rows(
    `SELECT c.no, b.carrierName, b.serviceName, b.picture, b.tracking, b.routing, c.weightMg, o.shipTo, h.sender, o.channelNumber, b.answeredAt FROM parcel c
       JOIN orders o ON o.id = c.orderId JOIN channel h ON h.id = o.channelId JOIN label b ON b.liveParcel = c.id AND b.state = 'bought' AND NOT b.elsewhere WHERE c.no IN (?)`,
    [nos],
  );
}

export function paperOrder(sql: Sql, orderId: string): Promise<PaperOrder | null> {
  return sql.one(
    'SELECT h.code AS channel, h.brand, h.sender, w.country AS home FROM orders o JOIN channel h ON h.id = o.channelId JOIN warehouse w ON w.id = o.warehouseId WHERE o.id = ?',
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
