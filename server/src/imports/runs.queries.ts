import type { ImportKind } from '@auk/contract';
import type { Sql, Tx } from '../database/db.js';
import type { ImportFile } from './importFile.entity.js';

/** A file with its channel, who dropped it, and the job that takes it in. */
export type RunRow = Pick<ImportFile, 'id' | 'name' | 'at' | 'taken' | 'things' | 'doneAt'> & {
  kind: ImportKind;
  channel: string | null;
  person: string | null;
  jobId: string | null;
  jobState: string | null;
  error: string | null;
};

/** The newest files first; with an id, that file alone. */
export function runsNewestFirst(sql: Sql, id: string | null, most: number): Promise<RunRow[]> {
  return sql.rows(
    `SELECT f.id, f.name, f.at, f.kind, f.taken, f.things, f.doneAt, c.name AS channel, p.name AS person, j.id AS jobId, j.state AS jobState, j.error
     FROM importFile f LEFT JOIN channel c ON c.id = f.channelId LEFT JOIN person p ON p.id = f.personId LEFT JOIN job j ON j.subjectId = f.id AND f.doneAt IS NULL
     ${id === null ? '' : 'WHERE f.id = ?'} ORDER BY f.at DESC LIMIT ?`,
    id === null ? [most] : [id, most],
  );
}

/** One file at a time for a channel, and no pull beside it: two that bring the same order must not both find it new. */
export async function lockChannel(tx: Tx, channelId: string): Promise<void> {
  await tx.one('SELECT id FROM channel WHERE id = ? FOR UPDATE', [channelId]);
}

/** Forgets the reports of files that were taken in so many days ago. */
export async function forgetReports(sql: Sql, days: number): Promise<void> {
  await sql.run(
    'UPDATE importFile SET report = NULL WHERE doneAt < NOW(3) - INTERVAL ? DAY AND report IS NOT NULL LIMIT 5000',
    [days],
  );
}
