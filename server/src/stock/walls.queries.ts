import type { Sql, Tx } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { Place } from '../stock/place.entity.js';

/** A cell of a put wall: where it is in it, and whose goods lie in it. */
export type CellRow = Pick<Place, 'id' | 'code' | 'mark' | 'level' | 'bay'> & {
  wall: string;
  orderNo: Order['no'] | null;
  units: number;
};

/** The cells of all walls, or of one, in their order. */
export function cellsOfWalls(sql: Sql, wall: string | null): Promise<CellRow[]> {
  return sql.rows(
    `SELECT p.id, p.code, p.mark, p.level, p.bay, p.zone AS wall, o.no AS orderNo, CAST(COALESCE((SELECT SUM(b.onHand) FROM stockBalance b WHERE b.placeId = p.id), 0) AS INT) AS units
       FROM place p LEFT JOIN orders o ON o.id = p.busyWith WHERE p.kind = 'cell' AND (? IS NULL OR p.zone = ?) ORDER BY p.zone, p.level, p.bay`,
    [wall, wall],
  );
}

/** The codes of cells, locked against others who set up further walls. */
export function lockCells(tx: Tx): Promise<Pick<Place, 'id' | 'code' | 'zone' | 'busyWith'>[]> {
  return tx.rows("SELECT id, code, zone, busyWith FROM place WHERE kind = 'cell' ORDER BY code FOR UPDATE");
}

/** A cell and whatever other cells an order has, locked. */
export function lockCellFor(
  tx: Tx,
  cellId: string,
  orderId: string,
): Promise<Pick<Place, 'id' | 'busyWith'>[]> {
  return tx.rows(
    "SELECT id, busyWith FROM place WHERE kind = 'cell' AND (id = ? OR busyWith = ?) ORDER BY id FOR UPDATE",
    [cellId, orderId],
  );
}

/** How many cells the largest wall has. */
export function largestWall(sql: Sql): Promise<{ n: number } | null> {
  return sql.one("SELECT COUNT(*) AS n FROM place WHERE kind = 'cell' GROUP BY zone ORDER BY n DESC LIMIT 1");
}

/** Whether goods ever went through any of the places; the ledger names those for ever. */
export function everUsed(sql: Sql, placeIds: readonly string[]): Promise<{ id: number } | null> {
  return sql.one(
    'SELECT id FROM stockMove WHERE toPlaceId IN (?) UNION ALL SELECT id FROM stockMove WHERE fromPlaceId IN (?) LIMIT 1',
    [placeIds, placeIds],
  );
}
