import type { BulkAnswer, BulkIn, NoteIn } from '@auk/contract';
import { HttpException, Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import type { z } from 'zod';
import { Db, type Doer, newId, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { OrderChecks } from '../intake/intake.module.js';
import {
  event,
  productsOf,
  refreshStages,
  refuseHouseOrder,
  setHead,
  toHistory,
  Undoing,
} from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { StockService } from '../stock/stock.module.js';
import { OrderNote } from './orderNote.entity.js';
import { type Locked, lockHead, numbersOf, softOf, suspectedOf } from './orderRows.queries.js';
import { OrderTag } from './orderTag.entity.js';

/** What a person may do to an order beside editing it: park, free, cancel, star, tag, note, accept; to one or to many. */
@Injectable()
export class OrdersService {
  constructor(
    private readonly db: Db,
    private readonly stock: StockService,
    private readonly checks: OrderChecks,
    private readonly reservations: Reservations,
    private readonly undoing: Undoing,
  ) {}

  /** Parks an order; with a `word`, unparking wants that word typed. */
  park(id: string, reason: string, word: string, doer: Doer): Promise<void> {
    return this.change(id, doer, async (tx, order) => {
      if (['Departed', 'Cancelled'].includes(order.stage))
        throw new Forbidden(
          `The order is ${order.stage}.`,
          'Only an order that is still in the house can be parked.',
        );
      await setHead(tx, id, { parkedAt: tx.at, parkedReason: reason, parkWord: word || null });
      await toHistory(tx, [event(tx, id, 'parked', `Parked: ${reason}`)]);
    });
  }

  unpark(id: string, word: string, doer: Doer): Promise<void> {
    return this.change(id, doer, async (tx, order) => {
      if (order.parkWord && order.parkWord.toLowerCase() !== word.trim().toLowerCase())
        throw new Forbidden(
          `It is parked so that freeing it wants the words “${order.parkWord}”.`,
          'Type them exactly.',
          { word: order.parkWord },
        );
      await setHead(tx, id, { parkedAt: null, parkedReason: null, parkWord: null });
      await toHistory(tx, [
        event(tx, id, 'freed', word ? `No longer parked; typed “${word}”.` : 'No longer parked.'),
      ]);
    });
  }

  /**
   * Cancels an order. It comes off its list, what was picked is laid down to be put back, and its reservations are promised to others
   * at once. While it is being picked or packed, and once a label is bought, it is refused.
   */
  cancel(id: string, reason: string, doer: Doer): Promise<void> {
    return this.change(id, doer, async (tx, order) => {
      await refuseHouseOrder(tx, id);
      if (['Departed', 'Cancelled'].includes(order.stage))
        throw new Forbidden(
          `The order is ${order.stage}.`,
          'Only an order that is still in the house can be cancelled.',
        );
      const undoes = await this.undoing.what(tx, id, true);
      if (undoes.state === 'blocked') throw new Forbidden(undoes.says, undoes.cure);
      if (undoes.state === 'undo') await this.undoing.takeBack(tx, id);
      const freed = await this.cancelLocked(tx, id, `Cancelled: ${reason}`, null);
      await this.reservations.reserveAgain(tx, freed);
      const suspected = await suspectedOf(tx, id);
      if (suspected.length > 0)
        await this.checks.recheck(
          tx,
          suspected.map(s => s.orderId),
        );
    });
  }

  /** Cancels an order that the transaction has locked, because of a person or because it was merged; returns the products that became free. */
  async cancelLocked(tx: Tx, id: string, says: string, mergedIntoId: string | null): Promise<string[]> {
    const products = await productsOf(tx, id);
    // Nobody may promise anything to its parts while it is cancelled.
    await lockAll(tx, { productStock: products });
    const soft = await softOf(tx, id);
    await this.stock.apply(tx, {
      holds: soft.map(s => ({
        partId: s.partId,
        productId: s.productId,
        orderId: id,
        hold: 'soft',
        stopId: null,
        parcelId: null,
        change: -s.quantity,
        why: 'cancel',
      })),
    });
    await setHead(tx, id, { cancelledAt: tx.at, mergedIntoId });
    await toHistory(tx, [event(tx, id, 'cancelled', says)]);
    await refreshStages(tx, [id]);
    return soft.map(s => s.productId);
  }

  async star(id: string, starred: boolean, doer: Doer): Promise<void> {
    await this.change(id, doer, async tx => {
      await setHead(tx, id, { starred }, 'quietly');
    });
  }

  tag(id: string, tag: string, on: boolean, doer: Doer): Promise<void> {
    return this.change(id, doer, async tx => {
      if (on) await tx.of(OrderTag).upsert({ tag, orderId: id }, ['tag', 'orderId']);
      else await tx.of(OrderTag).delete({ orderId: id, tag });
      await toHistory(tx, [event(tx, id, 'tagged', on ? `Tagged “${tag}”.` : `Tag “${tag}” taken off.`)]);
    });
  }

  note(id: string, note: z.infer<typeof NoteIn>, doer: Doer): Promise<void> {
    return this.change(id, doer, async tx => {
      await tx.of(OrderNote).insert({
        id: newId(),
        orderId: id,
        ...note,
        confirm: note.kind === 'packer' && note.confirm,
        word: note.kind === 'packer' && note.confirm && note.word ? note.word : null,
        at: tx.at,
        personId: tx.personId,
      });
      await toHistory(tx, [event(tx, id, 'note', `Note for the ${note.kind}: ${note.text}`)]);
    });
  }

  removeNote(id: string, noteId: string, doer: Doer): Promise<void> {
    return this.change(id, doer, async tx => {
      const note = await tx.of(OrderNote).findOneBy({ id: noteId, orderId: id, removedAt: IsNull() });
      if (!note) throw new NotHere('That note');
      await tx.of(OrderNote).update(noteId, { removedAt: tx.at });
      await toHistory(tx, [event(tx, id, 'note', `Note for the ${note.kind} taken off: ${note.text}`)]);
    });
  }

  /** Accepts that an order is no repeat of the one named, and lets it go on. */
  accept(id: string, subject: string, doer: Doer): Promise<void> {
    return this.change(id, doer, async tx => {
      await this.checks.accept(tx, id, subject);
      await toHistory(tx, [event(tx, id, 'accepted', `Accepted as an order of its own beside ${subject}.`)]);
      await this.checks.recheck(tx, [id]);
    });
  }

  /** Sets an order paid in full, as the office learned outside. */
  paid(id: string, doer: Doer): Promise<void> {
    return this.change(id, doer, async (tx, order) => {
      if (order.payment === 'paid') return;
      await setHead(tx, id, { payment: 'paid', paidMinor: order.totalMinor });
      await toHistory(tx, [
        event(tx, id, 'paid', 'Set as paid in full.', [
          { line: null, field: 'payment', before: order.payment, after: 'paid' },
        ]),
      ]);
      await this.checks.recheck(tx, [id]);
    });
  }

  /** One act on many orders, each in a transaction of its own, each with its own answer. */
  async bulk(input: BulkIn, doer: Doer): Promise<BulkAnswer[]> {
    const numbers = await numbersOf(this.db, input.ids);
    const numberOf = new Map(numbers.map(n => [n.id, n.channelNumber]));
    const answers: BulkAnswer[] = [];
    for (const id of input.ids) {
      const number = numberOf.get(id) ?? '';
      try {
        await this.act(id, input, doer);
        answers.push({ id, number, done: true, says: DONE[input.act] });
      } catch (error) {
        if (!(error instanceof HttpException) || error.getStatus() >= 500) throw error;
        const { detail, cure } = error.getResponse() as { detail: string; cure: string };
        answers.push({ id, number, done: false, says: `${detail} ${cure}` });
      }
    }
    return answers;
  }

  private act(id: string, { act, text }: BulkIn, doer: Doer): Promise<void> {
    if (['park', 'cancel', 'tag', 'untag'].includes(act) && text === '')
      throw new Forbidden('Nothing was typed.', act.includes('tag') ? 'Type the tag.' : 'Type why.');
    switch (act) {
      case 'park':
        return this.park(id, text, '', doer);
      case 'unpark':
        return this.unpark(id, text, doer);
      case 'cancel':
        return this.cancel(id, text, doer);
      case 'tag':
      case 'untag':
        return this.tag(id, text.slice(0, 30), act === 'tag', doer);
      case 'paid':
        return this.paid(id, doer);
      default:
        return this.star(id, act === 'star', doer);
    }
  }

  private change(id: string, doer: Doer, work: (tx: Tx, order: Locked) => Promise<void>): Promise<void> {
    return this.db.tx(doer, async tx => {
      const order = await lockHead(tx, id);
      tx.hold('orders', [id]);
      if (!order) throw new NotHere('That order');
      await work(tx, order);
      await refreshStages(tx, [id]);
      await tx.tell('orders', id);
    });
  }
}

const DONE: Record<BulkIn['act'], string> = {
  park: 'parked',
  unpark: 'no longer parked',
  cancel: 'cancelled',
  star: 'starred',
  unstar: 'no longer starred',
  tag: 'tagged',
  untag: 'tag taken off',
  paid: 'set as paid',
};
