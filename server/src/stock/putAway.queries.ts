import { type PutAwayPlace } from '@auk/core';
import type { Sql } from '../database/db.js';
import type { Place } from './place.entity.js';

export function roomFor(
  sql: Sql,
  productId: string,
): Promise<
  (Omit<PutAwayPlace, 'room' | 'holds' | 'empty'> &
    Pick<Place, 'capacity'> & { units: number; mine: number })[]
> {
  return sql.rows(
    `SELECT p.id AS placeId, p.code, p.kind, p.walk, p.capacity, CAST(COALESCE(SUM(b.onHand), 0) AS INT) AS units, CAST(COALESCE(SUM(IF(b.productId = ?, b.onHand, 0)), 0) AS INT) AS mine
       FROM place p LEFT JOIN stockBalance b ON b.placeId = p.id AND b.onHand > 0 WHERE p.kind IN ('bin', 'reserve') GROUP BY p.id HAVING units = 0 OR mine > 0`,
    [productId],
  );
}
