import { type RecipePart } from '@auk/core';
import type { Sql, Tx } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { Allocation } from '../stock/allocation.entity.js';
import { type AtHand } from './buildParts.js';

export function addMade(tx: Tx, made: number, buildId: string): Promise<number> {
  return tx.run('UPDATE build SET made = made + ? WHERE id = ?', [made, buildId]);
}

export function lockUnlisted(tx: Tx, kitId: string, fromId: string): Promise<{ n: number } | null> {
  return tx.one(
    'SELECT onHand - listed AS n FROM stockBalance WHERE productId = ? AND placeId = ? AND lotKey = ? FOR UPDATE',
    [kitId, fromId, NONE],
  );
}

export function partProducts(sql: Sql, recipeId: string): Promise<Pick<RecipePart, 'productId'>[]> {
  return sql.rows('SELECT productId FROM recipePart WHERE recipeId = ?', [recipeId]);
}

export function recipeParts(sql: Sql, recipeId: string): Promise<RecipePart[]> {
  return sql.rows('SELECT productId, quantity FROM recipePart WHERE recipeId = ? ORDER BY position', [
    recipeId,
  ]);
}

export function lockOnBench(tx: Tx, benchId: string | null): Promise<AtHand[]> {
  return tx.rows(
    `SELECT productId, placeId, IF(lotKey = ?, NULL, lotKey) AS lotId, onHand AS quantity, NULL AS partId, NULL AS stopId, NULL AS homeId
         FROM stockBalance WHERE placeId = ? AND onHand > 0 ORDER BY productId, lotKey FOR UPDATE`,
    [NONE, benchId],
  );
}

export function pickedFor(sql: Sql, orderId: string | null): Promise<AtHand[]> {
  return sql.rows(
    `SELECT a.productId, s.toteId AS placeId, s.lotId, a.quantity, a.partId, a.stopKey AS stopId, s.placeId AS homeId
       FROM allocation a JOIN pickStop s ON s.id = a.stopKey WHERE a.orderId = ? AND a.hold = 'picked' AND a.quantity > 0 ORDER BY a.stopKey`,
    [orderId],
  );
}

export function softOf(
  sql: Sql,
  orderId: string,
): Promise<Pick<Allocation, 'partId' | 'productId' | 'quantity'>[]> {
  return sql.rows(
    "SELECT partId, productId, quantity FROM allocation WHERE orderId = ? AND hold = 'soft' AND quantity > 0",
    [orderId],
  );
}

export function anythingUsed(sql: Sql, orderId: string): Promise<unknown | null> {
  return sql.one(
    "SELECT partId FROM allocation WHERE orderId = ? AND hold = 'departed' AND quantity > 0 LIMIT 1",
    [orderId],
  );
}
