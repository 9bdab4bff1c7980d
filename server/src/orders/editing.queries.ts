import type { Product } from '../catalog/product.entity.js';
import type { Sql } from '../database/db.js';
import type { OrderEvent } from '../records/orderEvent.entity.js';

export function sold(
  sql: Sql,
  sku: string,
  channelId: string,
  channelSku: string,
): Promise<(Pick<Product, 'name' | 'sku'> & { price: number | null }) | null> {
  return sql.one(
    `SELECT p.name, p.sku, (SELECT l.priceMinor FROM listing l WHERE l.productId = p.id AND l.priceMinor IS NOT NULL ORDER BY l.units, l.id LIMIT 1) AS price FROM product p WHERE p.sku = ? AND p.stage <> 'Retired'
       UNION ALL SELECT l.title, l.channelSku, l.priceMinor FROM listing l WHERE l.channelId = ? AND l.channelSku = ? LIMIT 1`,
    [sku, channelId, channelSku],
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
