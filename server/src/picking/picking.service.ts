import type { FloorChoices, Judged, OpenedList, PlanList, ScanIn } from '@auk/contract';
import {
  openPick,
  type PickEffect,
  type PickState,
  type PickStop,
  pickScan,
  type WalkChoices,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Forbidden, NotAllowed, NotHere, TooLate } from '../http/problem.js';
import { Lists } from '../lists/lists.module.js';
import { CatalogService } from '../products/products.module.js';
import { refreshStages } from '../records/records.module.js';
import { type Judgement, ScansService } from '../scans/scans.module.js';
import { StockService } from '../stock/stock.module.js';
import { FloorChoice, sorted } from './floorChoice.service.js';
import { FloorTroubles, isCode } from './floorTroubles.service.js';
import {
  isHere,
  lockList,
  lockNextList,
  sessionOfList,
  staffNotes,
  stateOfList,
  stopsOf,
  stopsToWalk,
  underWay,
} from './pickRows.queries.js';
import { ANYTHING, ListRelease } from './release.service.js';
import { takeChange, WalkService } from './walk.service.js';

/** Pick lists: releasing, opening on the Floor, and what each scan does to the stock. */
@Injectable()
export class PickingService {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly stock: StockService,
    private readonly scans: ScansService,
    private readonly releases: ListRelease,
    private readonly lists: Lists,
    private readonly walk: WalkService,
    private readonly floor: FloorChoice,
    private readonly troubles: FloorTroubles,
  ) {}

  release({ orderIds, method }: PlanList, doer: Doer): Promise<{ id: string; no: number }> {
    return this.db.tx(doer, tx => this.releases.release(tx, orderIds, { method, tote: ANYTHING }));
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

  private async begin(
    tx: Tx,
    list: { id: string; no: number; method: 'single' | 'cluster' | 'batch' },
    device: string,
  ): Promise<OpenedList> {
    const choices = await this.floor.of(tx);
    const stops = sorted(await this.stops(tx, list.id, choices), choices.sorting);
    const state = openPick(`PL-${list.no}`, stops, {
      heap: list.method === 'batch',
      choices: ofWalk(choices),
    });
    const sessionId = await this.scans.open(tx, { kind: 'pick', listId: list.id }, state, device);
    await this.lists.move(tx, list.id, 'picking');
    await tx.tell('lists', list.id);
    return { sessionId, listId: list.id, choices, state };
  }

  /** A list that was begun goes on where it stood, on this device. Sessions are locked before lists. */
  private async goOn(tx: Tx, no: string, device: string): Promise<OpenedList | null> {
    const known = await sessionOfList(tx, no);
    if (!known) return null;
    const { state, personId } = await this.scans.lock<PickState>(tx, known.id);
    await this.scans.handTo(tx, known.id, device);
    // Whoever picked it until now sees that somebody else does.
    if (personId !== tx.personId) await tx.tell('lists', known.listId);
    return { sessionId: known.id, listId: known.listId, choices: await this.floor.of(tx), state };
  }

  private async goOnLate(tx: Tx, listId: string): Promise<OpenedList> {
    const row = (await stateOfList(tx, listId))!;
    const state = fromJson<PickState>(row.state);
    return { sessionId: row.id, listId, choices: await this.floor.of(tx), state };
  }

  /** Judges a scan of the Floor and moves the stock with it. `mayByHand`: whoever sends it may type and press codes. */
  scan(sessionId: string, scan: ScanIn, doer: Doer, mayByHand: boolean): Promise<Judged<PickState>> {
    if (scan.by !== undefined && !mayByHand && isCode(scan.text))
      throw new NotAllowed(
        'You may not type or press codes here.',
        'Scan the label, or ask the lead, who can give you that right.',
      );
    return this.db.tx(doer, async tx => {
      let later: Judgement<PickState> | null = null;
      let before: PickState | null = null;
      const judged = await this.scans.judge<PickState, PickEffect>(
        tx,
        'pick',
        sessionId,
        scan,
        (state, made) => {
          before = state;
          return pickScan(state, made);
        },
        async (effects, _, after) => {
          later = await this.walk.act(tx, sessionId, effects, after);
        },
      );
      if (before && !judged.repeated) await this.troubles.byHand(tx, scan, judged.answer, before);
      return { ...judged, ...(later as Judgement<PickState> | null) };
    });
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

  private async stops(tx: Tx, listId: string, { show }: FloorChoices): Promise<PickStop[]> {
    const rows = await stopsToWalk(tx, listId);
    const products = await this.catalog.products(tx, [...new Set(rows.map(r => r.productId))]);
    const staff = show.includes('staff note') ? await staffNotes(tx, listId) : [];
    return rows.map(r => {
      const { id, sku, name, codes, picture, hint, size } = products.get(r.productId)!;
      const notes = [
        ...(show.includes('buyer note') && r.note ? [r.note] : []),
        ...staff.filter(n => n.orderId === r.orderId).map(n => n.text),
      ];
      return {
        id: r.id,
        placeId: r.placeId,
        placeCode: r.placeCode,
        product: { id, sku, name, codes, picture, hint },
        wanted: r.quantity,
        taken: r.taken,
        missing: 0,
        tote: toteOf(r),
        orderNo: `OR-${r.orderNo}`,
        ...(r.lot && { lot: { code: r.lot, expiry: r.expiry } }),
        ...(notes.length > 0 && !r.heap && { notes }),
        ...(size && show.includes('size') && { size }),
      };
    });
  }
}

/** What of the choices the walk itself goes by. */
const ofWalk = ({ bringTotes, confirmTote, afterOrder }: FloorChoices): WalkChoices => ({
  bringTotes,
  confirmTote,
  afterOrder,
});

/** The tote of a stop; of a heap there is none. */
function toteOf(r: Awaited<ReturnType<typeof stopsToWalk>>[number]): PickStop['tote'] {
  if (r.toteId === null) return null;
  return {
    id: r.toteId,
    code: r.toteCode!,
    mark: r.mark ?? r.toteCode!,
    ...(r.colour && { colour: r.colour }),
  };
}
