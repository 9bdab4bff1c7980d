import type { Recipe } from '../catalog/recipe.entity.js';
import type { Sql, Tx } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { LinePart } from '../records/linePart.entity.js';

/** An open order's line whose parts are not those of the newest recipes. */
export interface OlderLine {
  orderId: string;
  no: number;
  channelNumber: string;
  stage: string;
  lineId: string;
  productId: string;
  quantity: number;
  units: number;
  version: number | null;
}

export function lockProduct(tx: Tx, productId: string): Promise<unknown[]> {
  return tx.rows('SELECT id FROM product WHERE id = ? FOR UPDATE', [productId]);
}

export function newestVersion(sql: Sql, productId: string): Promise<Pick<Recipe, 'version'> | null> {
  return sql.one('SELECT COALESCE(MAX(version), 0) AS version FROM recipe WHERE productId = ?', [productId]);
}

export function openLinesOf(sql: Sql, ids: readonly string[]): Promise<OlderLine[]> {
  return sql.rows(
    `SELECT o.id AS orderId, o.no, o.channelNumber, o.stage, l.id AS lineId, l.productId, l.quantity, l.units, r.version FROM orderLine l JOIN orders o ON o.id = l.orderId AND o.isOpen
       LEFT JOIN recipe r ON r.id = l.recipeId WHERE l.productId IN (?) AND l.removedAt IS NULL ORDER BY o.no`,
    [ids],
  );
}

export function partsOfLines(
  sql: Sql,
  lineIds: readonly string[],
): Promise<Pick<LinePart, 'lineId' | 'productId' | 'quantity'>[]> {
  return sql.rows(
    'SELECT lineId, productId, CAST(SUM(quantity + made) AS INT) AS quantity FROM linePart WHERE lineId IN (?) AND kitId IS NULL AND quantity + made > 0 GROUP BY lineId, productId',
    [[...lineIds, NONE]],
  );
}
