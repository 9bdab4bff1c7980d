import { type LiveMessage } from '@auk/contract';
import type { Sql, Tx } from '../database/db.js';
import type { Outbox } from '../database/outbox.entity.js';

export const ROWS = 1_000;

export function streamEnds(sql: Sql): Promise<{ first: number | null; newest: number } | null> {
  return sql.one(
    "SELECT (SELECT MIN(position) FROM outbox) AS first, value AS newest FROM counter WHERE name = 'live'",
  );
}

export function messagesAfter(sql: Sql, position: number): Promise<LiveMessage[]> {
  return sql.rows(
    `SELECT position AS id, topic, ref FROM outbox WHERE position > ? ORDER BY position LIMIT ${ROWS}`,
    [position],
  );
}

export function newestPosition(sql: Sql): Promise<{ n: number } | null> {
  return sql.one('SELECT COALESCE(MAX(position), 0) AS n FROM outbox');
}

export function unplaced(sql: Sql): Promise<Pick<Outbox, 'id'>[]> {
  return sql.rows(`SELECT id FROM outbox WHERE position IS NULL ORDER BY id LIMIT ${ROWS}`);
}

export function place(tx: Tx, ids: readonly number[], last: number): Promise<number> {
  return tx.run(
    'UPDATE outbox o JOIN (SELECT id, ROW_NUMBER() OVER (ORDER BY id) AS n FROM outbox WHERE id IN (?)) k ON k.id = o.id SET o.position = ? + k.n',
    [ids, last],
  );
}
