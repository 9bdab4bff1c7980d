import type { Sql } from '../database/db.js';
import type { Order } from '../records/order.entity.js';

/** Ids of orders, known by them or by their own numbers (`OR-7`). */
export async function orderIdsOf(sql: Sql, orders: readonly string[]): Promise<string[]> {
  const ids = orders.filter(o => !o.startsWith('OR-'));
  const nos = orders.filter(o => o.startsWith('OR-')).map(o => Number(o.slice('OR-'.length)));
  const found = await sql.rows<Pick<Order, 'id'>>(
    'SELECT id FROM orders WHERE id IN (?) OR no IN (?) ORDER BY no',
    [ids.length > 0 ? ids : [''], nos.length > 0 ? nos : [-1]],
  );
  return found.map(o => o.id);
}
