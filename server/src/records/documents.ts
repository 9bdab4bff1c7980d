import {
  ADDRESS_FIELDS,
  type Address,
  emptyAddress,
  type OrderDocument,
  type Stage,
  type Value,
} from '@auk/core';
import { fromJson, type Sql, Tx } from '../database/db.js';
import {
  begunAmong,
  type LineRecord,
  linesOf,
  type OrderRecord,
  ordersOf,
  type StoredLine,
} from './documents.queries.js';

export type { StoredLine } from './documents.queries.js';

/** An order as it is stored, with its document. */
export interface StoredOrder {
  id: string;
  no: number;
  channelId: string;
  channelNumber: string;
  warehouseId: string;
  currency: string;
  stage: Stage;
  version: number;
  draft: boolean;
  /** Whether something of it is on a list or further; a parked or stopped order may be, though its stage does not say so. */
  underWay: boolean;
  base: OrderDocument | null;
  document: OrderDocument;
  lines: StoredLine[];
}

/** Head fields that are columns of the same name. */
export const HEAD_COLUMNS = [
  'mail',
  'payment',
  'note',
  'shippingMinor',
  'discountMinor',
  'paidMinor',
  'promised',
  'shipBy',
  'serviceAsked',
  'pickUpPoint',
  'weightOverrideMg',
] as const;
/** Line fields that are columns of the same name. */
export const LINE_COLUMNS = [
  'title',
  'quantity',
  'priceMinor',
  'taxMinor',
  'taxPpm',
  'weightMg',
  'leaveOut',
] as const;

/** Loads orders with their documents by id; `lock` locks them in the order of their ids. */
export async function loadOrders(
  sql: Sql,
  ids: readonly string[],
  lock = false,
): Promise<Map<string, StoredOrder>> {
  const orders = new Map<string, StoredOrder>();
  for (let i = 0; i < ids.length; i += 500) {
    const part = ids.slice(i, i + 500);
    const rows = await ordersOf(sql, part, HEAD_COLUMNS, lock);
    if (lock && sql instanceof Tx) sql.holding('orders', rows);
    const lines = await linesOf(sql, part);
    const byOrder = new Map<string, LineRecord[]>();
    for (const l of lines) byOrder.set(l.orderId, [...(byOrder.get(l.orderId) ?? []), l]);
    const underWay = new Set(await ordersUnderWay(sql, part));
    for (const r of rows) orders.set(r.id, toStored(r, byOrder.get(r.id) ?? [], underWay.has(r.id)));
  }
  return orders;
}

/** Those of some orders of which something is on a list or further. */
export async function ordersUnderWay(sql: Sql, ids: readonly string[]): Promise<string[]> {
  const rows = await begunAmong(sql, ids);
  return rows.map(r => r.orderId);
}

function toStored(r: OrderRecord, lines: LineRecord[], underWay: boolean): StoredOrder {
  const head: Record<string, Value> = Object.fromEntries(HEAD_COLUMNS.map(c => [c, r[c]]));
  Object.assign(
    head,
    addressFields('shipTo', fromJson<Address>(r.shipTo)),
    addressFields('billTo', r.billTo ? fromJson<Address>(r.billTo) : null),
  );
  return {
    id: r.id,
    no: r.no,
    channelId: r.channelId,
    channelNumber: r.channelNumber,
    warehouseId: r.warehouseId,
    currency: r.currency,
    stage: r.stage,
    version: r.version,
    draft: r.draftedAt !== null,
    underWay,
    base: r.base === null ? null : fromJson(r.base),
    lines,
    document: {
      head,
      lines: Object.fromEntries(
        lines.map(l => [l.key, Object.fromEntries(LINE_COLUMNS.map(c => [c, l[c]]))]),
      ),
    },
  };
}

/** An address as fields of a document's head. */
export const addressFields = (name: 'shipTo' | 'billTo', a: Address | null): Record<string, Value> =>
  Object.fromEntries(ADDRESS_FIELDS.map(([f]) => [`${name}.${f}`, a?.[f] ?? '']));

/** An address out of a document's head; null when nothing of it is filled. */
export function addressOf(name: 'shipTo' | 'billTo', head: Record<string, Value>): Address | null {
  const address = emptyAddress('');
  for (const [f] of ADDRESS_FIELDS) address[f] = String(head[`${name}.${f}`] ?? '');
  return Object.values(address).some(v => v !== '') ? address : null;
}
