import type { Sql, Tx } from '../database/db.js';
import { NONE } from '../database/db.js';

/** Units of an order's part that stand on a list, or lie in a tote since. */
export interface OnList {
  hold: 'listed' | 'picked' | 'sorted';
  partId: string;
  productId: string;
  quantity: number;
  stopKey: string;
  placeId: string;
  lotId: string | null;
  /** Where it lies: a tote, the carrier of a heap, or a cell; null of what is not picked yet and will be part of a heap. */
  liesIn: string | null;
  /** The same in words: tote F1, trolley T2, cell 7. */
  lies: string | null;
  listId: string;
  listNo: number;
  listState: 'released' | 'picking' | 'done';
  picker: string | null;
}

export function heldOnLists(sql: Sql, orderId: string): Promise<OnList[]> {
  return sql.rows(
    `SELECT a.hold, a.partId, a.productId, a.quantity, a.stopKey, s.placeId, s.lotId, t.id AS liesIn, CONCAT(t.kind, ' ', COALESCE(t.mark, t.code)) AS lies, l.id AS listId, l.no AS listNo, l.state AS listState, p.name AS picker
       FROM allocation a JOIN pickStop s ON s.id = a.stopKey JOIN pickList l ON l.id = s.listId LEFT JOIN place t ON t.id = IF(a.hold = 'sorted', s.cellId, s.toteId)
       LEFT JOIN scanSession x ON x.listId = l.id LEFT JOIN person p ON p.id = x.personId
       WHERE a.orderId = ? AND a.hold IN ('listed', 'picked', 'sorted') AND a.parcelKey = ? AND a.quantity > 0 ORDER BY a.partId, a.stopKey`,
    [orderId, NONE],
  );
}

export function lockListsOf(tx: Tx, orderId: string): Promise<unknown[]> {
  return tx.rows(
    'SELECT id FROM pickList WHERE id IN (SELECT listId FROM pickStop WHERE orderId = ?) ORDER BY id FOR UPDATE',
    [orderId],
  );
}

export function endIfEmpty(tx: Tx, at: Date, id: string): Promise<number> {
  return tx.run(
    "UPDATE pickList SET state = 'done', doneAt = ? WHERE id = ? AND NOT EXISTS (SELECT 1 FROM pickStop s WHERE s.listId = pickList.id)",
    [at, id],
  );
}

/** What is not taken yet of a heap will lie on this. */
export function laySoon(tx: Tx, listId: string, placeId: string): Promise<number> {
  return tx.run(
    `UPDATE pickStop SET toteId = ? WHERE listId = ? AND NOT EXISTS (SELECT 1 FROM allocation a WHERE a.stopKey = pickStop.id AND a.hold <> 'listed' AND a.quantity > 0)`,
    [placeId, listId],
  );
}
