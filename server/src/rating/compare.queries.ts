import type { Sql } from '../database/db.js';
import type { LinePart } from '../records/linePart.entity.js';
import type { Order } from '../records/order.entity.js';
import type { Shipment } from '../records/shipment.entity.js';

/** What of an order is still to be sent, by product. */
export function partsToSend(sql: Sql, orderId: string): Promise<Pick<LinePart, 'productId' | 'quantity'>[]> {
  return sql.rows(
    `SELECT p.productId, CAST(SUM(p.quantity - p.leftOut) AS SIGNED) AS quantity FROM linePart p WHERE p.orderId = ? AND p.quantity > p.leftOut
     GROUP BY p.productId ORDER BY p.productId`,
    [orderId],
  );
}

/** An order as services are compared for it. */
export function orderToSend(
  sql: Sql,
  orderId: string,
): Promise<
  | (Pick<Order, 'id' | 'no' | 'channelNumber' | 'promised' | 'shippingMinor' | 'currency' | 'stage'> & {
      shipTo: string;
    } & Pick<Shipment, 'chosen'>)
  | null
> {
  return sql.one(
    `SELECT o.id, o.no, o.channelNumber, o.promised, o.shippingMinor, o.currency, o.stage, o.shipTo, s.chosen
     FROM orders o JOIN shipment s ON s.orderId = o.id AND s.seq = 1 WHERE o.id = ?`,
    [orderId],
  );
}
