import type { ProductQuery } from '@auk/contract';
import { type PlaceView, type ProductRow } from '@auk/contract';
import { canonicalCode } from '@auk/core';
import type { Product } from '../catalog/product.entity.js';
import type { ProductAlias } from '../catalog/productAlias.entity.js';
import type { ProductCode } from '../catalog/productCode.entity.js';
import type { ProductEvent } from '../catalog/productEvent.entity.js';
import type { Recipe } from '../catalog/recipe.entity.js';
import type { RecipePart } from '../catalog/recipePart.entity.js';
import type { Sql } from '../database/db.js';
import { NONE } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import type { LinePart } from '../records/linePart.entity.js';
import type { Place } from '../stock/place.entity.js';
import type { ProductStock } from '../stock/productStock.entity.js';
import { PROMISED_KINDS } from '../stock/stock.module.js';
import type { StockBalance } from '../stock/stockBalance.entity.js';
import type { ProductRecord } from './product.js';

export function idsOfSkus(sql: Sql, skus: readonly string[]): Promise<Pick<Product, 'id'>[]> {
  return sql.rows('SELECT id FROM product WHERE sku IN (?)', [skus]);
}

export function productByCode(
  sql: Sql,
  code: string,
): Promise<{ id: string; sku: string; name: string; units: number } | null> {
  return sql.one(
    'SELECT p.id, p.sku, p.name, c.units FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ? UNION SELECT id, sku, name, 1 FROM product WHERE sku = ? LIMIT 1',
    [code, code],
  );
}

export function idOfSku(sql: Sql, sku: string): Promise<Pick<Product, 'id'> | null> {
  return sql.one('SELECT id FROM product WHERE sku = ?', [sku]);
}

export function eventsOf(
  sql: Sql,
  sku: string,
): Promise<(Pick<ProductEvent, 'at' | 'says'> & { person: string | null; changes: string | null })[]> {
  return sql.rows(
    'SELECT e.at, n.name AS person, e.says, e.changes FROM productEvent e JOIN product p ON p.id = e.productId LEFT JOIN person n ON n.id = e.personId WHERE p.sku = ? ORDER BY e.id',
    [sku],
  );
}

export function stockOf(
  sql: Sql,
  ids: readonly string[],
): Promise<Pick<ProductStock, 'productId' | 'onHand' | 'reserved'>[]> {
  return sql.rows('SELECT productId, onHand, reserved FROM productStock WHERE productId IN (?)', [ids]);
}

export function placesOf(
  sql: Sql,
  ids: readonly string[],
): Promise<(Pick<StockBalance, 'productId' | 'onHand' | 'listed'> & Pick<Place, 'code'>)[]> {
  return sql.rows(
    `SELECT b.productId, p.code, SUM(b.onHand) AS onHand, SUM(b.listed) AS listed FROM stockBalance b JOIN place p ON p.id = b.placeId
         WHERE p.kind IN (${PROMISED_KINDS}) AND b.onHand > 0 AND b.productId IN (?) GROUP BY b.productId, p.code ORDER BY p.code`,
    [ids],
  );
}

export function listingsOf(
  sql: Sql,
  ids: readonly string[],
): Promise<(ProductRow['listings'][number] & { productId: string })[]> {
  return sql.rows(
    'SELECT l.productId, c.name AS channel, l.channelSku, l.units, l.priceMinor FROM listing l JOIN channel c ON c.id = l.channelId WHERE l.productId IN (?) ORDER BY c.name, l.channelSku',
    [ids],
  );
}

export function aliasesOf(
  sql: Sql,
  ids: readonly string[],
): Promise<Pick<ProductAlias, 'productId' | 'code'>[]> {
  return sql.rows('SELECT productId, code FROM productAlias WHERE productId IN (?) ORDER BY code', [ids]);
}

export function openOrdersOf(
  sql: Sql,
  ids: readonly string[],
): Promise<(Pick<LinePart, 'productId'> & { n: number })[]> {
  return sql.rows(
    'SELECT p.productId, COUNT(DISTINCT p.orderId) AS n FROM linePart p JOIN orders o ON o.id = p.orderId WHERE p.productId IN (?) AND p.quantity > 0 AND o.isOpen GROUP BY p.productId',
    [ids],
  );
}

export function namesOf(
  sql: Sql,
  partIds: readonly string[],
): Promise<Pick<Product, 'id' | 'sku' | 'name'>[]> {
  return sql.rows('SELECT id, sku, name FROM product WHERE id IN (?)', [[...partIds, NONE]]);
}

export function stockIn(sql: Sql, placeId: string): Promise<PlaceView['stock'][number][]> {
  return sql.rows(
    `SELECT p.sku, p.name, b.onHand, b.listed, l.code AS lot, l.expiry FROM stockBalance b JOIN product p ON p.id = b.productId
       LEFT JOIN lot l ON b.lotKey <> ? AND l.id = b.lotKey WHERE b.placeId = ? AND b.onHand <> 0 ORDER BY p.sku`,
    [NONE, placeId],
  );
}

export function newestMoveOf(sql: Sql, placeId: string): Promise<{ seen: number } | null> {
  return sql.one(
    'SELECT GREATEST(COALESCE((SELECT MAX(id) FROM stockMove WHERE fromPlaceId = ?), 0), COALESCE((SELECT MAX(id) FROM stockMove WHERE toPlaceId = ?), 0)) AS seen',
    [placeId, placeId],
  );
}

/** The columns of products that a product is made from; of all, or of those named. */
export function productRecords(sql: Sql, ids?: readonly string[]): Promise<ProductRecord[]> {
  return sql.rows(
    `SELECT id, sku, name, kind, stage, weightMg, packedWeightMg, length, width, height, facts, hint, picture, kitPolicy, version FROM product ${ids ? 'WHERE id IN (?)' : ''}`,
    ids ? [ids] : [],
  );
}

/** The codes of products with the units that each counts, the smallest first. */
export function codesOf(sql: Sql, ids?: readonly string[]): Promise<ProductCode[]> {
  return sql.rows(
    `SELECT productId, code, units, length, width, height, weightMg FROM productCode ${ids ? 'WHERE productId IN (?)' : ''} ORDER BY units, code`,
    ids ? [ids] : [],
  );
}

/** The parts of the newest recipe of each product. */
export function newestParts(
  sql: Sql,
  ids?: readonly string[],
): Promise<(Pick<Recipe, 'productId'> & Pick<RecipePart, 'recipeId' | 'quantity'> & { partId: string })[]> {
  return sql.rows(
    `SELECT r.productId, r.id AS recipeId, p.productId AS partId, p.quantity FROM recipe r JOIN recipePart p ON p.recipeId = r.id
     WHERE r.version = (SELECT MAX(n.version) FROM recipe n WHERE n.productId = r.productId) ${ids ? 'AND r.productId IN (?)' : ''} ORDER BY r.id, p.position`,
    ids ? [ids] : [],
  );
}

/** Products that the words of a question find, by SKU from one on. */
export function productsFound(
  sql: Sql,
  q: Pick<ProductQuery, 'words' | 'after' | 'stage'>,
  most: number,
): Promise<Pick<Product, 'id' | 'sku'>[]> {
  const like = `%${escapeLike(q.words)}%`;
  const upper = like.toUpperCase();
  return sql.rows(
    `SELECT p.id, p.sku FROM product p WHERE (? = '' OR p.name LIKE ? OR p.sku LIKE ? OR EXISTS (SELECT 1 FROM productAlias a WHERE a.productId = p.id AND a.code LIKE ?)
         OR EXISTS (SELECT 1 FROM productCode c WHERE c.productId = p.id AND c.code = ?)) AND p.sku > ? ${q.stage ? 'AND p.stage = ?' : ''} ORDER BY p.sku LIMIT ?`,
    [q.words, like, upper, upper, canonicalCode(q.words), q.after ?? '', ...(q.stage ? [q.stage] : []), most],
  );
}
