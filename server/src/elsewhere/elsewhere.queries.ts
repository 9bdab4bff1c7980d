import type { Product } from '../catalog/product.entity.js';
import type { Sql } from '../database/db.js';
import type { Label } from '../labels/label.entity.js';
import type { Parcel } from '../parcels/parcel.entity.js';
import type { PurchaseOrder } from '../receiving/purchaseOrder.entity.js';
import type { Supplier } from '../receiving/supplier.entity.js';
import type { Order } from '../records/order.entity.js';
import type { SentElsewhere } from '../records/sentElsewhere.entity.js';

/** Who sends an order, with the purchase order to them and where that was mailed. */
export function whoSends(
  sql: Sql,
  orderId: string,
): Promise<
  | (Pick<SentElsewhere, 'center' | 'placedAt' | 'leftAt' | 'why'> & {
      supplier: Supplier['name'] | null;
      purchaseNo: PurchaseOrder['no'] | null;
      mail: string | null;
    })
  | null
> {
  return sql.one(
    `SELECT e.center, e.placedAt, e.leftAt, e.why, s.name AS supplier, p.no AS purchaseNo, (SELECT m.toWhom FROM mail m WHERE m.moment = 'purchase' AND m.cause = p.id) AS mail
       FROM sentElsewhere e LEFT JOIN supplier s ON s.id = e.supplierId LEFT JOIN purchaseOrder p ON p.id = e.purchaseOrderId WHERE e.orderId = ?`,
    [orderId],
  );
}

/** What an order asks a supplier for, each product once. */
export function linesToOrder(
  sql: Sql,
  orderId: string,
): Promise<
  (Pick<Product, 'sku' | 'name'> & {
    productId: string;
    quantity: number;
    code: string | null;
    priceMinor: number | null;
  })[]
> {
  return sql.rows(
    `SELECT p.id AS productId, p.sku, p.name, CAST(SUM(l.quantity * l.units) AS SIGNED) AS quantity, JSON_VALUE(p.facts, '$.supplierCode') AS code, CAST(JSON_VALUE(p.facts, '$.supplierMinor') AS SIGNED) AS priceMinor
       FROM orderLine l JOIN product p ON p.id = l.productId WHERE l.orderId = ? AND l.removedAt IS NULL GROUP BY p.id ORDER BY MIN(l.position)`,
    [orderId],
  );
}

/** The order that a purchase order sends to a buyer, by its number, with the supplier's lines. */
export function purchaseToBuyer(
  sql: Sql,
  no: number,
): Promise<
  | (Pick<PurchaseOrder, 'id' | 'no' | 'createdAt' | 'note'> &
      Pick<Order, 'channelNumber'> & { orderId: Order['id']; supplier: string; shipTo: string })
  | null
> {
  return sql.one(
    `SELECT p.id, p.no, p.createdAt, p.note, s.name AS supplier, o.id AS orderId, o.channelNumber, o.shipTo
       FROM purchaseOrder p JOIN supplier s ON s.id = p.supplierId JOIN sentElsewhere e ON e.purchaseOrderId = p.id JOIN orders o ON o.id = e.orderId WHERE p.no = ?`,
    [no],
  );
}

export function purchaseLines(
  sql: Sql,
  purchaseId: string,
): Promise<
  (Pick<Product, 'sku' | 'name'> & { quantity: number; priceMinor: number | null; code: string | null })[]
> {
  return sql.rows(
    `SELECT p.sku, p.name, l.quantity, l.priceMinor, JSON_VALUE(p.facts, '$.supplierCode') AS code FROM purchaseLine l JOIN product p ON p.id = l.productId WHERE l.orderId = ? ORDER BY l.position`,
    [purchaseId],
  );
}

/** Orders that somebody else sends, among some. */
export function elsewhereAmong(
  sql: Sql,
  orderIds: readonly string[],
): Promise<
  (Pick<SentElsewhere, 'orderId' | 'supplierId' | 'purchaseOrderId' | 'center' | 'placedAt'> &
    Pick<Order, 'stage' | 'channelNumber'>)[]
> {
  return sql.rows(
    'SELECT e.orderId, e.supplierId, e.purchaseOrderId, e.center, e.placedAt, o.stage, o.channelNumber FROM sentElsewhere e JOIN orders o ON o.id = e.orderId WHERE e.orderId IN (?) ORDER BY e.orderId',
    [orderIds],
  );
}

/** The order of a channel's number or the house's own that somebody else sends. */
export function elsewhereByNumber(
  sql: Sql,
  number: string,
  no: number,
): Promise<Pick<SentElsewhere, 'orderId'>[]> {
  return sql.rows(
    "SELECT e.orderId FROM sentElsewhere e JOIN orders o ON o.id = e.orderId LEFT JOIN purchaseOrder p ON p.id = e.purchaseOrderId WHERE o.channelNumber = ? OR o.no = ? OR CONCAT('PO-', p.no) = ?",
    [number, no, number],
  );
}

/** The label under which an order left elsewhere. */
export function labelElsewhere(
  sql: Sql,
  orderId: string,
): Promise<(Pick<Label, 'tracking' | 'carrierName'> & Pick<Parcel, 'no'>) | null> {
  return sql.one(
    'SELECT b.tracking, b.carrierName, c.no FROM parcel c JOIN label b ON b.liveParcel = c.id WHERE c.orderId = ? ORDER BY c.seq LIMIT 1',
    [orderId],
  );
}

/** The shipment that an order's parcels belong to. */
export function shipmentOf(sql: Sql, orderId: string): Promise<{ id: string } | null> {
  return sql.one('SELECT id FROM shipment WHERE orderId = ? AND seq = 1', [orderId]);
}

/** A purchase order's number, and where its supplier reads mail. */
export function purchaseMail(
  sql: Sql,
  id: string,
): Promise<(Pick<PurchaseOrder, 'no'> & Pick<Supplier, 'mail'>) | null> {
  return sql.one(
    'SELECT p.no, s.mail FROM purchaseOrder p JOIN supplier s ON s.id = p.supplierId WHERE p.id = ?',
    [id],
  );
}

/** An order as a center is told of it. */
export function orderToSend(
  sql: Sql,
  orderId: string,
): Promise<(Pick<Order, 'channelNumber' | 'stage'> & { shipTo: string }) | null> {
  return sql.one('SELECT channelNumber, stage, shipTo FROM orders WHERE id = ?', [orderId]);
}

/** Centers that have orders of the house. */
export function centersToAsk(sql: Sql): Promise<Pick<SentElsewhere, 'center'>[]> {
  return sql.rows(
    'SELECT DISTINCT center FROM sentElsewhere WHERE center IS NOT NULL AND leftAt IS NULL AND placedAt IS NOT NULL',
  );
}

/** Some of what is ordered at a center and has not left, after an order, by their ids. */
export function ordersAt(sql: Sql, center: string, after: string): Promise<Pick<SentElsewhere, 'orderId'>[]> {
  return sql.rows(
    "SELECT e.orderId FROM sentElsewhere e JOIN orders o ON o.id = e.orderId AND o.stage <> 'Cancelled' WHERE e.center = ? AND e.placedAt IS NOT NULL AND e.leftAt IS NULL AND e.orderId > ? ORDER BY e.orderId LIMIT 200",
    [center, after],
  );
}
