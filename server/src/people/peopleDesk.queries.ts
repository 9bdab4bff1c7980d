import { type PersonRow } from '@auk/contract';
import type { Sql, Tx } from '../database/db.js';

export function everyone(
  sql: Sql,
): Promise<(Omit<PersonRow, 'active' | 'waitsUntil'> & { active: number; until: Date | null })[]> {
  return sql.rows(
    'SELECT p.id, p.name, p.badge, p.role, p.active, IF(t.until > NOW(3), t.until, NULL) AS until FROM person p LEFT JOIN signInTry t ON t.badge = p.badge ORDER BY p.active DESC, p.name, p.id',
  );
}

export function lastBadge(tx: Tx): Promise<{ n: number | null } | null> {
  return tx.one(
    "SELECT MAX(CAST(SUBSTRING(badge, 4) AS INT)) AS n FROM person WHERE badge LIKE 'AB-%' FOR UPDATE",
  );
}
