import type { Moment } from '@auk/core';
import type { Sql } from '../database/db.js';

/** The moments at which a book was run on an order, without the buttons that were pressed. */
export function momentsPassed(sql: Sql, orderId: string): Promise<{ moment: Moment }[]> {
  return sql.rows("SELECT moment FROM ruleOutcome WHERE orderId = ? AND moment <> 'button'", [orderId]);
}
