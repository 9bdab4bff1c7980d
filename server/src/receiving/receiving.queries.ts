import type { Sql, Tx } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { ScanSession } from '../scans/scanSession.entity.js';
import type { Lot } from '../stock/lot.entity.js';
import type { Place } from '../stock/place.entity.js';
import type { PurchaseOrder } from './purchaseOrder.entity.js';
import { type PurchaseOrderRecord } from './purchaseOrders.service.js';

export const FREED_SHOWN = 12;

export function sessionOf(sql: Sql, orderId: string): Promise<Pick<ScanSession, 'id'> | null> {
  return sql.one('SELECT id FROM scanSession WHERE purchaseOrderId = ?', [orderId]);
}

export function receivingRow(
  sql: Sql,
  sessionId: string,
): Promise<
  | ({ state: string } & Omit<PurchaseOrderRecord, 'state'> & { orderState: PurchaseOrderRecord['state'] })
  | null
> {
  return sql.one(
    `SELECT x.state, o.id, o.no, o.reference, CAST(o.expected AS CHAR) AS expected, o.state AS orderState FROM scanSession x JOIN purchaseOrder o ON o.id = x.purchaseOrderId WHERE x.id = ?`,
    [sessionId],
  );
}

export function freedBy(
  sql: Sql,
  text: string,
): Promise<Pick<Order, 'id' | 'no' | 'channelNumber' | 'buyer'>[]> {
  return sql.rows(
    "SELECT DISTINCT o.id, o.no, o.channelNumber, o.buyer, o.leavesAt FROM orderEvent e JOIN orders o ON o.id = e.orderId AND o.stage = 'Clear' WHERE e.kind = 'freed by goods' AND e.says LIKE ? ORDER BY o.leavesAt IS NULL, o.leavesAt, o.no LIMIT ?",
    [text, FREED_SHOWN],
  );
}

export function lockOrderOfSession(
  tx: Tx,
  sessionId: string,
): Promise<(Pick<PurchaseOrder, 'id' | 'no'> & { state: string }) | null> {
  return tx.one(
    'SELECT o.id, o.no, o.state FROM purchaseOrder o JOIN scanSession x ON x.purchaseOrderId = o.id WHERE x.id = ? FOR UPDATE',
    [sessionId],
  );
}

export function addReceived(tx: Tx, units: number, lineId: string): Promise<number> {
  return tx.run('UPDATE purchaseLine SET received = received + ? WHERE id = ?', [units, lineId]);
}

export function clearAmong(sql: Sql, served: readonly string[]): Promise<Pick<Order, 'id'>[]> {
  return sql.rows("SELECT id FROM orders WHERE id IN (?) AND stage = 'Clear'", [served]);
}

export function placeToFill(
  sql: Sql,
  code: string,
): Promise<(Pick<Place, 'id' | 'code' | 'capacity'> & { kind: string; lies: number }) | null> {
  return sql.one(
    'SELECT p.id, p.code, p.kind, p.capacity, (SELECT CAST(COALESCE(SUM(b.onHand), 0) AS INT) FROM stockBalance b WHERE b.placeId = p.id) AS lies FROM place p WHERE p.code = ?',
    [code],
  );
}

export function lockUnlisted(
  tx: Tx,
  productId: string,
  from: string,
  lotId: string,
): Promise<{ n: number } | null> {
  return tx.one(
    'SELECT onHand - listed AS n FROM stockBalance WHERE productId = ? AND placeId = ? AND lotKey = ? FOR UPDATE',
    [productId, from, lotId],
  );
}

export function lotsOf(
  sql: Sql,
  ids: readonly string[],
): Promise<Pick<Lot, 'productId' | 'code' | 'expiry'>[]> {
  return sql.rows(
    'SELECT productId, code, CAST(expiry AS CHAR) AS expiry FROM lot WHERE productId IN (?) ORDER BY code',
    [ids],
  );
}
