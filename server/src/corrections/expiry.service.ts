import { Injectable } from '@nestjs/common';
import { Db, type Tx } from '../database/db.js';
import { daysAround, HouseService } from '../house/house.module.js';
import { log } from '../http/log.js';
import { Rounds } from '../leases/leases.module.js';
import { lockOrders, refreshStages, Undoing } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { StockService } from '../stock/stock.module.js';
import { lockedMeanwhile, StockCorrections } from './corrections.service.js';
import { type Due, listsHolding, lockLot, lotsDue, unitsOfLot } from './expiry.queries.js';

const SWEEP_EVERY_MS = 60_000;

/** Takes lots out of what may be promised on the day they expire. */
@Injectable()
export class Expiry {
  constructor(
    private readonly db: Db,
    private readonly stock: StockService,
    private readonly corrections: StockCorrections,
    private readonly undoing: Undoing,
    private readonly reservations: Reservations,
    private readonly house: HouseService,
    rounds: Rounds,
  ) {
    rounds.register({
      name: 'expired lots',
      everyMs: SWEEP_EVERY_MS,
      leaseMs: SWEEP_EVERY_MS,
      lanes: async () => [''],
      work: () => this.sweep(new Date()),
    });
  }

  /** Takes every lot whose day has come out of what may be promised, each in a transaction of its own. Lots on a list being picked wait for its end. */
  async sweep(at: Date): Promise<number> {
    const house = await this.house.known(this.db);
    if (!house) return 0;
    const { today } = daysAround(at, house.zone);
    const due = await lotsDue(this.db, today);
    let swept = 0;
    for (const lot of due) {
      try {
        if (await this.db.tx({ personId: null, at }, tx => this.expire(tx, lot))) swept++;
      } catch (error) {
        log.warn({ err: error, lot: lot.code }, 'a lot could not be taken out of stock; it is tried again');
      }
    }
    return swept;
  }

  private async expire(tx: Tx, lot: Due): Promise<boolean> {
    // Another server's sweep may be at it, or have been.
    if (await this.isExpired(tx, lot.id)) return false;
    const stops = await listsHolding(tx, lot.id);
    if (stops.some(s => s.state === 'picking')) return false;
    const concerned = await this.corrections.concerned(tx, lot.productId);
    await lockOrders(tx, [...stops.map(s => s.orderId), ...concerned]);
    for (const s of stops) await this.undoing.takeBack(tx, s.orderId);
    const n = await this.lying(tx, lot);
    const says = `lot ${lot.code} expired on ${lot.expiry}.`;
    const lost = await this.corrections.withdrawFor(tx, lot.productId, n, says);
    await this.stock.lockFree(tx, [lot.productId]);
    if ((await this.lying(tx, lot)) !== n) throw lockedMeanwhile();
    await this.stock.expire(tx, lot);
    await refreshStages(tx, [...lost, ...stops.map(s => s.orderId)]);
    await this.reservations.reserveAgain(tx, [lot.productId]);
    await tx.tell('stock', lot.productId);
    return true;
  }

  private async isExpired(tx: Tx, id: string): Promise<boolean> {
    const row = await lockLot(tx, id);
    return row?.expiredAt !== null;
  }

  /** Units of a lot in places that stock is promised from. */
  private async lying(tx: Tx, lot: Due): Promise<number> {
    const row = await unitsOfLot(tx, lot.id);
    return row!.n;
  }
}
