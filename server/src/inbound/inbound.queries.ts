import type { Product } from '../catalog/product.entity.js';
import { NONE, type Sql, type Tx } from '../database/db.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { Person } from '../people/person.entity.js';
import type { Order } from '../records/order.entity.js';
import type { ScanSession } from '../scans/scanSession.entity.js';
import type { InboundBoxRow } from './inboundBox.entity.js';
import type { InboundCount } from './inboundCount.entity.js';
import type { InboundDifference } from './inboundDifference.entity.js';
import type { InboundEvent } from './inboundEvent.entity.js';
import type { InboundLine } from './inboundLine.entity.js';
import type { InboundPart } from './inboundPart.entity.js';
import type { InboundPartLine } from './inboundPartLine.entity.js';
import type { InboundShipment } from './inboundShipment.entity.js';

const SHOWN = 100;

/** Open shipments, then the newest that are done. */
export function shipments(sql: Sql): Promise<
  (Pick<InboundShipment, 'no' | 'name' | 'network' | 'stage' | 'shipDay' | 'createdAt'> & {
    centers: string | null;
    products: number;
    units: number;
    why: string | null;
    open: number;
  })[]
> {
  return sql.rows(
    `SELECT s.no, s.name, s.network, s.stage, CAST(s.shipDay AS CHAR) AS shipDay, s.createdAt, (SELECT GROUP_CONCAT(p.center ORDER BY p.seq SEPARATOR ', ') FROM inboundPart p WHERE p.shipmentId = s.id AND p.stage <> 'Cancelled') AS centers,
       COUNT(l.id) AS products, CAST(COALESCE(SUM(l.units), 0) AS INT) AS units, (SELECT MAX(p.why) FROM inboundPart p WHERE p.shipmentId = s.id AND p.stage <> 'Cancelled') AS why,
       (SELECT COUNT(*) FROM inboundDifference d JOIN inboundPart p ON p.id = d.partId WHERE p.shipmentId = s.id AND d.state = 'open') AS open
     FROM inboundShipment s LEFT JOIN inboundLine l ON l.shipmentId = s.id GROUP BY s.id ORDER BY s.stage IN ('Closed', 'Cancelled'), s.no DESC LIMIT ${SHOWN}`,
  );
}

/** Units of products that are on their way to a network and not counted yet. */
export function onTheWay(sql: Sql, network: string): Promise<{ productId: string; units: number }[]> {
  return sql.rows(
    `SELECT l.productId, CAST(SUM(l.units) AS INT) AS units FROM inboundPartLine l JOIN inboundPart p ON p.id = l.partId JOIN inboundShipment s ON s.id = p.shipmentId
     WHERE s.network = ? AND p.stage IN ('Booked', 'Travelling', 'At dock', 'Counting in') GROUP BY l.productId`,
    [network],
  );
}

/** What is to go to the center of each part of a shipment. */
export function planned(
  sql: Sql,
  shipmentId: string,
): Promise<(Pick<InboundPartLine, 'partId' | 'units'> & Pick<Product, 'sku'>)[]> {
  return sql.rows(
    'SELECT l.partId, p.sku, l.units FROM inboundPartLine l JOIN inboundPart a ON a.id = l.partId JOIN product p ON p.id = l.productId WHERE a.shipmentId = ? ORDER BY a.seq, p.sku',
    [shipmentId],
  );
}

/** Shipments that are reserved and not booked throughout, by whose plans their networks keep. */
export function plansToLookAt(sql: Sql): Promise<Pick<InboundShipment, 'no' | 'network'>[]> {
  return sql.rows(
    "SELECT s.no, s.network FROM inboundShipment s WHERE s.planCode IS NOT NULL AND s.stage IN ('Draft', 'Boxed') AND EXISTS (SELECT 1 FROM inboundPart p WHERE p.shipmentId = s.id AND p.orderId IS NOT NULL AND p.stage <> 'Cancelled') ORDER BY s.no LIMIT 500",
  );
}

/** A line of a shipment by the SKU of its product. */
export function lineOfSku(
  sql: Sql,
  shipmentId: string,
  sku: string,
): Promise<Pick<InboundLine, 'id'> | null> {
  return sql.one(
    'SELECT l.id FROM inboundLine l JOIN product p ON p.id = l.productId WHERE l.shipmentId = ? AND p.sku = ?',
    [shipmentId, sku],
  );
}

/** Reserved shipments that are not packed throughout, the one that leaves first before the others. */
export function shipmentsToPrepare(sql: Sql): Promise<Pick<InboundShipment, 'no'>[]> {
  return sql.rows(
    "SELECT s.no FROM inboundShipment s WHERE s.stage = 'Draft' AND EXISTS (SELECT 1 FROM inboundPart p WHERE p.shipmentId = s.id AND p.orderId IS NOT NULL AND p.stage <> 'Cancelled') ORDER BY s.shipDay IS NULL, s.shipDay, s.no LIMIT 50",
  );
}

/** The open session at which a shipment is prepared. */
export function openPreparingOf(sql: Sql, shipmentId: string): Promise<Pick<ScanSession, 'id'> | null> {
  return sql.one(
    "SELECT id FROM scanSession WHERE inboundShipmentId = ? AND kind = 'prepare' AND closedAt IS NULL ORDER BY openedAt DESC LIMIT 1",
    [shipmentId],
  );
}

/** The shipment that a session prepares. */
export function shipmentOfSession(sql: Sql, sessionId: string): Promise<Pick<InboundShipment, 'no'> | null> {
  return sql.one(
    'SELECT s.no FROM scanSession x JOIN inboundShipment s ON s.id = x.inboundShipmentId WHERE x.id = ?',
    [sessionId],
  );
}

/** Units that buyers ordered of products since a day, and what one of them brought on average (minor units of the house's currency; null where only others were used). */
export function soldSince(
  sql: Sql,
  productIds: readonly string[],
  since: Date,
  own: readonly string[],
  currency: string,
): Promise<{ productId: string; units: number; eachMinor: number | null }[]> {
  return sql.rows(
    `SELECT l.productId, CAST(SUM(l.quantity) AS INT) AS units, CAST(AVG(IF(o.currency = ?, l.priceMinor, NULL)) AS DOUBLE) AS eachMinor FROM orderLine l JOIN orders o ON o.id = l.orderId JOIN channel c ON c.id = o.channelId
     WHERE l.productId IN (?) AND l.removedAt IS NULL AND o.placedAt >= ? AND c.code NOT IN (?) AND o.stage <> 'Cancelled' GROUP BY l.productId`,
    [currency, productIds, since, own],
  );
}

/** What is free of products, and what expires before a day of it. */
export function freeUnits(
  sql: Sql,
  productIds: readonly string[],
  lastsUntil: string,
): Promise<{ productId: string; free: number; soon: number }[]> {
  return sql.rows(
    `SELECT s.productId, s.onHand - s.reserved AS free, COALESCE((SELECT CAST(SUM(b.onHand - b.listed) AS INT) FROM stockBalance b JOIN lot t ON t.id = b.lotKey JOIN place p ON p.id = b.placeId AND p.kind IN ('bin', 'reserve', 'dock')
       WHERE b.productId = s.productId AND t.expiry < ?), 0) AS soon FROM productStock s WHERE s.productId IN (?)`,
    [lastsUntil, productIds],
  );
}

/** When more of a product is expected, and how much. */
export function expectedOf(
  sql: Sql,
  productId: string,
): Promise<{ no: number; units: number; expected: string | null } | null> {
  return sql.one(
    `SELECT o.no, l.quantity - l.received AS units, CAST(o.expected AS CHAR) AS expected FROM purchaseLine l JOIN purchaseOrder o ON o.id = l.orderId AND o.state = 'open'
     WHERE l.productId = ? AND l.quantity > l.received ORDER BY o.expected IS NULL, o.expected LIMIT 1`,
    [productId],
  );
}

/** Parcels of the order of a part, with the numbers of their shipping units and what their own carriers gave them. */
export function boxesOf(
  sql: Sql,
  orderId: string,
): Promise<
  (Pick<Parcel, 'id' | 'no' | 'seq' | 'boxCode' | 'weightMg' | 'closedAt' | 'departedAt'> & {
    sscc: string | null;
    tracking: string | null;
  })[]
> {
  return sql.rows(
    `SELECT c.id, c.no, c.seq, c.boxCode, c.weightMg, c.closedAt, c.departedAt, b.sscc, x.tracking FROM parcel c LEFT JOIN inboundBox b ON b.parcelId = c.id
     LEFT JOIN label x ON x.liveParcel = c.id AND x.state = 'bought' WHERE c.orderId = ? ORDER BY c.seq`,
    [orderId],
  );
}

/** What lies in parcels, or lay in them when they left, by product and lot. */
export function contentsOf(
  sql: Sql,
  parcelIds: readonly string[],
): Promise<
  {
    parcelId: string;
    productId: string;
    sku: string;
    units: number;
    lot: string | null;
    expiry: string | null;
  }[]
> {
  return sql.rows(
    `SELECT a.parcelKey AS parcelId, a.productId, p.sku, CAST(SUM(a.quantity) AS INT) AS units, t.code AS lot, CAST(t.expiry AS CHAR) AS expiry FROM allocation a JOIN product p ON p.id = a.productId
       LEFT JOIN pickStop s ON s.id = a.stopKey LEFT JOIN lot t ON t.id = s.lotId
     WHERE a.parcelKey IN (?) AND a.hold IN ('packed', 'departed') AND a.quantity > 0 GROUP BY a.parcelKey, a.productId, t.id ORDER BY p.sku`,
    [parcelIds],
  );
}

/** Orders of parts with where they stand. */
export function ordersOfParts(
  sql: Sql,
  shipmentId: string,
): Promise<(Pick<Order, 'id' | 'no' | 'stage'> & { partId: string })[]> {
  return sql.rows(
    'SELECT o.id, o.no, o.stage, p.id AS partId FROM inboundPart p JOIN orders o ON o.id = p.orderId WHERE p.shipmentId = ?',
    [shipmentId],
  );
}

export function storyOf(
  sql: Sql,
  shipmentId: string,
): Promise<(Pick<InboundEvent, 'at' | 'says' | 'sscc' | 'partId'> & { person: Person['name'] | null })[]> {
  return sql.rows(
    'SELECT e.at, e.says, e.sscc, e.partId, p.name AS person FROM inboundEvent e LEFT JOIN person p ON p.id = e.personId WHERE e.shipmentId = ? ORDER BY e.at, e.id',
    [shipmentId],
  );
}

/** Gives packed boxes their rows; what has one keeps it. */
export function numberBoxes(tx: Tx, partId: string, orderId: string): Promise<number> {
  return tx.run(
    'INSERT INTO inboundBox (partId, parcelId) SELECT ?, c.id FROM parcel c WHERE c.orderId = ? AND c.closedAt IS NOT NULL AND NOT EXISTS (SELECT 1 FROM inboundBox b WHERE b.parcelId = c.id) ORDER BY c.seq',
    [partId, orderId],
  );
}

/** Gives so many pallets of a part their rows; what has one keeps it, and what is not there any more has none. */
export async function numberPallets(tx: Tx, partId: string, pallets: number): Promise<void> {
  await tx.run('DELETE FROM inboundBox WHERE partId = ? AND pallet > ?', [partId, pallets]);
  for (let i = 1; i <= pallets; i++)
    await tx.run(
      'INSERT INTO inboundBox (partId, pallet) VALUES (?, ?) ON DUPLICATE KEY UPDATE pallet = pallet',
      [partId, i],
    );
}

/** The numbers of the pallets of a part, the first first. */
export function palletNumbers(sql: Sql, partId: string): Promise<{ sscc: string }[]> {
  return sql.rows('SELECT sscc FROM inboundBox WHERE partId = ? AND pallet IS NOT NULL ORDER BY pallet', [
    partId,
  ]);
}

export function boxesWithout(tx: Tx, partId: string): Promise<Pick<InboundBoxRow, 'n'>[]> {
  return tx.rows('SELECT n FROM inboundBox WHERE partId = ? AND sscc IS NULL ORDER BY n', [partId]);
}

/** What is packed of the order of a part: units wanted, and units in closed parcels. */
export function packedOfOrder(
  sql: Sql,
  orderId: string,
): Promise<{ wanted: number; closed: number; boxes: number } | null> {
  return sql.one(
    `SELECT CAST(COALESCE((SELECT SUM(quantity) FROM linePart WHERE orderId = o.id), 0) AS INT) AS wanted, CAST(COALESCE((SELECT SUM(a.quantity) FROM allocation a JOIN parcel c ON c.id = a.parcelKey AND c.closedAt IS NOT NULL WHERE a.orderId = o.id AND a.hold = 'packed'), 0) AS INT) AS closed,
       (SELECT COUNT(*) FROM parcel c WHERE c.orderId = o.id AND c.closedAt IS NOT NULL) AS boxes FROM orders o WHERE o.id = ?`,
    [orderId],
  );
}

/** Parts whose network is to be asked what became of them. */
export function partsToFollow(sql: Sql): Promise<{ id: string; network: string }[]> {
  return sql.rows(
    "SELECT p.id, s.network FROM inboundPart p JOIN inboundShipment s ON s.id = p.shipmentId WHERE p.bookState IN ('asked', 'unknown') OR (p.bookState = 'booked' AND p.stage NOT IN ('Closed', 'Cancelled')) ORDER BY p.id LIMIT 500",
  );
}

/** What is still on its way in the place of a part, by product and lot. */
export function lyingAt(
  tx: Tx,
  placeId: string,
): Promise<{ productId: string; lotId: string | null; units: number }[]> {
  return tx.rows(
    'SELECT productId, IF(lotKey = ?, NULL, lotKey) AS lotId, onHand AS units FROM stockBalance WHERE placeId = ? AND onHand > 0 ORDER BY productId, lotKey FOR UPDATE',
    [NONE, placeId],
  );
}

/** Units of a product: sent with a part, counted of it, and booked as surplus already. */
export function surplusOf(
  tx: Tx,
  partId: string,
  productId: string,
): Promise<{ sent: number; counted: number; booked: number } | null> {
  return tx.one(
    `SELECT CAST(COALESCE((SELECT units FROM inboundPartLine WHERE partId = ? AND productId = ?), 0) AS INT) AS sent, CAST(COALESCE((SELECT SUM(units) FROM inboundCount WHERE partId = ? AND productId = ?), 0) AS INT) AS counted,
       CAST(COALESCE((SELECT SUM(quantity) FROM stockMove WHERE causeId = ? AND productId = ? AND why = 'surplus at center'), 0) AS INT) AS booked`,
    [partId, productId, partId, productId, partId, productId],
  );
}

/** What was counted of a part so far. */
export function countedBefore(
  sql: Sql,
  partId: string,
): Promise<Pick<InboundCount, 'sscc' | 'code' | 'units'>[]> {
  return sql.rows('SELECT sscc, code, units FROM inboundCount WHERE partId = ?', [partId]);
}

/** Parts whose orders are among some, and whether all of them has left. */
export function partsOfOrders(
  sql: Sql,
  orderIds: readonly string[],
): Promise<(Pick<InboundPart, 'id'> & { departed: number })[]> {
  return sql.rows(
    "SELECT p.id, o.stage = 'Departed' AS departed FROM inboundPart p JOIN orders o ON o.id = p.orderId WHERE p.orderId IN (?)",
    [orderIds],
  );
}

export function stageOfOrder(sql: Sql, orderId: string): Promise<Pick<Order, 'stage'> | null> {
  return sql.one('SELECT stage FROM orders WHERE id = ?', [orderId]);
}

/** What was counted otherwise than it was sent, of all parts of a shipment. */
export function differencesOf(
  sql: Sql,
  shipmentId: string,
): Promise<
  (Pick<InboundDifference, 'sscc' | 'code' | 'missing' | 'state' | 'reason'> &
    Pick<InboundPart, 'center' | 'bookNo'>)[]
> {
  return sql.rows(
    'SELECT d.sscc, d.code, d.missing, d.state, d.reason, p.center, p.bookNo FROM inboundDifference d JOIN inboundPart p ON p.id = d.partId WHERE p.shipmentId = ? ORDER BY p.seq, d.sscc, d.code',
    [shipmentId],
  );
}

/** Goods of a purchase order, by its number. */
export function goodsOfPurchase(sql: Sql, no: number): Promise<{ sku: string; units: number }[]> {
  return sql.rows(
    'SELECT p.sku, CAST(SUM(l.quantity) AS INT) AS units FROM purchaseLine l JOIN purchaseOrder o ON o.id = l.orderId JOIN product p ON p.id = l.productId WHERE o.no = ? GROUP BY p.id ORDER BY p.sku',
    [no],
  );
}

/** The kits of a build, by its number. */
export function goodsOfBuild(sql: Sql, no: number): Promise<{ sku: string; units: number }[]> {
  return sql.rows(
    "SELECT p.sku, b.quantity AS units FROM build b JOIN product p ON p.id = b.productId WHERE b.no = ? AND b.kind = 'make'",
    [no],
  );
}
