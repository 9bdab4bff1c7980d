import { type PurchaseOrderRow } from '@auk/contract';
import type { Product } from '../catalog/product.entity.js';
import type { Sql, Tx } from '../database/db.js';
import type { LinePart } from '../records/linePart.entity.js';
import type { Order } from '../records/order.entity.js';
import type { PurchaseOrder } from './purchaseOrder.entity.js';

export interface PurchaseOrderRecord {
  id: string;
  no: number;
  reference: string;
  expected: string | null;
  state: 'open' | 'done' | 'cancelled' | 'to buyer';
  supplier: string;
}

/** Purchase orders on the page. */
export const SHOWN = 200;

export function productsBySku(
  sql: Sql,
  skus: readonly string[],
): Promise<(Pick<Product, 'id' | 'sku' | 'name'> & { kind: string; stage: string })[]> {
  return sql.rows('SELECT id, sku, name, kind, stage FROM product WHERE sku IN (?)', [skus]);
}

export function orderedBefore(
  sql: Sql,
  supplier: string,
  reference: string,
): Promise<Pick<PurchaseOrder, 'no'> | null> {
  return sql.one(
    'SELECT o.no FROM purchaseOrder o JOIN supplier s ON s.id = o.supplierId WHERE s.name = ? AND o.reference = ?',
    [supplier, reference],
  );
}

export function addSupplier(tx: Tx, id: string, name: string): Promise<number> {
  return tx.run('INSERT IGNORE INTO supplier (id, name) VALUES (?, ?)', [id, name]);
}

export function openFirst(
  sql: Sql,
): Promise<
  (Omit<PurchaseOrderRow, 'no' | 'late' | 'frees'> &
    Pick<LinePart, 'id'> &
    Pick<Order, 'no'> & { frees: number })[]
> {
  return sql.rows(`SELECT o.id, o.no, s.name AS supplier, o.reference, CAST(o.expected AS CHAR) AS expected, o.state, COUNT(l.id) AS \`lines\`, CAST(SUM(l.quantity) AS INT) AS ordered, CAST(SUM(l.received) AS INT) AS received,
         (SELECT COUNT(DISTINCT p.orderId) FROM linePart p JOIN orders x ON x.id = p.orderId AND x.stage = 'Short' JOIN purchaseLine w ON w.productId = p.productId AND w.orderId = o.id AND w.received < w.quantity
           WHERE p.quantity > (SELECT COALESCE(SUM(a.quantity), 0) FROM allocation a WHERE a.partId = p.id)) AS frees
       FROM ((SELECT id FROM purchaseOrder WHERE state = 'open' ORDER BY expected LIMIT ${SHOWN}) UNION (SELECT id FROM purchaseOrder ORDER BY no DESC LIMIT ${SHOWN})) w
         JOIN purchaseOrder o ON o.id = w.id JOIN supplier s ON s.id = o.supplierId JOIN purchaseLine l ON l.orderId = o.id GROUP BY o.id ORDER BY o.state <> 'open', IF(o.state = 'open', o.expected IS NULL, 0), IF(o.state = 'open', o.expected, NULL), o.no DESC LIMIT ${SHOWN}`);
}

export function lockPurchaseOrder(tx: Tx, number: string | number): Promise<PurchaseOrderRecord | null> {
  return tx.one(
    'SELECT o.id, o.no, o.reference, CAST(o.expected AS CHAR) AS expected, o.state, s.name AS supplier FROM purchaseOrder o JOIN supplier s ON s.id = o.supplierId WHERE o.no = ? FOR UPDATE',
    [number],
  );
}

export function receivedUnits(sql: Sql, orderId: string): Promise<{ n: number } | null> {
  return sql.one('SELECT CAST(SUM(received) AS INT) AS n FROM purchaseLine WHERE orderId = ?', [orderId]);
}
