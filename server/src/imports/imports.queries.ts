import type { Sql } from '../database/db.js';
import { type IntakeChannel } from '../intake/intake.module.js';

export function houseAsChannel(sql: Sql): Promise<IntakeChannel | null> {
  return sql.one(
    `SELECT '' AS id, w.name, w.currency, w.id AS warehouseId, w.country AS home FROM warehouse w LIMIT 1`,
  );
}

/** A channel by its code, with the house that its orders come to. */
export function channelWithHouse(sql: Sql, code: string): Promise<IntakeChannel | null> {
  return sql.one(
    'SELECT c.id, c.name, c.currency, w.id AS warehouseId, w.country AS home FROM channel c JOIN (SELECT id, country FROM warehouse ORDER BY code LIMIT 1) w WHERE c.code = ?',
    [code],
  );
}
