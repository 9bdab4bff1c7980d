import type { Sql, Tx } from '../database/db.js';
import type { Order } from './order.entity.js';

/** The order that a channel knows, of which others were split off. */
export interface RootOrder {
  id: string;
  channelId: string;
  channelNumber: string;
}

export async function lockRoot(tx: Tx, orderId: string): Promise<RootOrder | null> {
  const row = await tx.one<RootOrder>(
    'SELECT r.id, r.channelId, r.channelNumber FROM orders o JOIN orders r ON r.id = COALESCE(o.splitOfId, o.id) WHERE o.id = ? FOR UPDATE',
    [orderId],
  );
  if (row) tx.hold('orders', [row.id]);
  return row;
}

export function numbersUnder(
  sql: Sql,
  channelId: string,
  text: string,
): Promise<Pick<Order, 'channelNumber'>[]> {
  return sql.rows('SELECT channelNumber FROM orders WHERE channelId = ? AND channelNumber LIKE ?', [
    channelId,
    text,
  ]);
}
