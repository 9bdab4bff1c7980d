import type { Sql } from '../database/db.js';
import { NONE } from '../database/db.js';
import type { Allocation } from '../stock/allocation.entity.js';
import type { Order } from './order.entity.js';

export interface LineRecord extends StoredLine {
  orderId: string;
  title: string;
  priceMinor: number;
  taxMinor: number | null;
  taxPpm: number | null;
  weightMg: number | null;
  leaveOut: 'yes' | 'no' | null;
}

/** A line that was not removed. */
export interface StoredLine {
  id: string;
  key: string;
  channelSku: string;
  position: number;
  quantity: number;
  units: number;
  productId: string | null;
}

export function linesOf(sql: Sql, part: readonly string[]): Promise<LineRecord[]> {
  return sql.rows(
    'SELECT id, orderId, lineKey AS `key`, channelSku, position, title, quantity, units, priceMinor, taxMinor, taxPpm, weightMg, leaveOut, productId FROM orderLine WHERE orderId IN (?) AND removedAt IS NULL ORDER BY position',
    [part],
  );
}

export function begunAmong(sql: Sql, ids: readonly string[]): Promise<Pick<Allocation, 'orderId'>[]> {
  return sql.rows(
    "SELECT DISTINCT orderId FROM allocation WHERE orderId IN (?) AND hold <> 'soft' AND quantity > 0",
    [[...ids, NONE]],
  );
}

/** An order's own columns, and those of its document's head. */
export type OrderRecord = Pick<
  Order,
  | 'id'
  | 'no'
  | 'channelId'
  | 'channelNumber'
  | 'warehouseId'
  | 'currency'
  | 'stage'
  | 'version'
  | 'draftedAt'
  | 'mail'
  | 'payment'
  | 'note'
  | 'shippingMinor'
  | 'discountMinor'
  | 'paidMinor'
  | 'promised'
  | 'shipBy'
  | 'serviceAsked'
  | 'pickUpPoint'
  | 'weightOverrideMg'
> & { base: string | null; shipTo: string; billTo: string | null };

/** Orders by id with the columns of their heads; `lock` locks them in the order of their ids. */
export function ordersOf(
  sql: Sql,
  ids: readonly string[],
  head: readonly string[],
  lock: boolean,
): Promise<OrderRecord[]> {
  return sql.rows(
    `SELECT id, no, channelId, channelNumber, warehouseId, currency, stage, version, draftedAt, base, shipTo, billTo, ${head.join(', ')} FROM orders WHERE id IN (?) ORDER BY id ${lock ? 'FOR UPDATE' : ''}`,
    [ids],
  );
}
