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
    `SELECT id FROM place WHERE kind = 'tote' AND busyWith IS NULL AND NOT EXISTS (SELECT 1 FROM stockBalance b WHERE b.placeId = place.id AND b.onHand > 0)
       AND NOT EXISTS (SELECT 1 FROM pickList l WHERE l.trolleyId = place.id AND l.state <> 'done') ORDER BY code LIMIT ? FOR UPDATE`,
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

/** What of a list is carried away stands at a staging place: totes that are still of its orders, and its trolley. */
export function standListAt(tx: Tx, listId: string, code: string, at: Date): Promise<number> {
  return tx.run(
    `UPDATE place t JOIN place g ON g.code = ? AND g.kind = 'staging' SET t.standsAtId = g.id, t.stoodSince = ?
       WHERE t.id IN (SELECT s.toteId FROM pickStop s JOIN orders o ON o.id = s.orderId JOIN place b ON b.id = s.toteId AND b.busyWith = o.id WHERE s.listId = ?
         UNION SELECT l.trolleyId FROM pickList l WHERE l.id = ?)`,
    [code, at, listId, listId],
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

/** Gives all places on an aisle its new position among the aisles; null takes their coordinates. Negative for the time being, so that two do not meet. */
export function moveAisle(tx: Tx, to: number | null, from: number): Promise<number> {
  return to === null
    ? tx.run('UPDATE place SET aisle = NULL, along = NULL WHERE aisle = ?', [from])
    : tx.run('UPDATE place SET aisle = ? WHERE aisle = ?', [-1 - to, from]);
}

export function settleAisles(tx: Tx): Promise<number> {
  return tx.run('UPDATE place SET aisle = -1 - aisle WHERE aisle < 0');
}

/** Places that goods are picked from: how many there are, and how many stand nowhere. */
export function placedCount(sql: Sql): Promise<{ places: number; unplaced: number } | null> {
  return sql.one(
    "SELECT COUNT(*) AS places, CAST(COALESCE(SUM(aisle IS NULL), 0) AS INT) AS unplaced FROM place WHERE kind IN ('bin', 'reserve')",
  );
}

export function unplacedPlaces(sql: Sql, most: number): Promise<Pick<Place, 'code'>[]> {
  return sql.rows(
    "SELECT code FROM place WHERE kind IN ('bin', 'reserve') AND aisle IS NULL ORDER BY code LIMIT ?",
    [most],
  );
}

/** Where a place stands, and what for. */
export function standsAt(
  sql: Sql,
  code: string,
): Promise<Pick<Place, 'id' | 'kind' | 'aisle' | 'along' | 'side' | 'zone'> | null> {
  return sql.one('SELECT id, kind, aisle, along, side, zone FROM place WHERE code = ?', [code]);
}
