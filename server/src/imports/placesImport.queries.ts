import type { Sql } from '../database/db.js';
import type { Place } from '../stock/place.entity.js';

export function placeFacts(
  sql: Sql,
  code: string,
): Promise<(Pick<Place, 'zone' | 'capacity'> & { kind: string }) | null> {
  return sql.one<Pick<Place, 'zone' | 'capacity'> & { kind: string }>(
    'SELECT kind, zone, capacity FROM place WHERE code = ?',
    [code],
  );
}
