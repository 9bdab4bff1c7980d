import { newId, type Tx } from '../database/db.js';
import { OrderNote } from './orderNote.entity.js';
import { OrderTag } from './orderTag.entity.js';

/** Tags orders; a tag that is there already stays. */
export const tagOrders = (tx: Tx, rows: readonly { orderId: string; tag: string }[]): Promise<void> =>
  tx.upsert(OrderTag, rows, []);

/** Puts notes to orders. */
export const noteOrders = (
  tx: Tx,
  rows: readonly { orderId: string; kind: OrderNote['kind']; text: string }[],
): Promise<void> =>
  tx.insert(
    OrderNote,
    rows.map(r => ({
      id: newId(),
      ...r,
      confirm: false,
      word: null,
      at: tx.at,
      personId: null,
      removedAt: null,
    })),
  );
