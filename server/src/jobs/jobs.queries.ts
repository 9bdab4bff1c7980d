import type { Sql, Tx } from '../database/db.js';
import type { Job } from './job.entity.js';

export interface JobRow {
  id: string;
  kind: string;
  payload: string;
  subjectId: string | null;
  attempts: number;
  ageHours: number;
}

export function beginAnew(sql: Sql, id: string): Promise<number> {
  return sql.run(
    "UPDATE job SET state = 'waiting', attempts = 0, createdAt = NOW(3), runAt = NOW(3) WHERE id = ? AND state IN ('waiting', 'given up')",
    [id],
  );
}

export function beginAnewOf(sql: Sql, kind: string, subjectId: string): Promise<number> {
  return sql.run(
    "UPDATE job SET attempts = IF(state = 'given up', 0, attempts), createdAt = IF(state = 'given up', NOW(3), createdAt), state = IF(state = 'given up', 'waiting', state), runAt = NOW(3) WHERE kind = ? AND subjectId = ? AND state IN ('waiting', 'taken', 'given up')",
    [kind, subjectId],
  );
}

export function hurryLane(sql: Sql, lane: string): Promise<number> {
  return sql.run("UPDATE job SET runAt = NOW(3) WHERE lane = ? AND state = 'waiting' AND runAt > NOW(3)", [
    lane,
  ]);
}

export function dueLanes(sql: Sql): Promise<Pick<Job, 'lane'>[]> {
  return sql.rows("SELECT DISTINCT lane FROM job WHERE state IN ('waiting', 'taken') AND runAt <= NOW(3)");
}

export function lockNextJob(tx: Tx, lane: string): Promise<JobRow | null> {
  return tx.one(
    "SELECT id, kind, payload, subjectId, attempts, TIMESTAMPDIFF(SECOND, createdAt, NOW(3)) / 3600 AS ageHours FROM job WHERE lane = ? AND state IN ('waiting', 'taken') AND runAt <= NOW(3) ORDER BY runAt, id LIMIT 1 FOR UPDATE",
    [lane],
  );
}

export function takeJob(tx: Tx, LEASE_MS: number, jobId: string): Promise<number> {
  return tx.run(
    "UPDATE job SET state = 'taken', attempts = attempts + 1, runAt = NOW(3) + INTERVAL ? MICROSECOND WHERE id = ?",
    [LEASE_MS, jobId],
  );
}

export function forgetDone(sql: Sql, days: number): Promise<number> {
  return sql.run("DELETE FROM job WHERE state = 'done' AND runAt < NOW(3) - INTERVAL ? DAY LIMIT 5000", [
    days,
  ]);
}

/** A job is done. */
export function endJob(tx: Tx, id: string): Promise<number> {
  return tx.run("UPDATE job SET state = 'done', error = NULL WHERE id = ?", [id]);
}

/** A job is put off by microseconds, or given up, with what went wrong. */
export function putOff(
  tx: Tx,
  id: string,
  state: 'waiting' | 'given up',
  microseconds: number,
  error: string | null,
): Promise<number> {
  return tx.run('UPDATE job SET state = ?, runAt = NOW(3) + INTERVAL ? MICROSECOND, error = ? WHERE id = ?', [
    state,
    microseconds,
    error,
    id,
  ]);
}
