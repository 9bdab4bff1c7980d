import { type Stage } from '@auk/core';
import type { Sql, Tx } from '../database/db.js';
import type { Suspicion } from '../intake/suspicion.entity.js';
import type { Order } from '../records/order.entity.js';
import type { Allocation } from '../stock/allocation.entity.js';

export interface Locked {
  stage: Stage;
  channelNumber: string;
  parkWord: string | null;
  payment: string;
  totalMinor: number;
}

export function suspectedOf(sql: Sql, id: string): Promise<Pick<Suspicion, 'orderId'>[]> {
  return sql.rows(
    'SELECT s.orderId FROM suspicion s JOIN orders o ON o.id = s.orderId AND o.isOpen WHERE s.otherId = ? ORDER BY s.orderId',
    [id],
  );
}

export function softOf(
  sql: Sql,
  id: string,
): Promise<Pick<Allocation, 'partId' | 'productId' | 'quantity'>[]> {
  return sql.rows(
    "SELECT partId, productId, quantity FROM allocation WHERE orderId = ? AND hold = 'soft' AND quantity > 0",
    [id],
  );
}

export function numbersOf(sql: Sql, ids: readonly string[]): Promise<Pick<Order, 'id' | 'channelNumber'>[]> {
  return sql.rows('SELECT id, channelNumber FROM orders WHERE id IN (?)', [ids]);
}

export function lockHead(tx: Tx, id: string): Promise<Locked | null> {
  return tx.one(
    'SELECT stage, channelNumber, parkWord, payment, totalMinor FROM orders WHERE id = ? FOR UPDATE',
    [id],
  );
}
