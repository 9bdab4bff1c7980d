import { endIfEmpty, heldOnLists, laySoon, lockListsOf, type OnList } from './lists.queries.js';

export type { OnList } from './lists.queries.js';

import { Injectable } from '@nestjs/common';
import { type Row, type Sql, type Tx } from '../database/db.js';
import { PickList } from './pickList.entity.js';
import { PickStop } from './pickStop.entity.js';

/** A list as it is released. */
export type NewList = Pick<PickList, 'id' | 'warehouseId' | 'distance' | 'method'>;

/** Pick lists as they are stored: what of an order is on them, and taking it off. */
@Injectable()
export class Lists {
  /** What an order has on lists and in totes. */
  of(sql: Sql, orderId: string): Promise<OnList[]> {
    return heldOnLists(sql, orderId);
  }

  /** The same with the lists locked: whoever opens one of them meanwhile waits. */
  async lockedOf(tx: Tx, orderId: string): Promise<OnList[]> {
    await lockListsOf(tx, orderId);
    return this.of(tx, orderId);
  }

  /** Stores a released list with its stops, in walking order; gives its number. */
  async add(tx: Tx, list: NewList, stops: readonly Row[]): Promise<number> {
    await tx.of(PickList).insert({ ...list, state: 'released', createdAt: tx.at, createdBy: tx.personId });
    await tx.insert(PickStop, stops);
    return (await tx.of(PickList).findOneByOrFail({ id: list.id })).no;
  }

  /** Sets a list aside for a person; null: for anybody. */
  async handTo(tx: Tx, id: string, forId: string | null): Promise<void> {
    await tx.of(PickList).update(id, { forId });
  }

  /** What the totes of a list stand on, or what its heap lies on from now on. */
  async carry(tx: Tx, id: string, trolleyId: string, heap: boolean): Promise<void> {
    await tx.of(PickList).update(id, { trolleyId });
    if (heap) await laySoon(tx, id, trolleyId);
  }

  /** All that was to go into one tote goes into another. */
  async changeTote(tx: Tx, listId: string, from: string, to: string): Promise<void> {
    await tx.of(PickStop).update({ listId, toteId: from }, { toteId: to });
  }

  /** What is sorted of a stop lies in this cell. */
  async sortInto(tx: Tx, stopId: string, cellId: string): Promise<void> {
    await tx.of(PickStop).update(stopId, { cellId });
  }

  /** Fewer units are wanted of a stop that nobody has been at; of none, it leaves its list, and a list without stops is done. */
  async lessen(tx: Tx, stopId: string, units: number): Promise<void> {
    const stop = await tx.of(PickStop).findOneByOrFail({ id: stopId });
    if (stop.quantity > units) {
      await tx.of(PickStop).decrement({ id: stopId }, 'quantity', units);
      return;
    }
    await this.drop(tx, stopId);
    await endIfEmpty(tx, tx.at, stop.listId);
  }

  /** A stop that nobody goes to any more leaves its list. */
  async drop(tx: Tx, stopId: string): Promise<void> {
    await tx.of(PickStop).delete(stopId);
  }

  /** Adds stops to a list, behind those that it has. */
  async extend(tx: Tx, listId: string, stops: readonly Omit<Row, 'seq'>[]): Promise<void> {
    const last = await tx.of(PickStop).maximum('seq', { listId });
    await tx.insert(
      PickStop,
      stops.map((s, i) => ({ ...s, listId, seq: (last ?? 0) + i + 1 })),
    );
  }

  /** Somebody picks a list, or has picked all of it. */
  async move(tx: Tx, id: string, state: 'picking' | 'done'): Promise<void> {
    await tx.of(PickList).update(id, { state, doneAt: state === 'done' ? tx.at : null });
  }

  /** Takes an order off lists that nobody began: its stops disappear, and a list without stops is done. */
  async leave(tx: Tx, orderId: string, on: readonly OnList[]): Promise<void> {
    const lists = [...new Set(on.filter(h => h.listState === 'released').map(h => h.listId))];
    for (const id of lists) {
      await tx.of(PickStop).delete({ listId: id, orderId });
      await endIfEmpty(tx, tx.at, id);
    }
  }
}
