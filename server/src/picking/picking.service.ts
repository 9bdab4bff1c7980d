import type { Judged, ScanIn } from '@auk/contract';
import { openPick, type PickEffect, type PickState, type PickStop, pickDone, pickScan } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { Lists } from '../lists/lists.module.js';
import { CatalogService } from '../products/products.module.js';
import { event, refreshStages, toHistory } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { ScansService } from '../scans/scans.module.js';
import { type HoldChange, type Move, Places, StockService } from '../stock/stock.module.js';
import {
  isHere,
  lockList,
  lockNextList,
  type StopRow,
  sessionOfList,
  softUnits,
  stateOfList,
  stopsAmong,
  stopsOf,
  stopsToWalk,
  underWay,
} from './pickRows.queries.js';
import { ListRelease } from './release.service.js';

/** A list as the Floor opens it. */
export interface OpenedList {
  sessionId: string;
  listId: string;
  state: PickState;
}

/** Pick lists: releasing, opening on the Floor, and what each scan does to the stock. */
@Injectable()
export class PickingService {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly stock: StockService,
    private readonly scans: ScansService,
    private readonly reservations: Reservations,
    private readonly releases: ListRelease,
    private readonly lists: Lists,
    private readonly places: Places,
    private readonly house: HouseService,
  ) {}

  release(orderIds: readonly string[], doer: Doer): Promise<{ id: string; no: number }> {
    return this.db.tx(doer, tx => this.releases.release(tx, orderIds));
  }

  /** Opens a list by its code for picking; a list already begun goes on where it stood, on whichever device. */
  async open(code: string, device: string, doer: Doer): Promise<OpenedList> {
    const no = /^PL-(\d{1,9})$/i.exec(code.trim())?.[1];
    if (!no)
      throw new Forbidden(
        `“${code.slice(0, 30)}” is not the code of a pick list.`,
        'Scan the code on the top of the printed list; it begins with PL-.',
      );
    return this.db.tx(doer, async tx => {
      const begun = await this.goOn(tx, no, device);
      if (begun) return begun;
      const list = await lockList(tx, no);
      if (!list) throw new NotHere(`The pick list PL-${no}`);
      // Whoever opened it while this waited for the list has made the session.
      if (list.state === 'picking') return this.goOnLate(tx, list.id);
      if (list.state === 'done')
        throw new Forbidden(
          `Nothing is left on PL-${list.no}: its orders were taken off it.`,
          'Open another list under Pick.',
        );
      return this.begin(tx, list, device);
    });
  }

  /**
   * Opens the list that a person takes next: the one they have under way, else what was set aside for them, else what leaves first.
   * Two who take at the same moment get two lists.
   */
  async next(device: string, doer: Doer): Promise<OpenedList> {
    const own = await underWay(this.db, doer.personId!);
    if (own) return this.open(`PL-${own.no}`, device, doer);
    return this.db.tx(doer, async tx => {
      const list = await lockNextList(tx, doer.personId!);
      if (!list) throw new NotHere('A list that waits', 'Ask the lead to release one under Pick.');
      return this.begin(tx, list, device);
    });
  }

  /** Sets a list aside for a person; null: for anybody. */
  async hand(no: number, personId: string | null, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const list = await lockList(tx, String(no));
      if (!list) throw new NotHere(`The pick list PL-${no}`);
      if (list.state !== 'released')
        throw new TooLate(
          `PL-${no} is ${list.state === 'done' ? 'done' : 'being picked'} already.`,
          'Another picker takes it over by scanning its code.',
        );
      if (personId !== null && !(await isHere(tx, personId)))
        throw new NotHere('That person', 'Choose somebody who works here.');
      await this.lists.handTo(tx, list.id, personId);
      await tx.tell('lists', list.id);
    });
  }

  private async begin(tx: Tx, list: { id: string; no: number }, device: string): Promise<OpenedList> {
    const state = openPick(`PL-${list.no}`, await this.stops(tx, list.id));
    const sessionId = await this.scans.open(tx, { kind: 'pick', listId: list.id }, state, device);
    await this.lists.move(tx, list.id, 'picking');
    await tx.tell('lists', list.id);
    return { sessionId, listId: list.id, state };
  }

  /** A list that was begun goes on where it stood, on this device. Sessions are locked before lists. */
  private async goOn(tx: Tx, no: string, device: string): Promise<OpenedList | null> {
    const known = await sessionOfList(tx, no);
    if (!known) return null;
    const { state } = await this.scans.lock<PickState>(tx, known.id);
    await this.scans.handTo(tx, known.id, device);
    return { sessionId: known.id, listId: known.listId, state };
  }

  private async goOnLate(tx: Tx, listId: string): Promise<OpenedList> {
    const row = (await stateOfList(tx, listId))!;
    return { sessionId: row.id, listId, state: fromJson<PickState>(row.state) };
  }

  /** Judges a scan of the Floor and moves the stock with it. */
  scan(sessionId: string, scan: ScanIn, doer: Doer): Promise<Judged<PickState>> {
    return this.db.tx(doer, tx =>
      this.scans.judge<PickState, PickEffect>(tx, 'pick', sessionId, scan, pickScan, (effects, _, after) =>
        this.act(tx, effects, after),
      ),
    );
  }

  /** Takes every open unit of a list at once; used for loading the demo's past. */
  async takeAll(tx: Tx, listId: string): Promise<void> {
    const stops = await stopsOf(tx, listId);
    const changes = stops.map(s => takeChange(s, s.quantity));
    await lockAll(tx, {
      orders: stops.map(s => s.orderId),
      pickList: [listId],
      productStock: stops.map(s => s.productId),
    });
    await this.stock.apply(tx, { moves: changes.map(c => c.move), holds: changes.flatMap(c => c.holds) });
    await this.lists.move(tx, listId, 'done');
    await refreshStages(
      tx,
      stops.map(s => s.orderId),
    );
  }

  private async act(tx: Tx, effects: PickEffect[], after: PickState): Promise<void> {
    const stops = await stopsAmong(
      tx,
      effects.map(e => e.stopId),
    );
    const orders = new Set(stops.map(s => s.orderId));
    const { listId } = stops[0]!;
    await lockAll(tx, {
      orders: [...orders],
      pickList: [listId],
      productStock: stops.map(s => s.productId),
    });
    for (const effect of effects) {
      const stop = stops.find(s => s.id === effect.stopId)!;
      if (effect.type === 'take') {
        const { move, holds } = takeChange(stop, effect.units);
        await this.stock.apply(tx, { moves: [move], holds });
      } else await this.missing(tx, stop, effect.units);
    }
    await refreshStages(tx, [...orders]);
    const done = pickDone(after);
    await this.lists.move(tx, listId, done ? 'done' : 'picking');
    if (done) {
      await this.places.freeEmptyTotes(tx, listId);
      await tx.tell('lists', after.listNo);
    }
  }

  /** Pieces that are not there leave the stock (place MISSING) until they are counted; the order gets others, or becomes Short. Negative: found after all. */
  private async missing(tx: Tx, stop: StopRow, units: number): Promise<void> {
    const nowhere = await this.house.place(tx, 'missing');
    const [from, to] = units > 0 ? [stop.placeId, nowhere] : [nowhere, stop.placeId];
    const move: Move = {
      productId: stop.productId,
      lotId: stop.lotId,
      from,
      to,
      quantity: Math.abs(units),
      why: 'missing',
      causeId: stop.id,
    };
    if (units < 0) await this.giveBackSoft(tx, stop, -units);
    await this.stock.apply(tx, {
      moves: [move],
      holds: [{ ...holdOf(stop, 'listed', -units), at: stop, why: 'missing' }],
    });
    if (units > 0) await this.reservations.reserveAgain(tx, [stop.productId]);
    await toHistory(tx, [
      event(
        tx,
        stop.orderId,
        'missing',
        units > 0 ? `${units} not found at picking.` : `${-units} found after all.`,
      ),
    ]);
  }

  private async giveBackSoft(tx: Tx, stop: StopRow, units: number): Promise<void> {
    const soft = (await softUnits(tx, stop.partId))!.n;
    const change = Math.min(units, soft);
    if (change > 0)
      await this.stock.apply(tx, {
        holds: [{ ...holdOf(stop, 'soft', -change), stopId: null, why: 'missing' }],
      });
  }

  private async stops(tx: Tx, listId: string): Promise<PickStop[]> {
    const rows = await stopsToWalk(tx, listId);
    const products = await this.catalog.products(tx, [...new Set(rows.map(r => r.productId))]);
    return rows.map(r => {
      const { id, sku, name, codes, picture, hint } = products.get(r.productId)!;
      return {
        id: r.id,
        placeId: r.placeId,
        placeCode: r.placeCode,
        product: { id, sku, name, codes, picture, hint },
        wanted: r.quantity,
        taken: r.taken,
        missing: 0,
        tote: { id: r.toteId, code: r.toteCode, mark: r.mark, ...(r.colour && { colour: r.colour }) },
        orderNo: `OR-${r.orderNo}`,
        ...(r.lot && { lot: { code: r.lot, expiry: r.expiry } }),
      };
    });
  }
}

function holdOf(stop: StopRow, hold: HoldChange['hold'], change: number): HoldChange {
  return {
    partId: stop.partId,
    orderId: stop.orderId,
    productId: stop.productId,
    hold,
    stopId: stop.id,
    parcelId: null,
    change,
    why: 'pick',
  };
}

/** Units from a place into the tote of their order; negative units go back. */
function takeChange(stop: StopRow, units: number): { move: Move; holds: HoldChange[] } {
  const [from, to] = units > 0 ? [stop.placeId, stop.toteId] : [stop.toteId, stop.placeId];
  return {
    move: {
      productId: stop.productId,
      lotId: stop.lotId,
      from,
      to,
      quantity: Math.abs(units),
      why: units > 0 ? 'pick' : 'put back',
      causeId: stop.id,
    },
    holds: [
      { ...holdOf(stop, 'listed', -units), at: { placeId: stop.placeId, lotId: stop.lotId } },
      holdOf(stop, 'picked', units),
    ],
  };
}
