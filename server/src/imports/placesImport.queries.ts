import type { Sql } from '../database/db.js';
import type { Place } from '../stock/place.entity.js';

export function placeFacts(
  sql: Sql,
  code: string,
): Promise<(Pick<Place, 'zone' | 'capacity'> & { kind: string }) | null> {
  return sql.one('SELECT kind, zone, capacity FROM place WHERE code = ?', [code]);
}
