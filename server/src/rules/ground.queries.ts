import type { Channel } from '../channels/channel.entity.js';
import type { Sql } from '../database/db.js';
import type { OrderTag } from '../orders/orderTag.entity.js';
import type { LinePart } from '../records/linePart.entity.js';
import type { Order } from '../records/order.entity.js';
import type { OrderLine } from '../records/orderLine.entity.js';
import type { Shipment } from '../records/shipment.entity.js';

/** What of an order rules may ask for, as it is stored. */
export type RuledHead = Pick<
  Order,
  | 'id'
  | 'channelNumber'
  | 'buyer'
  | 'mail'
  | 'payment'
  | 'currency'
  | 'linesMinor'
  | 'discountMinor'
  | 'shippingMinor'
  | 'totalMinor'
  | 'paidMinor'
  | 'promised'
  | 'note'
  | 'serviceAsked'
  | 'pickUpPoint'
  | 'leavesAt'
  | 'weightOverrideMg'
  | 'stage'
  | 'splitOfId'
> & { shipTo: string; channel: Channel['name']; parcels: number } & Pick<Shipment, 'chosen' | 'ruled'>;

/** Orders that rules are run on, with their channels and what is chosen for them. Drafts are none yet. */
export function ruledHeads(sql: Sql, ids: readonly string[]): Promise<RuledHead[]> {
  return sql.rows(
    `SELECT o.id, o.channelNumber, o.buyer, o.mail, o.payment, o.currency, o.linesMinor, o.discountMinor, o.shippingMinor, o.totalMinor, o.paidMinor, o.promised, o.note, o.serviceAsked, o.pickUpPoint, o.leavesAt, o.weightOverrideMg, o.stage, o.splitOfId, o.shipTo,
       c.name AS channel, s.chosen, s.ruled, (SELECT COUNT(*) FROM parcel p WHERE p.orderId = o.id) AS parcels
     FROM orders o JOIN channel c ON c.id = o.channelId JOIN shipment s ON s.orderId = o.id AND s.seq = 1 WHERE o.id IN (?) AND o.draftedAt IS NULL`,
    [ids],
  );
}

/** Lines of orders as they were sold, in their order. */
export function ruledLines(
  sql: Sql,
  ids: readonly string[],
): Promise<(Pick<OrderLine, 'id' | 'orderId' | 'lineKey' | 'quantity'> & { productId: string | null })[]> {
  return sql.rows(
    'SELECT id, orderId, lineKey, productId, quantity FROM orderLine WHERE orderId IN (?) AND removedAt IS NULL ORDER BY orderId, position',
    [ids],
  );
}

/** What is sent for each line, by product. */
export function ruledParts(
  sql: Sql,
  ids: readonly string[],
): Promise<Pick<LinePart, 'orderId' | 'lineId' | 'productId' | 'quantity'>[]> {
  return sql.rows(
    'SELECT orderId, lineId, productId, CAST(SUM(quantity - leftOut) AS SIGNED) AS quantity FROM linePart WHERE orderId IN (?) AND quantity > leftOut GROUP BY orderId, lineId, productId',
    [ids],
  );
}

export function ruledTags(sql: Sql, ids: readonly string[]): Promise<Pick<OrderTag, 'orderId' | 'tag'>[]> {
  return sql.rows('SELECT orderId, tag FROM orderTag WHERE orderId IN (?) ORDER BY orderId, tag', [ids]);
}

/** The version of an order that is to be changed. */
export async function orderVersion(sql: Sql, orderId: string): Promise<number> {
  const row = await sql.one<Pick<Order, 'version'>>('SELECT version FROM orders WHERE id = ?', [orderId]);
  return row?.version ?? 0;
}
