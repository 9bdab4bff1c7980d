import type { Sql, Tx } from '../database/db.js';
import type { PickList } from '../lists/pickList.entity.js';
import type { Order } from '../records/order.entity.js';
import type { Place } from './place.entity.js';
import type { StockMove } from './stockMove.entity.js';

/** Totes and trolleys by code, each with its order or list, what lies in it, and when something was last put in. */
export function totesByCode(sql: Sql): Promise<
  (Pick<Place, 'code' | 'mark' | 'colour' | 'capacity'> & {
    kind: 'tote' | 'trolley';
    list: PickList['no'] | null;
    no: Order['no'] | null;
    stage: Order['stage'] | null;
    units: number;
    since: StockMove['at'] | null;
  })[]
> {
  return sql.rows(
    `SELECT p.code, p.kind, p.mark, p.colour, p.capacity, o.no, (SELECT MAX(l.no) FROM pickList l WHERE l.trolleyId = p.id AND (l.state <> 'done' OR (l.method = 'batch' AND EXISTS (SELECT 1 FROM stockBalance g WHERE g.placeId = p.id AND g.onHand > 0)))) AS list, o.stage, CAST(COALESCE((SELECT SUM(b.onHand) FROM stockBalance b WHERE b.placeId = p.id), 0) AS INT) AS units,
       (SELECT MAX(m.at) FROM stockMove m WHERE m.toPlaceId = p.id) AS since
     FROM place p LEFT JOIN orders o ON o.id = p.busyWith WHERE p.kind IN ('tote', 'trolley') ORDER BY p.kind, p.code`,
  );
}

/** Codes and marks that totes and trolleys have, locked against others who number further ones. */
export function lockToteNames(tx: Tx): Promise<Pick<Place, 'code' | 'mark'>[]> {
  return tx.rows("SELECT code, mark FROM place WHERE kind IN ('tote', 'trolley') ORDER BY code FOR UPDATE");
}
