import type { Sql, Tx } from '../database/db.js';
import type { PickList } from '../lists/pickList.entity.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { ScanSession } from '../scans/scanSession.entity.js';
import type { Lot } from '../stock/lot.entity.js';
import type { StockMove } from '../stock/stockMove.entity.js';

/** A stop of a list, as the ledger needs it; what was picked lies in its tote. */
export type StopRow = Pick<
  PickStop,
  'id' | 'listId' | 'placeId' | 'lotId' | 'productId' | 'partId' | 'orderId'
> & { toteId: string };

export function lockList(
  tx: Tx,
  no: string,
): Promise<(Pick<PickList, 'id' | 'no'> & { state: string }) | null> {
  return tx.one('SELECT id, no, state FROM pickList WHERE no = ? FOR UPDATE', [no]);
}

export function sessionOfList(
  sql: Sql,
  no: string,
): Promise<(Pick<ScanSession, 'id'> & { listId: string }) | null> {
  return sql.one(
    'SELECT x.id, x.listId FROM scanSession x JOIN pickList l ON l.id = x.listId WHERE l.no = ?',
    [no],
  );
}

export function stateOfList(
  sql: Sql,
  listId: string,
): Promise<(Pick<ScanSession, 'id'> & { state: string }) | null> {
  return sql.one('SELECT id, state FROM scanSession WHERE listId = ?', [listId]);
}

export function stopsOf(sql: Sql, listId: string): Promise<(StopRow & Pick<PickStop, 'quantity'>)[]> {
  return sql.rows(
    'SELECT id, listId, placeId, lotId, productId, partId, orderId, toteId, quantity FROM pickStop WHERE listId = ?',
    [listId],
  );
}

export function stopsAmong(sql: Sql, stopIds: readonly string[]): Promise<StopRow[]> {
  return sql.rows(
    'SELECT id, listId, placeId, lotId, productId, partId, orderId, toteId FROM pickStop WHERE id IN (?)',
    [stopIds],
  );
}

export function softUnits(sql: Sql, partId: string): Promise<{ n: number } | null> {
  return sql.one(
    "SELECT COALESCE(SUM(quantity), 0) AS n FROM allocation WHERE partId = ? AND hold = 'soft'",
    [partId],
  );
}

export function stopsToWalk(
  sql: Sql,
  listId: string,
): Promise<
  (StopRow &
    Pick<StockMove, 'quantity'> &
    Pick<Lot, 'expiry'> & {
      placeCode: string;
      toteCode: string;
      mark: string;
      orderNo: number;
      taken: number;
      lot: string | null;
    })[]
> {
  return sql.rows(
    `SELECT s.id, s.listId, s.placeId, s.lotId, s.productId, s.partId, s.orderId, s.toteId, s.quantity, p.code AS placeCode, t.code AS toteCode, t.mark, o.no AS orderNo, l.code AS lot, CAST(l.expiry AS CHAR) AS expiry,
         COALESCE((SELECT SUM(m.quantity * IF(m.why = 'pick', 1, -1)) FROM stockMove m WHERE m.causeId = s.id AND m.why IN ('pick', 'put back')), 0) AS taken
       FROM pickStop s JOIN place p ON p.id = s.placeId JOIN place t ON t.id = s.toteId JOIN orders o ON o.id = s.orderId LEFT JOIN lot l ON l.id = s.lotId WHERE s.listId = ? ORDER BY s.seq`,
    [listId],
  );
}
