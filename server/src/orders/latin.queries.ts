import type { Sql } from '../database/db.js';

/** The address of an order, and the same in Latin letters where somebody has given it for this very address. */
export function addressOfOrder(
  sql: Sql,
  orderId: string,
): Promise<{ shipTo: string; given: string | null } | null> {
  return sql.one(
    'SELECT o.shipTo, CAST(l.address AS CHAR) AS given FROM orders o LEFT JOIN latinAddress l ON l.orderId = o.id AND l.ofAddress = SHA1(o.shipTo) WHERE o.id = ?',
    [orderId],
  );
}
