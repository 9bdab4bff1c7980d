import type { Product } from '../catalog/product.entity.js';
import type { Sql } from '../database/db.js';
import type { OrderEvent } from '../records/orderEvent.entity.js';

/** What is sold under an SKU, in this channel under one of its own, or has a code; `units` is how many one of the code are. */
export function sold(
  sql: Sql,
  sku: string,
  channelId: string,
  text: { channelSku: string; code: string },
): Promise<(Pick<Product, 'name' | 'sku'> & { price: number | null; units: number }) | null> {
  return sql.one(
    `SELECT p.name, p.sku, (SELECT l.priceMinor FROM listing l WHERE l.productId = p.id AND l.priceMinor IS NOT NULL ORDER BY l.units, l.id LIMIT 1) AS price, 1 AS units FROM product p WHERE p.sku = ? AND p.stage <> 'Retired'
       UNION ALL SELECT l.title, l.channelSku, l.priceMinor, 1 FROM listing l WHERE l.channelId = ? AND l.channelSku = ?
       UNION ALL SELECT p.name, p.sku, (SELECT l.priceMinor FROM listing l WHERE l.productId = p.id AND l.priceMinor IS NOT NULL ORDER BY l.units, l.id LIMIT 1), c.units
         FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ? AND p.stage <> 'Retired' LIMIT 1`,
    [sku, channelId, text.channelSku, text.code],
  );
}

export function changesSince(
  sql: Sql,
  orderId: string,
  seen: number,
): Promise<(Pick<OrderEvent, 'at' | 'says'> & { person: string | null; changes: string | null })[]> {
  return sql.rows(
    'SELECT e.at, p.name AS person, e.says, e.changes FROM orderEvent e LEFT JOIN person p ON p.id = e.personId WHERE e.orderId = ? AND e.version > ? ORDER BY e.id',
    [orderId, seen],
  );
}
