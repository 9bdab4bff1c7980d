import type { Sql } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { PickList } from '../lists/pickList.entity.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { Order } from '../records/order.entity.js';
import type { ScanSession } from '../scans/scanSession.entity.js';
import type { Place } from '../stock/place.entity.js';

/** What a heap lies on, and the list that it is of. */
export type Heap = Pick<Place, 'id' | 'code' | 'mark'> & { listNo: PickList['no'] };

/** The heap of a code: of what it lies on, or of its list. Of several that one carrier had, the newest. */
export function heapByCode(sql: Sql, code: string): Promise<Heap | null> {
  return sql.one(
    `SELECT p.id, p.code, p.mark, l.no AS listNo FROM pickList l JOIN pickStop s ON s.listId = l.id JOIN place p ON p.id = s.toteId
       WHERE l.method = 'batch' AND (p.code = ? OR l.no = ?) ORDER BY l.no DESC LIMIT 1`,
    [code, /^PL-(\d{1,9})$/.exec(code)?.[1] ?? -1],
  );
}

/** Units of a stop that lie in the heap or in the cell of their order. */
export type HeapUnits = Pick<PickStop, 'id' | 'productId' | 'partId' | 'orderId' | 'lotId'> & {
  orderNo: Order['no'];
  cellId: string | null;
  wall: string | null;
  heap: number;
  sorted: number;
};

/** What of a heap is not packed yet, the most urgent order first. */
export function unitsOfHeap(sql: Sql, carrierId: string): Promise<HeapUnits[]> {
  return sql.rows(
    `SELECT s.id, s.productId, s.partId, s.orderId, s.lotId, s.cellId, c.zone AS wall, o.no AS orderNo,
         CAST(SUM(IF(a.hold = 'picked', a.quantity, 0)) AS INT) AS heap, CAST(SUM(IF(a.hold = 'sorted', a.quantity, 0)) AS INT) AS sorted
       FROM pickStop s JOIN pickList l ON l.id = s.listId AND l.method = 'batch' JOIN allocation a ON a.partId = s.partId AND a.stopKey = s.id AND a.hold IN ('picked', 'sorted') AND a.quantity > 0
       JOIN orders o ON o.id = s.orderId LEFT JOIN place c ON c.id = s.cellId
       WHERE s.toteId = ? GROUP BY s.id ORDER BY COALESCE(o.leavesAt, '9999-12-31'), o.no, s.seq`,
    [carrierId],
  );
}

/** The session in which a heap is being sorted, if one is open. */
export function openSortOf(sql: Sql, carrierId: string): Promise<Pick<ScanSession, 'id'> | null> {
  return sql.one(
    "SELECT id FROM scanSession WHERE placeId = ? AND kind = 'sort' AND closedAt IS NULL ORDER BY openedAt DESC LIMIT 1",
    [carrierId],
  );
}

/** A stop of which units are sorted: what they lie on, and how many lie there and in the cell. */
export function stopToSort(
  sql: Sql,
  stopId: string,
): Promise<
  | (Pick<PickStop, 'id' | 'productId' | 'partId' | 'orderId' | 'lotId'> & {
      toteId: string;
      heap: number;
      sorted: number;
    })
  | null
> {
  return sql.one(
    `SELECT s.id, s.productId, s.partId, s.orderId, s.lotId, s.toteId, CAST(COALESCE(SUM(IF(a.hold = 'picked', a.quantity, 0)), 0) AS INT) AS heap, CAST(COALESCE(SUM(IF(a.hold = 'sorted', a.quantity, 0)), 0) AS INT) AS sorted
       FROM pickStop s LEFT JOIN allocation a ON a.partId = s.partId AND a.stopKey = s.id WHERE s.id = ? GROUP BY s.id`,
    [stopId],
  );
}

/** Units of an order that lie in a cell. */
export function unitsInCell(sql: Sql, orderId: string, cellId: string): Promise<{ n: number } | null> {
  return sql.one(
    "SELECT CAST(COALESCE(SUM(a.quantity), 0) AS INT) AS n FROM allocation a JOIN pickStop s ON s.id = a.stopKey AND s.cellId = ? WHERE a.orderId = ? AND a.hold = 'sorted' AND a.parcelKey = ?",
    [cellId, orderId, NONE],
  );
}

/** Heaps of which something lies there yet, the most urgent first. */
export function heapsToSort(sql: Sql): Promise<
  (Pick<Place, 'code'> & {
    mark: string;
    stands: string | null;
    list: PickList['no'];
    orders: number;
    units: number;
    sorted: number;
    cutOff: Date | null;
  })[]
> {
  return sql.rows(
    `SELECT p.code, COALESCE(p.mark, p.code) AS mark, (SELECT g.code FROM place g WHERE g.id = p.standsAtId) AS stands, l.no AS list, COUNT(DISTINCT s.orderId) AS orders, CAST(SUM(a.quantity) AS INT) AS units, CAST(SUM(IF(a.hold = 'sorted', a.quantity, 0)) AS INT) AS sorted, MIN(o.leavesAt) AS cutOff
       FROM pickList l JOIN pickStop s ON s.listId = l.id JOIN allocation a ON a.partId = s.partId AND a.stopKey = s.id AND a.hold IN ('picked', 'sorted') AND a.quantity > 0
       JOIN place p ON p.id = s.toteId JOIN orders o ON o.id = s.orderId
       WHERE l.method = 'batch' AND l.state = 'done' GROUP BY l.id, p.id HAVING SUM(a.hold = 'picked') > 0 ORDER BY COALESCE(MIN(o.leavesAt), '9999-12-31'), l.no LIMIT 60`,
  );
}
