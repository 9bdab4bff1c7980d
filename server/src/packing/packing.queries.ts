import type { BoxedWeight, LabelState } from '@auk/core';
import { NONE, type Sql, type Tx } from '../database/db.js';
import type { PickStop } from '../lists/pickStop.entity.js';
import type { OrderNote } from '../orders/orderNote.entity.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { LinePart } from '../records/linePart.entity.js';
import type { Order } from '../records/order.entity.js';
import { APART } from '../records/records.module.js';
import type { ScanSession } from '../scans/scanSession.entity.js';
import type { Allocation } from '../stock/allocation.entity.js';
import type { OrderPhoto } from './orderPhoto.entity.js';

export interface OrderHead {
  id: string;
  no: number;
  channelNumber: string;
  stage: string;
  shipmentId: string;
  warehouseId: string;
}

/** A part of an order at the bench: wanted, in parcels, ready to go in, and the list that the rest is on. */
export interface PartPacked {
  name: string;
  wanted: number;
  optional: number;
  packed: number;
  ready: number;
  list: string | null;
}

export interface BenchSession {
  id: string;
  device: string;
  closedAt: Date | null;
  openedAt: Date;
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

export function sessionOfOrder(sql: Sql, orderId: string): Promise<BenchSession | null> {
  return sql.one(
    "SELECT x.id, x.device, x.closedAt, x.openedAt, x.lastScanAt, x.personId, p.name, o.channelNumber FROM scanSession x JOIN orders o ON o.id = x.orderId LEFT JOIN person p ON p.id = x.personId WHERE x.orderId = ? AND x.kind = 'pack'",
    [orderId],
  );
}

/** The box of a parcel that has a label and was not closed: it was bought ahead, for that box. */
export function boxWithLabel(sql: Sql, orderId: string): Promise<{ boxCode: string } | null> {
  return sql.one(
    'SELECT c.boxCode FROM parcel c JOIN label b ON b.liveParcel = c.id WHERE c.orderId = ? AND c.closedAt IS NULL AND c.boxCode IS NOT NULL',
    [orderId],
  );
}

/** The parcel of an order that was planned before anybody packed, with the state of its label. */
export function aheadParcel(
  sql: Sql,
  orderId: string,
): Promise<(Pick<Parcel, 'id' | 'no'> & { label: LabelState | null }) | null> {
  return sql.one(
    'SELECT c.id, c.no, b.state AS label FROM parcel c LEFT JOIN label b ON b.liveParcel = c.id WHERE c.orderId = ? AND c.aheadAt IS NOT NULL',
    [orderId],
  );
}

/** What a parcel's label was bought for, where it has one. */
export function boughtFor(sql: Sql, parcelId: string): Promise<BoxedWeight | null> {
  return sql.one(
    'SELECT c.boxCode, c.weightMg FROM parcel c JOIN label b ON b.liveParcel = c.id WHERE c.id = ?',
    [parcelId],
  );
}

/** What keeps an order from having its label bought before it is packed. */
export function aheadFacts(
  sql: Sql,
  orderId: string,
): Promise<{ abroad: number; hazardous: number; optional: number } | null> {
  return sql.one(
    `SELECT JSON_VALUE(o.shipTo, '$.country') <> w.country AS abroad, COALESCE(MAX(JSON_VALUE(p.facts, '$.hazardous') = 1), 0) AS hazardous, COALESCE(MAX(t.optional), 0) AS optional
       FROM orders o JOIN warehouse w ON w.id = o.warehouseId LEFT JOIN linePart t ON t.orderId = o.id AND t.quantity > t.leftOut LEFT JOIN product p ON p.id = t.productId WHERE o.id = ? GROUP BY o.id, w.id`,
    [orderId],
  );
}

export function packerNotes(
  sql: Sql,
  orderId: string,
): Promise<(Pick<OrderNote, 'text' | 'word'> & { confirm: number })[]> {
  return sql.rows(
    "SELECT text, confirm, word FROM orderNote WHERE orderId = ? AND kind = 'packer' AND removedAt IS NULL ORDER BY id",
    [orderId],
  );
}

/** The parcels of an order, in the order in which they were opened. */
export function parcelsOf(
  sql: Sql,
  orderId: string,
): Promise<
  Pick<
    Parcel,
    'id' | 'no' | 'seq' | 'placeId' | 'orderId' | 'shipmentId' | 'closedAt' | 'departedAt' | 'misfit'
  >[]
> {
  return sql.rows(
    'SELECT id, no, seq, placeId, orderId, shipmentId, closedAt, departedAt, misfit FROM parcel WHERE orderId = ? ORDER BY seq',
    [orderId],
  );
}

/** Locks the order of a session at the bench and its parcels; gives them as they were opened, with where the order lies. */
export async function lockParcelsOfSession(
  tx: Tx,
  sessionId: string,
): Promise<
  (Pick<Parcel, 'id' | 'seq' | 'placeId' | 'orderId' | 'shipmentId'> & Pick<Order, 'warehouseId'>)[]
> {
  const rows = await tx.rows<Awaited<ReturnType<typeof lockParcelsOfSession>>[number]>(
    'SELECT c.id, c.seq, c.placeId, c.orderId, c.shipmentId, o.warehouseId FROM scanSession x JOIN orders o ON o.id = x.orderId JOIN parcel c ON c.orderId = o.id WHERE x.id = ? ORDER BY c.seq FOR UPDATE',
    [sessionId],
  );
  tx.hold('orders', [rows[0]!.orderId]);
  tx.holding('parcel', rows);
  return rows;
}

/** A parcel by its number, with its live label. */
export function parcelByNo(
  sql: Sql,
  no: string,
): Promise<
  | (Pick<Parcel, 'id' | 'seq' | 'orderId' | 'closedAt' | 'handedOverAt' | 'departedAt'> & {
      label: string | null;
    })
  | null
> {
  return sql.one(
    'SELECT c.id, c.seq, c.orderId, c.closedAt, c.handedOverAt, c.departedAt, b.state AS label FROM parcel c LEFT JOIN label b ON b.liveParcel = c.id WHERE c.no = ?',
    [/^PA-(\d{1,9})$/i.exec(no)?.[1] ?? -1],
  );
}

export function orderOfSession(sql: Sql, sessionId: string): Promise<{ orderId: string } | null> {
  return sql.one("SELECT orderId FROM scanSession WHERE id = ? AND kind = 'pack'", [sessionId]);
}

export function benchRow(
  sql: Sql,
  sessionId: string,
): Promise<
  | (Pick<Order, 'channelNumber' | 'buyer' | 'note' | 'promised'> &
      Pick<ScanSession, 'departureId' | 'closedAt'> & {
        orderId: string;
        state: string;
        reducers: number;
        channel: string;
        shipTo: string;
        carrierName: string | null;
        cutOff: Date | null;
      })
  | null
> {
  return sql.one(
    `SELECT x.state, x.reducers, x.closedAt, o.id AS orderId, o.channelNumber, h.name AS channel, o.buyer, o.shipTo, o.note, o.promised, d.carrierName, d.cutOff, o.departureId
       FROM scanSession x JOIN orders o ON o.id = x.orderId JOIN channel h ON h.id = o.channelId
       LEFT JOIN departure d ON d.id = o.departureId WHERE x.id = ? AND x.kind = 'pack'`,
    [sessionId],
  );
}

export function othersLeaving(sql: Sql, departureId: string, orderId: string): Promise<{ n: number } | null> {
  return sql.one("SELECT COUNT(*) AS n FROM orders WHERE departureId = ? AND stage = 'Picked' AND id <> ?", [
    departureId,
    orderId,
  ]);
}

/** The order of a slip, a tote or cell, a parcel, or of its channel's number. */
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

const MOST_URGENT = "ORDER BY COALESCE(o.leavesAt, '9999-12-31'), o.no LIMIT 1";

/** The most urgent picked order of a pick list. */
export function orderOfList(sql: Sql, no: number): Promise<Pick<Order, 'id'> | null> {
  return sql.one(
    `SELECT o.id FROM pickList l JOIN pickStop s ON s.listId = l.id JOIN allocation a ON a.stopKey = s.id AND a.hold IN ('picked', 'sorted') AND a.quantity > 0
       JOIN orders o ON o.id = a.orderId AND o.stage = 'Picked' WHERE l.no = ? ${MOST_URGENT}`,
    [no],
  );
}

/** The most urgent picked order of which something stands at a staging place. */
export function orderAtStaging(sql: Sql, code: string): Promise<Pick<Order, 'id'> | null> {
  return sql.one(
    `SELECT o.id FROM place g JOIN place t ON t.standsAtId = g.id JOIN orders o ON o.id = t.busyWith AND o.stage = 'Picked' WHERE g.code = ? AND g.kind = 'staging' ${MOST_URGENT}`,
    [code],
  );
}

/** The most urgent order that wants a product and all of whose pieces are here, with where that product lies; not the order named, nor one that another device than the named was at in the last two minutes. */
export function orderWanting(
  sql: Sql,
  sku: string,
  but: string,
  device: string | null = null,
): Promise<(Pick<Order, 'id' | 'no'> & { lies: string | null }) | null> {
  return sql.one(
    `SELECT o.id, o.no, MIN(COALESCE(t.mark, t.code)) AS lies FROM product p JOIN allocation a ON a.productId = p.id AND a.hold IN ('picked', 'sorted') AND a.quantity > 0
       JOIN orders o ON o.id = a.orderId AND o.stage = 'Picked' AND o.id <> ? LEFT JOIN place t ON t.busyWith = o.id AND t.kind IN ('tote', 'cell')
       WHERE p.sku = ? AND (? IS NULL OR NOT EXISTS (SELECT 1 FROM scanSession x WHERE x.orderId = o.id AND x.kind = 'pack' AND x.device <> ? AND COALESCE(x.lastScanAt, x.openedAt) > NOW(3) - INTERVAL 2 MINUTE))
       GROUP BY o.id ${MOST_URGENT}`,
    [but, sku, device, device],
  );
}

/** Picked orders in the order in which they leave: what waits for a bench, and who is at it. */
export function picked(sql: Sql): Promise<
  (Pick<Order, 'id' | 'no' | 'buyer' | 'leavesAt'> & {
    units: number;
    lies: string | null;
    packer: string | null;
    begun: number;
  })[]
> {
  return sql.rows(
    `SELECT o.id, o.no, o.buyer, o.leavesAt, CAST((SELECT COALESCE(SUM(a.quantity), 0) FROM allocation a WHERE a.orderId = o.id) AS INT) AS units,
         (SELECT GROUP_CONCAT(COALESCE(t.mark, t.code) ORDER BY t.code SEPARATOR ', ') FROM place t WHERE t.busyWith = o.id AND t.kind IN ('tote', 'cell')) AS lies,
         (SELECT p.name FROM scanSession x JOIN person p ON p.id = x.personId WHERE x.orderId = o.id AND x.kind = 'pack') AS packer,
         CAST((SELECT COALESCE(SUM(a.quantity), 0) FROM allocation a WHERE a.orderId = o.id AND a.hold = 'packed') AS INT) AS begun
       FROM orders o WHERE o.stage = 'Picked' ORDER BY COALESCE(o.leavesAt, '9999-12-31'), o.no LIMIT 12`,
  );
}

/** What of an order is picked or packed, by part: wanted here at the bench. */
export function linesToPack(
  sql: Sql,
  orderId: string,
): Promise<
  (Pick<LinePart, 'id' | 'lineId' | 'productId' | 'quantity' | 'leftOut'> & {
    optional: number;
    lineKey: string;
    apart: number | null;
    lineProductId: string;
    lineQuantity: number;
    lots: string | null;
    expires: number;
  })[]
> {
  return sql.rows(
    `SELECT t.id, t.lineId, t.productId, t.optional, l.lineKey, ${APART} AS apart, t.leftOut, CAST(SUM(a.quantity) AS INT) AS quantity, l.productId AS lineProductId, l.quantity AS lineQuantity,
         GROUP_CONCAT(DISTINCT k.code ORDER BY k.code SEPARATOR '\n') AS lots, COALESCE(MAX(k.expiry IS NOT NULL), 0) AS expires
       FROM linePart t JOIN orderLine l ON l.id = t.lineId JOIN shipment s ON s.orderId = t.orderId AND s.seq = 1 JOIN allocation a ON a.partId = t.id AND a.hold IN ('picked', 'sorted', 'packed')
       LEFT JOIN pickStop ps ON ps.id = a.stopKey LEFT JOIN lot k ON k.id = ps.lotId
       WHERE t.orderId = ? GROUP BY t.id HAVING SUM(a.quantity) > 0 ORDER BY l.position, t.id`,
    [orderId],
  );
}

/** What an order wants of each part by now, and how much of it is packed; with the list on which the rest is, if it is on one. */
export function partsPacked(sql: Sql, orderId: string): Promise<(Pick<LinePart, 'id'> & PartPacked)[]> {
  return sql.rows(
    `SELECT t.id, r.name, CAST(t.quantity - t.leftOut AS INT) AS wanted, t.optional,
         CAST(COALESCE(SUM(IF(a.hold IN ('packed', 'departed'), a.quantity, 0)), 0) AS INT) AS packed,
         CAST(COALESCE(SUM(IF(a.hold IN ('picked', 'sorted'), a.quantity, 0)), 0) AS INT) AS ready,
         MAX(IF(a.hold = 'listed', (SELECT CONCAT('PL-', l.no) FROM pickStop s JOIN pickList l ON l.id = s.listId WHERE s.id = a.stopKey), NULL)) AS list
       FROM linePart t JOIN product r ON r.id = t.productId LEFT JOIN allocation a ON a.partId = t.id AND a.quantity > 0 WHERE t.orderId = ? GROUP BY t.id ORDER BY t.id`,
    [orderId],
  );
}

/** The order with which a serial number of a product left, if it did not come back; its own order does not count. */
export function serialHolder(
  sql: Sql,
  productId: string,
  serial: string,
  orderId: string,
): Promise<Pick<Order, 'no'> | null> {
  return sql.one(
    'SELECT o.no FROM unitFact f JOIN orders o ON o.id = f.orderId WHERE f.productId = ? AND f.liveSerial = ? AND f.orderId <> ?',
    [productId, serial, orderId],
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

/** Units of a product that were picked for orders and are not packed: where they lie, with the part that they are for. */
export function pickedOf(
  sql: Sql,
  orderIds: readonly string[],
  productId: string,
): Promise<
  (Pick<Allocation, 'partId' | 'orderId' | 'stopKey' | 'quantity'> &
    Pick<PickStop, 'lotId'> & { lies: 'picked' | 'sorted'; liesIn: string })[]
> {
  return sql.rows(
    `SELECT a.partId, a.orderId, a.stopKey, a.quantity, s.lotId, a.hold AS lies, IF(a.hold = 'sorted', s.cellId, s.toteId) AS liesIn
       FROM allocation a JOIN pickStop s ON s.id = a.stopKey WHERE a.orderId IN (?) AND a.productId = ? AND a.hold IN ('picked', 'sorted') AND a.quantity > 0 ORDER BY a.orderId, a.stopKey`,
    [orderIds, productId],
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
       JOIN (SELECT q.orderId, q.productId, IF(q.optional, COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.partId = q.id), 0), q.quantity) AS quantity, r.name, COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.partId = q.id AND a.hold IN ('picked', 'sorted', 'packed', 'departed')), 0) AS here,
             COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.partId = q.id), 0) AS held FROM linePart q JOIN product r ON r.id = q.productId WHERE q.quantity > 0) p ON p.orderId = x.id
       GROUP BY x.id ORDER BY COALESCE(x.leavesAt, '9999-12-31'), x.no LIMIT 200`,
  );
}

export function photosOf(
  sql: Sql,
  orderId: string,
): Promise<(Pick<OrderPhoto, 'id' | 'takenAt'> & { person: string | null })[]> {
  return sql.rows(
    'SELECT f.id, f.takenAt, p.name AS person FROM orderPhoto f LEFT JOIN person p ON p.id = f.personId WHERE f.orderId = ? ORDER BY f.takenAt, f.id',
    [orderId],
  );
}

/** Forgets some pictures that were kept for so many days. */
export function forgetPhotos(sql: Sql, days: number): Promise<number> {
  return sql.run('DELETE FROM orderPhoto WHERE at < NOW(3) - INTERVAL ? DAY LIMIT 200', [days]);
}
