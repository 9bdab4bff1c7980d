import { NONE, type Sql, type Tx } from '../database/db.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { OrderNote } from '../orders/orderNote.entity.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { LinePart } from '../records/linePart.entity.js';
import type { Order } from '../records/order.entity.js';
import type { ScanSession } from '../scans/scanSession.entity.js';
import type { Allocation } from '../stock/allocation.entity.js';

export interface OrderHead {
  id: string;
  no: number;
  channelNumber: string;
  stage: string;
  shipmentId: string;
  warehouseId: string;
}

export interface BenchSession {
  id: string;
  device: string;
  closedAt: Date | null;
  lastScanAt: Date | null;
  personId: string | null;
  name: string | null;
  channelNumber: string;
}

export async function lockForPacking(tx: Tx, orderId: string): Promise<OrderHead | null> {
  const row = await tx.one<OrderHead>(
    'SELECT o.id, o.no, o.channelNumber, o.stage, o.warehouseId, (SELECT s.id FROM shipment s WHERE s.orderId = o.id AND s.seq = 1) AS shipmentId FROM orders o WHERE o.id = ? FOR UPDATE',
    [orderId],
  );
  if (row) tx.hold('orders', [row.id]);
  return row;
}

export function newestSession(sql: Sql, orderId: string): Promise<BenchSession | null> {
  return sql.one(
    'SELECT x.id, x.device, x.closedAt, x.lastScanAt, x.personId, p.name, o.channelNumber FROM parcel c JOIN scanSession x ON x.parcelId = c.id JOIN orders o ON o.id = c.orderId LEFT JOIN person p ON p.id = x.personId WHERE c.orderId = ? ORDER BY c.no DESC LIMIT 1',
    [orderId],
  );
}

export function notesToConfirm(sql: Sql, orderId: string): Promise<Pick<OrderNote, 'text'>[]> {
  return sql.rows(
    "SELECT text FROM orderNote WHERE orderId = ? AND kind = 'packer' AND confirm AND removedAt IS NULL ORDER BY id",
    [orderId],
  );
}

export function packerNotes(
  sql: Sql,
  orderId: string,
): Promise<(Pick<OrderNote, 'text'> & { confirm: number })[]> {
  return sql.rows(
    "SELECT text, confirm FROM orderNote WHERE orderId = ? AND kind = 'packer' AND removedAt IS NULL ORDER BY id",
    [orderId],
  );
}

export function parcelOfSession(
  sql: Sql,
  sessionId: string,
): Promise<Pick<Parcel, 'id' | 'placeId' | 'orderId'> | null> {
  return sql.one(
    'SELECT c.id, c.placeId, c.orderId FROM parcel c JOIN scanSession x ON x.parcelId = c.id WHERE x.id = ?',
    [sessionId],
  );
}

export function benchRow(
  sql: Sql,
  sessionId: string,
): Promise<
  | (Pick<Parcel, 'orderId'> &
      Pick<Order, 'channelNumber' | 'buyer' | 'note' | 'promised'> &
      Pick<ScanSession, 'departureId'> & {
        state: string;
        parcelId: string;
        parcelNo: number;
        channel: string;
        shipTo: string;
        carrierName: string | null;
        cutOff: Date | null;
      })
  | null
> {
  return sql.one(
    `SELECT x.state, c.id AS parcelId, c.no AS parcelNo, o.id AS orderId, o.channelNumber, h.name AS channel, o.buyer, o.shipTo, o.note, o.promised, d.carrierName, d.cutOff, o.departureId
       FROM scanSession x JOIN parcel c ON c.id = x.parcelId JOIN orders o ON o.id = c.orderId JOIN channel h ON h.id = o.channelId
       LEFT JOIN departure d ON d.id = COALESCE(c.departureId, o.departureId) WHERE x.id = ?`,
    [sessionId],
  );
}

export function othersLeaving(sql: Sql, departureId: string, orderId: string): Promise<{ n: number } | null> {
  return sql.one("SELECT COUNT(*) AS n FROM orders WHERE departureId = ? AND stage = 'Picked' AND id <> ?", [
    departureId,
    orderId,
  ]);
}

export function orderByCode(
  sql: Sql,
  text: string,
  number: string | number,
): Promise<Pick<Order, 'id'> | null> {
  return sql.one(
    `SELECT id FROM orders WHERE ? LIKE 'OR-%' AND no = ? UNION ALL SELECT busyWith FROM place WHERE code = ? AND kind IN ('tote', 'cell') AND busyWith IS NOT NULL
       UNION ALL SELECT orderId FROM parcel WHERE ? LIKE 'PA-%' AND no = ? UNION ALL SELECT id FROM orders WHERE channelNumber = ? LIMIT 1`,
    [text, number, text, text, number, text],
  );
}

export function pickedLines(
  sql: Sql,
  orderId: string,
): Promise<
  (Pick<LinePart, 'id' | 'lineId' | 'productId' | 'quantity'> & {
    lineProductId: string;
    lineQuantity: number;
  })[]
> {
  return sql.rows(
    `SELECT t.id, t.lineId, t.productId, SUM(a.quantity) AS quantity, l.productId AS lineProductId, l.quantity AS lineQuantity FROM linePart t JOIN orderLine l ON l.id = t.lineId
       JOIN allocation a ON a.partId = t.id AND a.hold IN ('picked', 'sorted') WHERE t.orderId = ? GROUP BY t.id HAVING SUM(a.quantity) > 0 ORDER BY l.position, t.id`,
    [orderId],
  );
}

/** Units of a part, by the stop they were picked at: those that lie ready, each with where; or those in a parcel, with where they came from. */
export function unitsHeld(
  sql: Sql,
  partId: string,
  parcelKey: string | null,
): Promise<
  (Pick<Allocation, 'partId' | 'stopKey' | 'quantity' | 'productId'> &
    Pick<PickStop, 'lotId'> & { lies: 'picked' | 'sorted'; liesIn: string })[]
> {
  return sql.rows(
    `SELECT a.partId, a.stopKey, a.quantity, a.productId, s.lotId, IF(a.hold = 'picked' OR s.cellId IS NULL, 'picked', 'sorted') AS lies, IF(a.hold = 'picked' OR s.cellId IS NULL, s.toteId, s.cellId) AS liesIn
       FROM allocation a JOIN pickStop s ON s.id = a.stopKey WHERE a.partId = ? AND a.hold IN (?) AND a.parcelKey = ? AND a.quantity > 0 ORDER BY a.hold = 'picked', a.stopKey`,
    [partId, parcelKey === null ? ['picked', 'sorted'] : ['packed'], parcelKey ?? NONE],
  );
}

/** Orders whose totes stand at staging places, the most urgent first, with what of them is not there. */
export function arrivedOrders(sql: Sql): Promise<
  (Pick<Order, 'id' | 'no' | 'leavesAt'> & {
    stands: string;
    marks: string;
    since: Date;
    here: number;
    wanted: number;
    lacks: string | null;
    lists: string | null;
    expected: string | null;
  })[]
> {
  return sql.rows(
    `SELECT x.id, x.no, x.leavesAt, x.stands, x.marks, x.since, CAST(SUM(p.quantity) AS INT) AS wanted, CAST(SUM(p.here) AS INT) AS here,
         GROUP_CONCAT(IF(p.here < p.quantity, CONCAT(p.quantity - p.here, ' ', p.name), NULL) ORDER BY p.name SEPARATOR ', ') AS lacks,
         (SELECT GROUP_CONCAT(DISTINCT CONCAT('PL-', l.no) ORDER BY l.no SEPARATOR ', ') FROM allocation a JOIN pickStop s ON s.id = a.stopKey JOIN pickList l ON l.id = s.listId WHERE a.orderId = x.id AND a.hold = 'listed' AND a.quantity > 0) AS lists,
         CAST(MAX(IF(p.held < p.quantity, (SELECT MIN(w.expected) FROM purchaseLine y JOIN purchaseOrder w ON w.id = y.orderId AND w.state = 'open' WHERE y.productId = p.productId AND y.received < y.quantity), NULL)) AS CHAR) AS expected
       FROM (SELECT o.id, o.no, o.leavesAt, MIN(g.code) AS stands, GROUP_CONCAT(DISTINCT COALESCE(t.mark, t.code) ORDER BY t.mark SEPARATOR ', ') AS marks, MIN(t.stoodSince) AS since
           FROM place t JOIN place g ON g.id = t.standsAtId JOIN orders o ON o.id = t.busyWith WHERE t.kind IN ('tote', 'cell') GROUP BY o.id) x
       JOIN (SELECT q.orderId, q.productId, q.quantity, r.name, COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.partId = q.id AND a.hold IN ('picked', 'sorted', 'packed', 'departed')), 0) AS here,
             COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.partId = q.id), 0) AS held FROM linePart q JOIN product r ON r.id = q.productId WHERE q.quantity > 0) p ON p.orderId = x.id
       GROUP BY x.id ORDER BY COALESCE(x.leavesAt, '9999-12-31'), x.no LIMIT 200`,
  );
}
