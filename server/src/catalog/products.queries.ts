import type { Sql, Tx } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { Product } from './product.entity.js';
import type { ProductCode } from './productCode.entity.js';

export function setKitPolicy(tx: Tx, kitPolicy: string, productId: string): Promise<number> {
  return tx.run('UPDATE product SET kitPolicy = ?, version = version + 1 WHERE id = ?', [
    kitPolicy,
    productId,
  ]);
}

export function placeBears(sql: Sql, code: string): Promise<boolean | null> {
  return sql.one('SELECT code FROM place WHERE code = ? LIMIT 1', [code]);
}

export function bearerOf(
  sql: Sql,
  code: string,
): Promise<(Pick<Product, 'sku' | 'name'> & Pick<ProductCode, 'units'>) | null> {
  return sql.one(
    'SELECT p.sku, p.name, c.units FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ?',
    [code],
  );
}

export function setStage(tx: Tx, stage: string, productId: string): Promise<number> {
  return tx.run('UPDATE product SET stage = ?, version = version + 1 WHERE id = ?', [stage, productId]);
}

export function setPicture(tx: Tx, picture: string, productId: string): Promise<number> {
  return tx.run('UPDATE product SET picture = ?, version = version + 1 WHERE id = ?', [picture, productId]);
}

export function deleteRecipeParts(tx: Tx, productId: string): Promise<number> {
  return tx.run('DELETE p FROM recipePart p JOIN recipe r ON r.id = p.recipeId WHERE r.productId = ?', [
    productId,
  ]);
}

export async function lockOrdersOf(tx: Tx, productId: string): Promise<Pick<Order, 'id'>[]> {
  return tx.holding(
    'orders',
    await tx.rows<Pick<Order, 'id'>>(
      `SELECT id FROM orders WHERE id IN (SELECT orderId FROM linePart WHERE productId = ? UNION SELECT orderId FROM orderLine WHERE productId = ? AND removedAt IS NULL)
       AND stage IN ('Incoming', 'Stopped', 'Parked', 'Short', 'Clear') AND id <> ? ORDER BY id FOR UPDATE`,
      [productId, productId, NONE],
    ),
  );
}

/** Sets columns of a product, with all its facts. */
export function setFields(
  tx: Tx,
  id: string,
  columns: readonly { field: string; after: unknown }[],
  facts: string,
): Promise<number> {
  return tx.run(
    `UPDATE product SET ${columns.map(c => `${c.field} = ?, `).join('')} facts = ?, version = version + 1 WHERE id = ?`,
    [...columns.map(c => c.after), facts, id],
  );
}

/** Tables that keep a product from being deleted. */
const KEEP_IT = [
  'linePart',
  'orderLine',
  'stockMove',
  'recipePart',
  'listing',
  'stockBalance',
  'lot',
  'build',
  'purchaseLine',
  'stockCount',
];

/** Whether anything refers to a product. */
export async function isUsed(sql: Sql, id: string): Promise<boolean> {
  const any = KEEP_IT.map(t => `SELECT 1 FROM ${t} WHERE productId = ?`).join(' UNION ALL ');
  return (
    (await sql.one(
      `${any} LIMIT 1`,
      KEEP_IT.map(() => id),
    )) !== null
  );
}
