import { type Hold } from '@auk/core';
import type { Sql } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { StopReason } from '../intake/stopReason.entity.js';
import type { Allocation } from '../stock/allocation.entity.js';
import type { Order } from './order.entity.js';
import type { StageCount } from './stageCount.entity.js';

export function stageRows(
  sql: Sql,
  ids: readonly string[],
): Promise<
  (Pick<StopReason, 'id'> &
    Pick<Order, 'stage'> & {
      checked: number;
      cancelled: number;
      parked: number;
      elsewhere: 'no' | 'waits' | 'left';
      stops: number;
      wanted: number;
    })[]
> {
  return sql.rows(
    `SELECT o.id, o.stage, o.checkedAt IS NOT NULL AS checked, o.cancelledAt IS NOT NULL AS cancelled, o.parkedAt IS NOT NULL AS parked, IF(e.orderId IS NULL, 'no', IF(e.leftAt IS NULL, 'waits', 'left')) AS elsewhere,
         (SELECT COUNT(*) FROM stopReason s WHERE s.orderId = o.id AND s.liftedAt IS NULL) AS stops,
         (SELECT COALESCE(SUM(IF(p.optional, COALESCE((SELECT SUM(a.quantity) FROM allocation a WHERE a.partId = p.id), 0), p.quantity)), 0) FROM linePart p WHERE p.orderId = o.id) AS wanted
       FROM orders o LEFT JOIN sentElsewhere e ON e.orderId = o.id WHERE o.id IN (?)`,
    [ids],
  );
}

export function heldByStage(
  sql: Sql,
  ids: readonly string[],
): Promise<(Pick<Allocation, 'orderId'> & { hold: Hold; n: number; closed: number; labelled: number })[]> {
  return sql.rows(
    `SELECT a.orderId, a.hold, SUM(a.quantity) AS n, SUM(IF(p.closedAt IS NULL, 0, a.quantity)) AS closed, SUM(IF(b.id IS NULL OR p.closedAt IS NULL OR p.misfit IS NOT NULL, 0, a.quantity)) AS labelled
       FROM allocation a LEFT JOIN parcel p ON a.parcelKey <> ? AND p.id = a.parcelKey
       LEFT JOIN label b ON b.liveParcel = p.id AND b.state = 'bought'
       WHERE a.orderId IN (?) AND a.quantity > 0 GROUP BY a.orderId, a.hold`,
    [NONE, ids],
  );
}

export function stageSums(sql: Sql): Promise<Pick<StageCount, 'stage' | 'n'>[]> {
  return sql.rows('SELECT stage, CAST(SUM(n) AS INT) AS n FROM stageCount GROUP BY stage');
}
