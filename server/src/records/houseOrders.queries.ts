import type { Sql } from '../database/db.js';
import type { InboundPart } from '../inbound/inboundPart.entity.js';
import type { InboundShipment } from '../inbound/inboundShipment.entity.js';
import type { Build } from '../kits/build.entity.js';

export function buildOfOrder(sql: Sql, orderId: string): Promise<Pick<Build, 'no'> | null> {
  return sql.one('SELECT no FROM build WHERE orderId = ?', [orderId]);
}

/** The shipment to a center that an order is, with who carries it; null for all others. */
export type InboundOrder = Pick<InboundPart, 'id' | 'center' | 'placeId' | 'bookState'> &
  Pick<InboundShipment, 'no' | 'name'> & { theirs: number };

export function inboundOfOrder(sql: Sql, orderId: string): Promise<InboundOrder | null> {
  return sql.one(
    "SELECT p.id, p.center, p.placeId, p.bookState, s.no, s.name, JSON_VALUE(s.way, '$.rates') = 'theirs' AS theirs FROM inboundPart p JOIN inboundShipment s ON s.id = p.shipmentId WHERE p.orderId = ?",
    [orderId],
  );
}

/** Orders of buyers among some: those that are not the house's own. */
export function buyersAmong(
  sql: Sql,
  orderIds: readonly string[],
  own: readonly string[],
): Promise<{ id: string }[]> {
  return sql.rows(
    'SELECT o.id FROM orders o JOIN channel c ON c.id = o.channelId WHERE o.id IN (?) AND c.code NOT IN (?)',
    [orderIds, own],
  );
}

/** Where the goods of orders lie once they left, where that is a place of their own. */
export function awayOf(
  sql: Sql,
  orderIds: readonly string[],
): Promise<{ orderId: string; placeId: string }[]> {
  return sql.rows('SELECT orderId, placeId FROM inboundPart WHERE orderId IN (?) AND placeId IS NOT NULL', [
    orderIds,
  ]);
}
