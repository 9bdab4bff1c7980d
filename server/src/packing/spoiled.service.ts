import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden } from '../http/problem.js';
import { refreshStages } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { type HoldChange, type Move, StockService } from '../stock/stock.module.js';
import { pickedOf } from './packing.queries.js';

/** Units that were picked for orders and are spoiled before they are packed. */
@Injectable()
export class Spoiled {
  constructor(
    private readonly stock: StockService,
    private readonly house: HouseService,
    private readonly reservations: Reservations,
  ) {}

  /** Writes picked units of a product off, out of where they lie; what the orders lack then is promised anew, as far as there is more. */
  async writeOff(
    tx: Tx,
    {
      orderIds,
      productId,
      units,
      reason,
    }: { orderIds: string[]; productId: string; units: number; reason: string },
  ): Promise<void> {
    // Orders that may get what is promised anew are locked before the goods, as all do.
    const wanting = await this.reservations.wanting(tx, [productId]);
    await lockAll(tx, { orders: [...orderIds, ...wanting], productStock: [productId] });
    const gone = await this.house.place(tx, 'gone');
    const moves: Move[] = [];
    const holds: HoldChange[] = [];
    let left = units;
    for (const r of await pickedOf(tx, orderIds, productId)) {
      const n = Math.min(left, r.quantity);
      if (n === 0) break;
      left -= n;
      const { lotId, partId, orderId, stopKey: stopId, lies, liesIn } = r;
      moves.push({
        productId,
        lotId,
        from: liesIn,
        to: gone,
        quantity: n,
        why: 'write off',
        causeId: partId,
        reason,
      });
      holds.push({
        partId,
        orderId,
        productId,
        stopId,
        parcelId: null,
        hold: lies,
        change: -n,
        why: 'spoiled',
      });
    }
    if (left > 0)
      throw new Forbidden(
        left === units
          ? 'No piece of it is picked and not packed yet.'
          : `Only ${units - left} of ${units} are picked and not packed yet.`,
        'Write it off where it lies, under Stock.',
      );
    await this.stock.apply(tx, { moves, holds });
    await refreshStages(tx, orderIds);
    await this.reservations.reserveAgain(tx, [productId]);
    await tx.tell('stock', productId);
  }
}
