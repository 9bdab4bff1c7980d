import { type Row, type Tx } from '../database/db.js';

/** A row of an order's history. */
export function event(tx: Tx, orderId: string, kind: string, says: string): Row {
  return { orderId, at: tx.at, personId: tx.personId, kind, says: says.slice(0, 400) };
}
