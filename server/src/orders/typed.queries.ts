import type { Channel } from '../channels/channel.entity.js';
import type { Sql } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { OrderLine } from '../records/orderLine.entity.js';

export function openLines(
  sql: Sql,
  id: string,
): Promise<Pick<OrderLine, 'productId' | 'channelSku' | 'quantity'>[]> {
  return sql.rows(
    'SELECT productId, channelSku, quantity FROM orderLine WHERE orderId = ? AND removedAt IS NULL',
    [id],
  );
}

export function wantsTogether(sql: Sql, sorted: readonly string[]): Promise<Pick<Order, 'together'>[]> {
  return sql.rows('SELECT DISTINCT together FROM orders WHERE id IN (?)', [sorted]);
}

export function channelByCode(sql: Sql, code: string): Promise<Pick<Channel, 'id' | 'currency'> | null> {
  return sql.one('SELECT id, currency FROM channel WHERE code = ?', [code]);
}
