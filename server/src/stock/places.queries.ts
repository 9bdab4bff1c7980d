import { PLACE_KINDS, type PlaceQuery, type PlaceRow } from '@auk/contract';
import type { Product } from '../catalog/product.entity.js';
import type { Sql, Tx } from '../database/db.js';
import { escapeLike } from '../database/escapeLike.js';
import { Place } from './place.entity.js';

export function lockPlace(
  tx: Tx,
  code: string,
): Promise<(Pick<Place, 'id' | 'zone' | 'capacity'> & { kind: string }) | null> {
  return tx.one('SELECT id, kind, zone, capacity FROM place WHERE code = ? FOR UPDATE', [code]);
}

export function setPlace(
  tx: Tx,
  kind: string,
  zone: string,
  capacity: number | null,
  knownId: string,
): Promise<number> {
  return tx.run('UPDATE place SET kind = ?, zone = ?, capacity = ? WHERE id = ?', [
    kind,
    zone,
    capacity,
    knownId,
  ]);
}

export function lockFreeTotes(tx: Tx, length: number): Promise<Pick<Place, 'id'>[]> {
  return tx.rows(
    "SELECT id FROM place WHERE kind = 'tote' AND busyWith IS NULL ORDER BY code LIMIT ? FOR UPDATE",
    [length],
  );
}

export function freeTotesOf(tx: Tx, listId: string): Promise<number> {
  return tx.run(
    `UPDATE place t JOIN pickStop s ON s.toteId = t.id SET t.busyWith = NULL
       WHERE s.listId = ? AND t.busyWith = s.orderId AND NOT EXISTS (SELECT 1 FROM stockBalance b WHERE b.placeId = t.id AND b.onHand > 0)
         AND NOT EXISTS (SELECT 1 FROM allocation a WHERE a.orderId = s.orderId AND a.hold IN ('listed', 'picked') AND a.quantity > 0)`,
    [listId],
  );
}

export function productBearing(sql: Sql, code: string): Promise<Pick<Product, 'sku' | 'name'> | null> {
  return sql.one(
    'SELECT p.sku, p.name FROM productCode c JOIN product p ON p.id = c.productId WHERE c.code = ? UNION ALL SELECT sku, name FROM product WHERE sku = ? LIMIT 1',
    [code, code],
  );
}

/** Places that the words and the kind of a question find, by code from one on, with what lies in them. */
export function placesFound(
  sql: Sql,
  q: Pick<PlaceQuery, 'words' | 'kind' | 'after'>,
  most: number,
): Promise<(Omit<PlaceRow, 'aisle'> & { aisle: number | null })[]> {
  const like = `%${escapeLike(q.words.toUpperCase())}%`;
  return sql.rows(
    `SELECT p.code, p.kind, p.zone, p.aisle, p.bay, p.level, p.bin, p.capacity, COUNT(DISTINCT b.productId) AS products, CAST(COALESCE(SUM(b.onHand), 0) AS INT) AS units
     FROM place p LEFT JOIN stockBalance b ON b.placeId = p.id AND b.onHand > 0
     WHERE p.kind IN (?) AND (p.code LIKE ? OR UPPER(p.zone) LIKE ?) AND p.code > ? GROUP BY p.id ORDER BY p.code LIMIT ?`,
    [q.kind ? [q.kind] : PLACE_KINDS, like, like, q.after ?? '', most],
  );
}

/** A place by the code on its shelf. */
export type PlaceFound = Pick<Place, 'id' | 'code' | 'kind' | 'capacity'>;

export function placeByCode(sql: Sql, code: string): Promise<PlaceFound | null> {
  return sql
    .of(Place)
    .findOne({ where: { code }, select: { id: true, code: true, kind: true, capacity: true } });
}
