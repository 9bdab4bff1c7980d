import type { Sql } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { Measured } from './measured.entity.js';
import type { Product } from './product.entity.js';

type Found = Pick<Measured, 'id' | 'at' | 'length' | 'width' | 'height' | 'weightMg'> &
  Pick<Product, 'sku' | 'name' | 'packedWeightMg'> & {
    keptLength: number | null;
    keptWidth: number | null;
    keptHeight: number | null;
    keptMg: number | null;
    person: string | null;
    orderNo: Order['no'] | null;
  };

const FOUND = `SELECT m.id, m.at, m.length, m.width, m.height, m.weightMg, p.sku, p.name, p.packedWeightMg, p.length AS keptLength, p.width AS keptWidth, p.height AS keptHeight,
    COALESCE(p.packedWeightMg, p.weightMg) AS keptMg, n.name AS person, o.no AS orderNo
  FROM measured m JOIN product p ON p.id = m.productId LEFT JOIN person n ON n.id = m.personId LEFT JOIN orders o ON o.id = m.orderId`;

/** What nobody has looked at yet, the newest first. */
export function openMeasures(sql: Sql): Promise<Found[]> {
  return sql.rows(`${FOUND} WHERE m.decidedAt IS NULL ORDER BY m.at DESC LIMIT 200`);
}

export function openMeasure(sql: Sql, id: string): Promise<Found | null> {
  return sql.one(`${FOUND} WHERE m.decidedAt IS NULL AND m.id = ?`, [id]);
}

/** The newest size that was measured of products and not looked at yet. */
export function measuredSizes(
  sql: Sql,
  productIds: readonly string[],
): Promise<(Pick<Measured, 'productId'> & { length: number; width: number; height: number })[]> {
  return sql.rows(
    'SELECT m.productId, m.length, m.width, m.height FROM measured m WHERE m.productId IN (?) AND m.length IS NOT NULL AND m.decidedAt IS NULL ORDER BY m.at',
    [productIds],
  );
}
