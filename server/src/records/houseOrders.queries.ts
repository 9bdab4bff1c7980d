import type { Sql } from '../database/db.js';
import type { Build } from '../kits/build.entity.js';

export function buildOfOrder(sql: Sql, orderId: string): Promise<Pick<Build, 'no'> | null> {
  return sql.one('SELECT no FROM build WHERE orderId = ?', [orderId]);
}
