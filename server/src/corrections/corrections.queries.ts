import type { Sql, Tx } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { PickList } from '../lists/pickList.entity.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { StockBalance } from '../stock/stockBalance.entity.js';

export interface SoftRow {
  partId: string;
  orderId: string;
  quantity: number;
  since: number;
}

export function stopsTaking(
  sql: Sql,
  productId: string,
  from: string,
  lotId: string,
): Promise<(Pick<PickStop, 'orderId'> & Pick<PickList, 'no'> & { state: string; picker: string | null })[]> {
  return sql.rows(
    `SELECT DISTINCT s.orderId, l.state, l.no, p.name AS picker FROM pickStop s JOIN pickList l ON l.id = s.listId JOIN allocation a ON a.partId = s.partId AND a.hold = 'listed' AND a.stopKey = s.id AND a.quantity > 0
       LEFT JOIN scanSession x ON x.listId = l.id LEFT JOIN person p ON p.id = x.personId
       WHERE s.productId = ? AND s.placeId = ? AND COALESCE(s.lotId, ?) = ? ORDER BY s.orderId`,
    [productId, from, NONE, lotId],
  );
}

/** The lists on which orders have or had something. */
export function listsOfOrders(
  sql: Sql,
  orderIds: readonly string[],
): Promise<{ listId: PickStop['listId'] }[]> {
  return sql.rows('SELECT DISTINCT listId FROM pickStop WHERE orderId IN (?)', [orderIds]);
}

export function lockBalance(
  tx: Tx,
  productId: string,
  from: string,
  lotId: string,
): Promise<Pick<StockBalance, 'onHand' | 'listed'> | null> {
  return tx.one(
    'SELECT onHand, listed FROM stockBalance WHERE productId = ? AND placeId = ? AND lotKey = ? FOR UPDATE',
    [productId, from, lotId],
  );
}

export function expiredLot(sql: Sql, lotId: string): Promise<unknown | null> {
  return sql.one('SELECT id FROM lot WHERE id = ? AND expiredAt IS NOT NULL', [lotId]);
}

export function promisesOf(sql: Sql, productId: string): Promise<SoftRow[]> {
  return sql.rows(
    `SELECT a.partId, a.orderId, a.quantity, (SELECT MAX(e.id) FROM allocationEntry e WHERE e.partId = a.partId AND e.hold = 'soft' AND e.quantity > 0) AS since
       FROM allocation a JOIN linePart p ON p.id = a.partId WHERE p.productId = ? AND a.hold = 'soft' AND a.quantity > 0`,
    [productId],
  );
}
