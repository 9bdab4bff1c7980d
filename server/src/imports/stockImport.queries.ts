import type { Product } from '../catalog/product.entity.js';
import type { Sql } from '../database/db.js';
import type { Place } from '../stock/place.entity.js';
import { PROMISED_KINDS } from '../stock/stock.module.js';
import type { StockBalance } from '../stock/stockBalance.entity.js';

export function productFacts(
  sql: Sql,
  sku: string,
): Promise<(Pick<Product, 'id' | 'name'> & { kind: string; facts: string }) | null> {
  return sql.one('SELECT id, name, kind, facts FROM product WHERE sku = ?', [sku]);
}

export function promisedPlace(sql: Sql, place: string): Promise<Pick<Place, 'id'> | null> {
  return sql.one(`SELECT id FROM place WHERE code = ? AND kind IN (${PROMISED_KINDS})`, [place]);
}

export function lotsThere(
  sql: Sql,
  productId: string,
  placeId: string,
): Promise<Pick<StockBalance, 'lotKey' | 'onHand' | 'listed'>[]> {
  return sql.rows(
    `SELECT lotKey, onHand, listed FROM stockBalance WHERE productId = ? AND placeId = ? AND onHand <> 0 ORDER BY lotKey`,
    [productId, placeId],
  );
}

export function freeOf(sql: Sql, productId: string): Promise<{ free: number } | null> {
  return sql.one('SELECT onHand - reserved AS free FROM productStock WHERE productId = ?', [productId]);
}
