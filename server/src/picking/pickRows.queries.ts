import type { Sql, Tx } from '../database/db.js';
import type { PickList } from '../lists/pickList.entity.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { OrderNote } from '../orders/orderNote.entity.js';
import type { Person } from '../people/person.entity.js';
import type { Order } from '../records/order.entity.js';
import type { ScanSession } from '../scans/scanSession.entity.js';
import type { Lot } from '../stock/lot.entity.js';
import type { Place } from '../stock/place.entity.js';
import type { StockMove } from '../stock/stockMove.entity.js';

/** A stop of a list, as the ledger needs it; what was picked lies in its tote. */
export type StopRow = Pick<
  PickStop,
  'id' | 'listId' | 'placeId' | 'lotId' | 'productId' | 'partId' | 'orderId' | 'toteId'
>;
/** The same with what of it is still to be taken, what lies in its tote, and what was not found. */
export type HeldStop = StopRow & { listed: number; picked: number; missing: number };

export function lockList(
  tx: Tx,
  no: string,
): Promise<(Pick<PickList, 'id' | 'no' | 'method'> & { state: string }) | null> {
  return tx.one('SELECT id, no, state, method FROM pickList WHERE no = ? FOR UPDATE', [no]);
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

/** The list that a session picks. */
export function listOfSession(sql: Sql, sessionId: string): Promise<{ listId: string } | null> {
  return sql.one('SELECT listId FROM scanSession WHERE id = ?', [sessionId]);
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
): Promise<(Pick<PickList, 'id' | 'no' | 'method'> & { state: string }) | null> {
  return tx.one(
    `SELECT l.id, l.no, l.state, l.method FROM pickList l WHERE l.state = 'released' AND (l.forId IS NULL OR l.forId = ? OR NOT EXISTS (SELECT 1 FROM person e WHERE e.id = l.forId AND e.active))
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

/** Every stop of a list. */
export function stopsOf(sql: Sql, listId: string): Promise<(StopRow & Pick<PickStop, 'quantity'>)[]> {
  return sql.rows(
    'SELECT id, listId, placeId, lotId, productId, partId, orderId, toteId, quantity FROM pickStop WHERE listId = ?',
    [listId],
  );
}

/** Stops as they stand; of a heap also those of the same product, place and lot, which are one to the picker. */
export function heldStops(sql: Sql, stopIds: readonly string[], heap: boolean): Promise<HeldStop[]> {
  return sql.rows(
    `SELECT s.id, s.listId, s.placeId, s.lotId, s.productId, s.partId, s.orderId, s.toteId,
         CAST(COALESCE(SUM(IF(a.hold = 'listed', a.quantity, 0)), 0) AS INT) AS listed, CAST(COALESCE(SUM(IF(a.hold = 'picked', a.quantity, 0)), 0) AS INT) AS picked,
         CAST(COALESCE((SELECT SUM(IF(m.fromPlaceId = s.placeId, m.quantity, -m.quantity)) FROM stockMove m WHERE m.causeId = s.id AND m.why = 'missing'), 0) AS INT) AS missing
       FROM pickStop f JOIN pickStop s ON s.listId = f.listId AND (s.id = f.id OR (? AND s.placeId = f.placeId AND s.productId = f.productId AND s.lotId <=> f.lotId)) LEFT JOIN allocation a ON a.partId = s.partId AND a.stopKey = s.id WHERE f.id IN (?) GROUP BY s.id ORDER BY s.seq`,
    [heap, stopIds],
  );
}

/** The numbers of orders. */
export function numbersOf(sql: Sql, ids: readonly string[]): Promise<Pick<Order, 'id' | 'no'>[]> {
  return sql.rows('SELECT id, no FROM orders WHERE id IN (?) ORDER BY no', [ids]);
}

/** What the staff wrote for those who handle the orders of a list. */
export function staffNotes(sql: Sql, listId: string): Promise<Pick<OrderNote, 'orderId' | 'text'>[]> {
  return sql.rows(
    "SELECT n.orderId, n.text FROM orderNote n WHERE n.kind = 'staff' AND n.removedAt IS NULL AND n.orderId IN (SELECT orderId FROM pickStop WHERE listId = ?) ORDER BY n.id",
    [listId],
  );
}

/** A stop of each product and place of a list. */
export function stopsAt(
  sql: Sql,
  listId: string,
): Promise<(Pick<PickStop, 'id' | 'seq'> & Pick<Place, 'code' | 'aisle' | 'along'>)[]> {
  return sql.rows(
    'SELECT s.id, s.seq, p.code, p.aisle, p.along FROM pickStop s JOIN place p ON p.id = s.placeId WHERE s.listId = ? ORDER BY s.seq',
    [listId],
  );
}

/** Whether a tote or trolley is free for a list, locked: no order has it, no other list that is not done, and nothing of before lies in it. */
export function lockCarrier(
  tx: Tx,
  placeId: string,
  listId: string,
): Promise<(Pick<Place, 'id' | 'code'> & { free: number }) | null> {
  return tx.one(
    `SELECT id, code, busyWith IS NULL AND NOT EXISTS (SELECT 1 FROM pickList l WHERE l.trolleyId = place.id AND l.state <> 'done' AND l.id <> ?)
         AND NOT EXISTS (SELECT 1 FROM stockBalance b WHERE b.placeId = place.id AND b.onHand > 0) AS free
       FROM place WHERE id = ? AND kind IN ('tote', 'trolley') FOR UPDATE`,
    [listId, placeId],
  );
}

export function softUnits(sql: Sql, partId: string): Promise<{ n: number } | null> {
  return sql.one(
    "SELECT COALESCE(SUM(quantity), 0) AS n FROM allocation WHERE partId = ? AND hold = 'soft'",
    [partId],
  );
}

/** The stops of a list as they are walked. Of a heap those of one product, place and lot are one, whichever order they are for. */
export function stopsToWalk(
  sql: Sql,
  listId: string,
): Promise<
  (Pick<PickStop, 'id' | 'placeId' | 'productId' | 'toteId' | 'orderId'> &
    Pick<StockMove, 'quantity'> &
    Pick<Lot, 'expiry'> & {
      placeCode: string;
      toteCode: string | null;
      mark: string | null;
      colour: string | null;
      orderNo: number;
      note: string;
      heap: number;
      taken: number;
      lot: string | null;
    })[]
> {
  return sql.rows(
    `SELECT MIN(s.id) AS id, s.placeId, s.productId, s.toteId, MIN(s.orderId) AS orderId, CAST(SUM(s.quantity) AS INT) AS quantity, p.code AS placeCode, t.code AS toteCode, t.mark, t.colour, MIN(o.no) AS orderNo, MIN(o.note) AS note, k.method = 'batch' AS heap, l.code AS lot, CAST(l.expiry AS CHAR) AS expiry,
         CAST(SUM(COALESCE((SELECT SUM(m.quantity * IF(m.why = 'pick', 1, -1)) FROM stockMove m WHERE m.causeId = s.id AND m.why IN ('pick', 'put back')), 0)) AS INT) AS taken
       FROM pickStop s JOIN pickList k ON k.id = s.listId JOIN place p ON p.id = s.placeId LEFT JOIN place t ON t.id = s.toteId JOIN orders o ON o.id = s.orderId LEFT JOIN lot l ON l.id = s.lotId
       WHERE s.listId = ? GROUP BY IF(k.method = 'batch', CONCAT(s.placeId, s.productId, COALESCE(CAST(s.lotId AS CHAR), '')), CAST(s.id AS CHAR)) ORDER BY MIN(s.seq)`,
    [listId],
  );
}
