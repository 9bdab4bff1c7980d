import { withdraw } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { NONE, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Forbidden } from '../http/problem.js';
import { event, lockOrders, refreshStages, toHistory, Undoing } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { type HoldChange, type Move, StockService } from '../stock/stock.module.js';
import {
  expiredLot,
  listsOfOrders,
  lockBalance,
  promisesOf,
  type SoftRow,
  stopsTaking,
} from './corrections.queries.js';

/** What was looked at changed before it was locked: the whole transaction is tried again, as after a deadlock. */
export const lockedMeanwhile = () =>
  Object.assign(new Error('It changed while it was looked at'), { errno: 1213 });

/** How many orders lost units that were promised to them. */
export interface Lost {
  orders: string[];
}

/**
 * Moves that facts force: what was found missing, broken or expired leaves the stock even though orders are promised it. Promises
 * beyond what is left are taken back, the newest first, and each order concerned says why. Goods on a list nobody has begun are taken
 * off it; goods that somebody is picking right now are left to the picker.
 */
@Injectable()
export class StockCorrections {
  constructor(
    private readonly stock: StockService,
    private readonly reservations: Reservations,
    private readonly undoing: Undoing,
  ) {}

  /** Applies one move of a correction, from or into a place of stock. `says` tells the orders that lose a promise why. */
  async force(tx: Tx, move: Move, promisedFrom: boolean, says: string): Promise<Lost> {
    const orders = promisedFrom ? await this.makeRoom(tx, move, says) : [];
    if (!promisedFrom) {
      const wanting = await this.reservations.wanting(tx, [move.productId]);
      await lockAll(tx, { orders: wanting, productStock: [move.productId] });
    }
    await this.stock.apply(tx, { moves: [move] });
    if (orders.length > 0) await refreshStages(tx, orders);
    await this.reservations.reserveAgain(tx, [move.productId]);
    await tx.tell('stock', move.productId);
    return { orders };
  }

  /** Takes promises back until `units` of a product could leave its promised stock. Gives the orders that lost something. */
  async withdrawFor(tx: Tx, productId: string, units: number, says: string): Promise<string[]> {
    const before = await this.promises(tx, productId);
    await lockOrders(
      tx,
      before.map(p => p.orderId),
    );
    const free = (await this.stock.lockFree(tx, [productId])).get(productId) ?? 0;
    const over = units - free;
    if (over <= 0) return [];
    const locked = new Set(before.map(p => p.orderId));
    const promises = await this.promises(tx, productId);
    const taken = withdraw(
      promises.map(p => ({ key: p.partId, quantity: p.quantity, since: p.since })),
      over,
    );
    const byPart = new Map(promises.map(p => [p.partId, p]));
    if (taken.some(t => !locked.has(byPart.get(t.key)!.orderId))) throw lockedMeanwhile();
    if (taken.reduce((n, t) => n + t.units, 0) < over)
      throw new Forbidden(
        'More of it is on pick lists than would be left.',
        'Let those lists be picked first; a picker who does not find it says so there.',
        { productId },
      );
    const holds = taken.map(
      (t): HoldChange => ({
        partId: t.key,
        orderId: byPart.get(t.key)!.orderId,
        productId,
        hold: 'soft',
        stopId: null,
        parcelId: null,
        change: -t.units,
        why: 'withdrawn',
      }),
    );
    await this.stock.apply(tx, { holds });
    const lost = new Map<string, number>();
    for (const h of holds) lost.set(h.orderId, (lost.get(h.orderId) ?? 0) - h.change);
    await toHistory(
      tx,
      [...lost].map(([orderId, n]) =>
        event(tx, orderId, 'withdrawn', `${n} promised to it are not there: ${says}`),
      ),
    );
    return [...lost.keys()];
  }

  /** Makes a move out of a promised place possible: lists that nobody began give their goods back, newest promises are withdrawn. */
  private async makeRoom(tx: Tx, move: Move, says: string): Promise<string[]> {
    const stops = await stopsTaking(tx, move.productId, move.from, move.lotId ?? NONE);
    const orders = [...stops.map(s => s.orderId), ...(await this.concerned(tx, move.productId))];
    const lists = await listsOfOrders(
      tx,
      stops.map(s => s.orderId),
    );
    await lockAll(tx, { orders, pickList: lists.map(l => l.listId), productStock: [move.productId] });
    const lies = await lockBalance(tx, move.productId, move.from, move.lotId ?? NONE);
    if (!lies || lies.onHand < move.quantity)
      throw new Forbidden(
        `Only ${Math.max(0, lies?.onHand ?? 0)} lie there, not ${move.quantity}.`,
        'Count the place first.',
      );
    if (lies.onHand - lies.listed < move.quantity) {
      const busy = stops.find(s => s.state === 'picking');
      if (busy)
        throw new Forbidden(
          `PL-${busy.no} is being picked from there right now${busy.picker ? ` by ${busy.picker}` : ''}, and wants ${lies.listed} of it.`,
          'Wait until it is picked; a picker who does not find it says so there.',
        );
      for (const s of stops) await this.undoing.takeBack(tx, s.orderId);
    }
    const expired = move.lotId !== null && (await expiredLot(tx, move.lotId)) !== null;
    return expired ? [] : this.withdrawFor(tx, move.productId, move.quantity, says);
  }

  /** Orders that a product is promised to, and those that want more of it: what the ones lose, the others may get. All are locked before goods are. */
  async concerned(tx: Tx, productId: string): Promise<string[]> {
    const promised = await this.promises(tx, productId);
    return [...promised.map(p => p.orderId), ...(await this.reservations.wanting(tx, [productId]))];
  }

  private promises(tx: Tx, productId: string): Promise<SoftRow[]> {
    return promisesOf(tx, productId);
  }
}
