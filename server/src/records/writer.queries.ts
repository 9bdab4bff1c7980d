import type { Row, Sql, Tx } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { Allocation } from '../stock/allocation.entity.js';
import type { Order } from './order.entity.js';
import type { OrderLine } from './orderLine.entity.js';

export function removeLines(tx: Tx, at: Date, ids: readonly string[]): Promise<number> {
  return tx.run("UPDATE orderLine SET removedAt = ?, lineKey = CONCAT('gone ', id) WHERE id IN (?)", [
    at,
    ids,
  ]);
}

/** Units that parts hold: promised only, and further on. */
export function heldOfParts(
  sql: Sql,
  ids: readonly string[],
): Promise<(Pick<Allocation, 'partId'> & { soft: number; further: number })[]> {
  return sql.rows(
    "SELECT partId, CAST(SUM(IF(hold = 'soft', quantity, 0)) AS INT) AS soft, CAST(SUM(IF(hold = 'soft', 0, quantity)) AS INT) AS further FROM allocation WHERE partId IN (?) AND quantity > 0 GROUP BY partId",
    [[...ids, NONE]],
  );
}

export function setWanted(tx: Tx, p: number, pId: string): Promise<number> {
  return tx.run('UPDATE linePart SET quantity = ?, leftOut = LEAST(leftOut, ?), made = 0 WHERE id = ?', [
    p,
    p,
    pId,
  ]);
}

/** Parts may be left out as their line says, and where it says nothing, as their products do. */
export function fitOptional(tx: Tx, orderIds: readonly string[]): Promise<number> {
  return tx.run(
    "UPDATE linePart t JOIN orderLine l ON l.id = t.lineId JOIN product p ON p.id = COALESCE(t.kitId, t.productId) SET t.optional = COALESCE(l.leaveOut = 'yes', JSON_VALUE(p.facts, '$.optional') = 1, FALSE) WHERE t.orderId IN (?)",
    [[...orderIds, NONE]],
  );
}

export function firstShipment(sql: Sql, orderId: string): Promise<{ shipmentId: string } | null> {
  return sql.one('SELECT id AS shipmentId FROM shipment WHERE orderId = ? AND seq = 1', [orderId]);
}

export function bumpVersion(tx: Tx, orderId: string): Promise<number> {
  return tx.run('UPDATE orders SET version = version + 1 WHERE id = ?', [orderId]);
}

export async function lockOpenWithListing(tx: Tx, listingId: string): Promise<Pick<Order, 'id'>[]> {
  return tx.holding(
    'orders',
    await tx.rows<Pick<Order, 'id'>>(
      'SELECT DISTINCT o.id FROM orders o JOIN orderLine l ON l.orderId = o.id WHERE l.listingId = ? AND l.productId IS NULL AND l.removedAt IS NULL AND o.isOpen ORDER BY o.id FOR UPDATE',
      [listingId],
    ),
  );
}

export function linesToLink(
  sql: Sql,
  listingId: string,
  orderIds: readonly string[],
): Promise<(Pick<OrderLine, 'id' | 'orderId' | 'quantity'> & { shipmentId: string })[]> {
  return sql.rows(
    `SELECT l.id, l.orderId, l.quantity, s.id AS shipmentId FROM orderLine l JOIN shipment s ON s.orderId = l.orderId AND s.seq = 1
       WHERE l.listingId = ? AND l.orderId IN (?) AND l.productId IS NULL AND l.removedAt IS NULL`,
    [listingId, [...orderIds, NONE]],
  );
}

export function lastPosition(sql: Sql, orderId: string): Promise<{ last: number | null } | null> {
  return sql.one('SELECT MAX(position) AS last FROM orderLine WHERE orderId = ?', [orderId]);
}

/** Sets columns of an order, and that it is another version now. */
export function updateHead(tx: Tx, id: string, columns: Row): Promise<number> {
  const set = Object.keys(columns)
    .map(c => `${c} = ?`)
    .join(', ');
  return tx.run(`UPDATE orders SET ${set}, version = version + 1 WHERE id = ?`, [
    ...Object.values(columns),
    id,
  ]);
}
