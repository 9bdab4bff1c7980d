import type { Sql, Tx } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { Place } from './place.entity.js';
import type { StockMove } from './stockMove.entity.js';

/** Totes by code, each with its order, what lies in it, and when something was last put in. */
export function totesByCode(
  sql: Sql,
  most: number,
): Promise<
  (Pick<Place, 'code' | 'mark' | 'colour'> & {
    no: Order['no'] | null;
    stage: Order['stage'] | null;
    units: number;
    since: StockMove['at'] | null;
  })[]
> {
  return sql.rows(
    `SELECT p.code, p.mark, p.colour, o.no, o.stage, CAST(COALESCE((SELECT SUM(b.onHand) FROM stockBalance b WHERE b.placeId = p.id), 0) AS INT) AS units,
       (SELECT MAX(m.at) FROM stockMove m WHERE m.toPlaceId = p.id) AS since
     FROM place p LEFT JOIN orders o ON o.id = p.busyWith WHERE p.kind = 'tote' ORDER BY p.code LIMIT ?`,
    [most],
  );
}

/** Codes and marks that totes have, locked against others who number further ones. */
export function lockToteNames(tx: Tx): Promise<Pick<Place, 'code' | 'mark'>[]> {
  return tx.rows("SELECT code, mark FROM place WHERE kind = 'tote' ORDER BY code FOR UPDATE");
}
