import type { Payment } from '@auk/core';
import type { Sql } from '../database/db.js';
import type { LinePart } from '../records/linePart.entity.js';
import type { Order } from '../records/order.entity.js';
import { APART } from '../records/records.module.js';
import type { Shipment } from '../records/shipment.entity.js';

/** What of orders is still to be sent, by product; of a line with a parcel of its own by its key too. */
export function partsToSend(
  sql: Sql,
  orderIds: readonly string[],
): Promise<(Pick<LinePart, 'orderId' | 'productId' | 'quantity'> & { apart: string | null })[]> {
  return sql.rows(
    `SELECT p.orderId, p.productId, CAST(SUM(p.quantity - p.leftOut) AS SIGNED) AS quantity, IF(${APART}, l.lineKey, NULL) AS apart
     FROM linePart p JOIN orderLine l ON l.id = p.lineId JOIN shipment s ON s.orderId = p.orderId AND s.seq = 1 WHERE p.orderId IN (?) AND p.quantity > p.leftOut
     GROUP BY p.orderId, p.productId, apart ORDER BY p.orderId, p.productId, apart`,
    [orderIds],
  );
}

/** An order as services are compared for it. */
export function orderToSend(
  sql: Sql,
  orderId: string,
): Promise<
  | (Pick<
      Order,
      | 'id'
      | 'no'
      | 'channelNumber'
      | 'promised'
      | 'shippingMinor'
      | 'currency'
      | 'stage'
      | 'pickUpPoint'
      | 'totalMinor'
      | 'paidMinor'
    > & {
      shipTo: string;
      payment: Payment;
      latin: string | null;
    } & Pick<Shipment, 'chosen' | 'ruled'>)
  | null
> {
  return sql.one(
    `SELECT o.id, o.no, o.channelNumber, o.promised, o.shippingMinor, o.currency, o.stage, o.shipTo, o.pickUpPoint, o.payment, o.totalMinor, o.paidMinor, s.chosen, s.ruled,
       (SELECT CAST(l.address AS CHAR) FROM latinAddress l WHERE l.orderId = o.id AND l.ofAddress = SHA1(o.shipTo)) AS latin
     FROM orders o JOIN shipment s ON s.orderId = o.id AND s.seq = 1 WHERE o.id = ?`,
    [orderId],
  );
}
