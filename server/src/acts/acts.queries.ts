import type { Sql } from '../database/db.js';

/** Forgets acts that were done so many days ago, some thousands at a time; repeats as old as that are refused by their age. */
export async function forgetActs(sql: Sql, days: number): Promise<void> {
  await sql.run('DELETE FROM actKey WHERE at < NOW(3) - INTERVAL ? DAY LIMIT 5000', [days]);
}
