import type { BatchView } from '@auk/contract';
import type { Sql, Tx } from '../database/db.js';
import type { Order } from '../records/order.entity.js';
import type { Label } from './label.entity.js';
import type { LabelBatchItem } from './labelBatchItem.entity.js';

export type ItemRow = Pick<LabelBatchItem, 'id' | 'minor' | 'why'> &
  Pick<BatchView['items'][number], 'state'> &
  Pick<Order, 'channelNumber' | 'shippingMinor' | 'currency'> & {
    parcelNo: number;
    offer: string | null;
    tracking: Label['tracking'];
  };

/**
 * All parcels of a batch in their order. What became of an item whose label was asked for tells the label, also when it is found out later
 * or a server died before it noted it; an item without one says it itself.
 */
export function itemsOf(sql: Sql, batchId: string): Promise<ItemRow[]> {
  return sql.rows(
    `SELECT i.id, CASE WHEN b.state IN ('bought', 'void asked', 'voided') THEN 'bought' WHEN b.state = 'refused' THEN 'refused' WHEN b.id IS NOT NULL THEN 'unanswered' ELSE i.state END AS state,
       i.minor, COALESCE(b.why, i.why) AS why, i.offer, c.no AS parcelNo, o.channelNumber, o.shippingMinor, o.currency, b.tracking
     FROM labelBatchItem i JOIN parcel c ON c.id = i.parcelId JOIN orders o ON o.id = c.orderId LEFT JOIN label b ON b.id = i.id
     WHERE i.batchId = ? ORDER BY i.seq`,
    [batchId],
  );
}

/** All items in a state. */
export function nextItems(
  sql: Sql,
  batchId: string,
  state: string,
): Promise<(Pick<LabelBatchItem, 'id'> & { parcelNo: number; offer: string | null })[]> {
  return sql.rows(
    'SELECT i.id, i.offer, c.no AS parcelNo FROM labelBatchItem i JOIN parcel c ON c.id = i.parcelId WHERE i.batchId = ? AND i.state = ? ORDER BY i.seq',
    [batchId, state],
  );
}

/** What is priced and waits to be bought, in house money. */
export async function pricedSum(tx: Tx, batchId: string): Promise<number> {
  const row = await tx.one<{ sum: number }>(
    "SELECT CAST(COALESCE(SUM(minor), 0) AS SIGNED) AS sum FROM labelBatchItem WHERE batchId = ? AND state = 'priced'",
    [batchId],
  );
  return row!.sum;
}

/** Parcels by their numbers, and whether each has a label or one under way. */
export async function parcelIds(
  tx: Tx,
  nos: readonly number[],
): Promise<{ id: string; no: number; labelled: boolean }[]> {
  const rows = await tx.rows<{ id: string; no: number; labelId: string | null }>(
    'SELECT c.id, c.no, b.id AS labelId FROM parcel c LEFT JOIN label b ON b.liveParcel = c.id WHERE c.no IN (?) ORDER BY c.no',
    [nos],
  );
  return rows.map(({ labelId, ...r }) => ({ ...r, labelled: labelId !== null }));
}
