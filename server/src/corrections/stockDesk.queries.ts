import type { Product } from '../catalog/product.entity.js';
import type { Sql } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { Lot } from '../stock/lot.entity.js';
import type { StockBalance } from '../stock/stockBalance.entity.js';
import type { StockMove } from '../stock/stockMove.entity.js';

export interface ProductFound {
  id: string;
  sku: string;
  name: string;
  kind: 'piece' | 'kit' | 'bundle';
}

export function newestChange(
  sql: Sql,
  placeId: string,
  seen: number,
  key: string,
): Promise<(Pick<StockMove, 'why'> & Pick<Product, 'name'> & { person: string | null }) | null> {
  return sql.one(
    `SELECT m.why, p.name, w.name AS person FROM (SELECT id FROM stockMove WHERE fromPlaceId = ? AND id > ? UNION ALL SELECT id FROM stockMove WHERE toPlaceId = ? AND id > ?) x
       JOIN stockMove m ON m.id = x.id JOIN product p ON p.id = m.productId LEFT JOIN person w ON w.id = m.personId WHERE NOT (m.causeId <=> ?) ORDER BY m.id DESC LIMIT 1`,
    [placeId, seen, placeId, seen, key],
  );
}

export function liesThere(
  sql: Sql,
  productId: string,
  placeId: string,
  lotId: string,
): Promise<Pick<StockBalance, 'onHand'> | null> {
  return sql.one('SELECT onHand FROM stockBalance WHERE productId = ? AND placeId = ? AND lotKey = ?', [
    productId,
    placeId,
    lotId,
  ]);
}

export function shortAmong(
  sql: Sql,
  orderIds: readonly string[],
): Promise<Pick<Order, 'no' | 'channelNumber'>[]> {
  return sql.rows("SELECT no, channelNumber FROM orders WHERE id IN (?) AND stage = 'Short' ORDER BY no", [
    [...orderIds, NONE],
  ]);
}

export function unitsIn(sql: Sql, toId: string): Promise<{ n: number } | null> {
  return sql.one('SELECT CAST(COALESCE(SUM(onHand), 0) AS INT) AS n FROM stockBalance WHERE placeId = ?', [
    toId,
  ]);
}

export function productBySku(sql: Sql, sku: string): Promise<ProductFound | null> {
  return sql.one('SELECT id, sku, name, kind FROM product WHERE sku = ?', [sku]);
}

export function lotByCode(sql: Sql, productId: string, code: string): Promise<Pick<Lot, 'id'> | null> {
  return sql.one('SELECT id FROM lot WHERE productId = ? AND code = ?', [productId, code]);
}
