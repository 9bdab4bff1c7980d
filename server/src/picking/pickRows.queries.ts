import type { Sql, Tx } from '../database/db.js';
import type { PickList } from '../lists/pickList.entity.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { Person } from '../people/person.entity.js';
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

/** The list that a person has under way, the newest first. */
export function underWay(sql: Sql, personId: string): Promise<Pick<PickList, 'no'> | null> {
  return sql.one(
    "SELECT l.no FROM pickList l JOIN scanSession x ON x.listId = l.id WHERE l.state = 'picking' AND x.personId = ? ORDER BY x.lastScanAt DESC LIMIT 1",
    [personId],
  );
}

/** Whether there is such a person, and they still work here. */
export function isHere(sql: Sql, personId: string): Promise<Pick<Person, 'id'> | null> {
  return sql.one('SELECT id FROM person WHERE id = ? AND active', [personId]);
}

/** The list that a person takes next, locked: what was set aside for them first, then what leaves first. One that somebody else is taking at this moment is passed over. */
export function lockNextList(
  tx: Tx,
  personId: string,
): Promise<(Pick<PickList, 'id' | 'no'> & { state: string }) | null> {
  return tx.one(
    `SELECT l.id, l.no, l.state FROM pickList l WHERE l.state = 'released' AND (l.forId IS NULL OR l.forId = ? OR NOT EXISTS (SELECT 1 FROM person e WHERE e.id = l.forId AND e.active))
       ORDER BY l.forId IS NULL, (SELECT COALESCE(MIN(d.cutOff), '9999-12-31') FROM pickStop s JOIN orders o ON o.id = s.orderId JOIN departure d ON d.id = o.departureId WHERE s.listId = l.id), l.no
       LIMIT 1 FOR UPDATE SKIP LOCKED`,
    [personId],
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
      colour: string | null;
      orderNo: number;
      taken: number;
      lot: string | null;
    })[]
> {
  return sql.rows(
    `SELECT s.id, s.listId, s.placeId, s.lotId, s.productId, s.partId, s.orderId, s.toteId, s.quantity, p.code AS placeCode, t.code AS toteCode, t.mark, t.colour, o.no AS orderNo, l.code AS lot, CAST(l.expiry AS CHAR) AS expiry,
         COALESCE((SELECT SUM(m.quantity * IF(m.why = 'pick', 1, -1)) FROM stockMove m WHERE m.causeId = s.id AND m.why IN ('pick', 'put back')), 0) AS taken
       FROM pickStop s JOIN place p ON p.id = s.placeId JOIN place t ON t.id = s.toteId JOIN orders o ON o.id = s.orderId LEFT JOIN lot l ON l.id = s.lotId WHERE s.listId = ? ORDER BY s.seq`,
    [listId],
  );
}
