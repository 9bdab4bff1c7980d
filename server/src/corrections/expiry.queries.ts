import type { Sql, Tx } from '../database/db.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { Lot } from '../stock/lot.entity.js';
import { PROMISED_KINDS } from '../stock/stock.module.js';

export interface Due {
  id: string;
  code: string;
  productId: string;
  expiry: string;
}

export function lotsDue(sql: Sql, today: string): Promise<Due[]> {
  return sql.rows(
    'SELECT id, code, productId, CAST(expiry AS CHAR) AS expiry FROM lot WHERE expiry <= ? AND expiredAt IS NULL ORDER BY productId, id',
    [today],
  );
}

export function listsHolding(
  sql: Sql,
  lotId: string,
): Promise<(Pick<PickStop, 'orderId'> & { state: string })[]> {
  return sql.rows(
    "SELECT DISTINCT s.orderId, l.state FROM pickStop s JOIN pickList l ON l.id = s.listId JOIN allocation a ON a.partId = s.partId AND a.hold = 'listed' AND a.stopKey = s.id AND a.quantity > 0 WHERE s.lotId = ? ORDER BY s.orderId",
    [lotId],
  );
}

export function lockLot(tx: Tx, id: string): Promise<Pick<Lot, 'expiredAt'> | null> {
  return tx.one('SELECT expiredAt FROM lot WHERE id = ? FOR UPDATE', [id]);
}

export function unitsOfLot(sql: Sql, lotId: string): Promise<{ n: number } | null> {
  return sql.one(
    `SELECT CAST(COALESCE(SUM(b.onHand), 0) AS INT) AS n FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind IN (${PROMISED_KINDS}) WHERE b.lotKey = ?`,
    [lotId],
  );
}
