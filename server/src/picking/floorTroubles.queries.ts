import type { Product } from '../catalog/product.entity.js';
import type { Sql } from '../database/db.js';
import type { Place } from '../stock/place.entity.js';

type Named = Pick<Product, 'id' | 'sku' | 'name'>;

/** Pairs that were mixed up since some days, the most frequent first. */
export function mixUpsSince(
  sql: Sql,
  days: number,
  most: number,
): Promise<
  {
    wantedId: string;
    wantedSku: string;
    wantedName: string;
    scannedId: string;
    scannedSku: string;
    scannedName: string;
    times: number;
    last: Date;
  }[]
> {
  return sql.rows(
    `SELECT w.id AS wantedId, w.sku AS wantedSku, w.name AS wantedName, s.id AS scannedId, s.sku AS scannedSku, s.name AS scannedName, COUNT(*) AS times, MAX(t.at) AS last
       FROM floorTrouble t JOIN product w ON w.id = t.wantedId JOIN product s ON s.id = t.scannedId
       WHERE t.kind = 'mix-up' AND t.at > NOW(3) - INTERVAL ? DAY GROUP BY w.id, s.id ORDER BY times DESC, last DESC LIMIT ?`,
    [days, most],
  );
}

/** Codes that were typed or pressed since some days. */
export function byHandSince(
  sql: Sql,
  days: number,
  most: number,
): Promise<{ said: string; what: string; times: number; last: Date; people: string }[]> {
  return sql.rows(
    `SELECT t.said, COALESCE(MAX(p.name), MAX(l.code), '') AS what, COUNT(*) AS times, MAX(t.at) AS last, GROUP_CONCAT(DISTINCT e.name ORDER BY e.name SEPARATOR ', ') AS people
       FROM floorTrouble t LEFT JOIN product p ON p.id = t.wantedId LEFT JOIN place l ON l.id = t.placeId LEFT JOIN person e ON e.id = t.personId
       WHERE t.kind = 'by hand' AND t.at > NOW(3) - INTERVAL ? DAY GROUP BY t.said ORDER BY times DESC, last DESC LIMIT ?`,
    [days, most],
  );
}

/** Where products lie on the shelves. */
export function shelvesOf(
  sql: Sql,
  productIds: readonly string[],
): Promise<(Pick<Place, 'code' | 'aisle' | 'along' | 'zone'> & { productId: string })[]> {
  return sql.rows(
    `SELECT b.productId, p.code, p.aisle, p.along, p.zone FROM stockBalance b JOIN place p ON p.id = b.placeId AND p.kind = 'bin' WHERE b.productId IN (?) AND b.onHand > 0 GROUP BY b.productId, p.id ORDER BY b.productId, SUM(b.onHand) DESC`,
    [productIds],
  );
}

/** Pick faces in which nothing lies. */
export function emptyShelves(sql: Sql): Promise<Pick<Place, 'code' | 'aisle' | 'along' | 'zone'>[]> {
  return sql.rows(
    "SELECT code, aisle, along, zone FROM place WHERE kind = 'bin' AND aisle IS NOT NULL AND along IS NOT NULL AND NOT EXISTS (SELECT 1 FROM stockBalance b WHERE b.placeId = place.id AND b.onHand > 0) ORDER BY code",
  );
}

export function productBySku(sql: Sql, sku: string): Promise<Named | null> {
  return sql.one('SELECT id, sku, name FROM product WHERE sku = ?', [sku]);
}
