import { Injectable } from '@nestjs/common';
import { NONE, type Row, type Sql, type Tx } from '../database/db.js';
import { PickList } from './pickList.entity.js';

/** Units of an order's part that stand on a list, or lie in a tote since. */
export interface OnList {
  hold: 'listed' | 'picked';
  partId: string;
  productId: string;
  quantity: number;
  stopKey: string;
  placeId: string;
  lotId: string | null;
  toteId: string;
  mark: string;
  listId: string;
  listNo: number;
  listState: 'released' | 'picking' | 'done';
  picker: string | null;
}

/** A list as it is released. */
export type NewList = Pick<PickList, 'id' | 'warehouseId' | 'distance'>;

/** Pick lists as they are stored: what of an order is on them, and taking it off. */
@Injectable()
export class Lists {
  /** What an order has on lists and in totes. */
  of(sql: Sql, orderId: string): Promise<OnList[]> {
    return sql.rows(
      `SELECT a.hold, a.partId, a.productId, a.quantity, a.stopKey, s.placeId, s.lotId, s.toteId, t.mark, l.id AS listId, l.no AS listNo, l.state AS listState, p.name AS picker
       FROM allocation a JOIN pickStop s ON s.id = a.stopKey JOIN pickList l ON l.id = s.listId JOIN place t ON t.id = s.toteId
       LEFT JOIN scanSession x ON x.listId = l.id LEFT JOIN person p ON p.id = x.personId
       WHERE a.orderId = ? AND a.hold IN ('listed', 'picked') AND a.parcelKey = ? AND a.quantity > 0 ORDER BY a.partId, a.stopKey`,
      [orderId, NONE],
    );
  }

  /** The same with the lists locked: whoever opens one of them meanwhile waits. */
  async lockedOf(tx: Tx, orderId: string): Promise<OnList[]> {
    await tx.rows(
      'SELECT id FROM pickList WHERE id IN (SELECT listId FROM pickStop WHERE orderId = ?) ORDER BY id FOR UPDATE',
      [orderId],
    );
    return this.of(tx, orderId);
  }

  /** Stores a released list with its stops, in walking order; gives its number. */
  async add(tx: Tx, list: NewList, stops: readonly Row[]): Promise<number> {
    await tx.of(PickList).insert({ ...list, state: 'released', createdAt: tx.at, createdBy: tx.personId });
    await tx.insert('pickStop', stops);
    return (await tx.of(PickList).findOneByOrFail({ id: list.id })).no;
  }

  /** Somebody picks a list, or has picked all of it. */
  async move(tx: Tx, id: string, state: 'picking' | 'done'): Promise<void> {
    await tx.of(PickList).update(id, { state, doneAt: state === 'done' ? tx.at : null });
  }

  /** Takes an order off lists that nobody began: its stops disappear, and a list without stops is done. */
  async leave(tx: Tx, orderId: string, on: readonly OnList[]): Promise<void> {
    const lists = [...new Set(on.filter(h => h.listState === 'released').map(h => h.listId))];
    for (const id of lists) {
      await tx.run('DELETE FROM pickStop WHERE listId = ? AND orderId = ?', [id, orderId]);
      await tx.run(
        "UPDATE pickList SET state = 'done', doneAt = ? WHERE id = ? AND NOT EXISTS (SELECT 1 FROM pickStop s WHERE s.listId = pickList.id)",
        [tx.at, id],
      );
    }
  }
}
