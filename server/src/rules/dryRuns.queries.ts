import type { Tx } from '../database/db.js';

/** Forgets dry runs that were asked for so many hours ago. */
export function forgetDryRuns(tx: Tx, hours: number): Promise<number> {
  return tx.run('DELETE FROM dryRun WHERE at < NOW(3) - INTERVAL ? HOUR LIMIT 200', [hours]);
}
