import type { Sql } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { ProductStock } from '../stock/productStock.entity.js';

export function freeOf(
  sql: Sql,
  stocked: readonly string[],
): Promise<(Pick<ProductStock, 'productId'> & { free: number })[]> {
  return sql.rows('SELECT productId, onHand - reserved AS free FROM productStock WHERE productId IN (?)', [
    [...stocked, NONE],
  ]);
}
