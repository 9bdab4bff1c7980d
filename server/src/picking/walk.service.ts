import {
  insertStop,
  type PickEffect,
  type PickNews,
  type PickState,
  type PickStop,
  pickDone,
  pickScan,
  type Spot,
  type Stage,
  stopOpen,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, TooLate } from '../http/problem.js';
import { Lists } from '../lists/lists.module.js';
import { event, refreshStages, toHistory } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { type Judgement, ScansService } from '../scans/scans.module.js';
import { type HoldChange, type Move, Places, StockService } from '../stock/stock.module.js';
import { FloorTroubles } from './floorTroubles.service.js';
import {
  type HeldStop,
  heldStops,
  listOfSession,
  lockCarrier,
  numbersOf,
  type StopRow,
  softUnits,
  stopsAt,
} from './pickRows.queries.js';
import { ListRelease, type ReplacedStop } from './release.service.js';

/** What each scan of a walk does to the stock. */
@Injectable()
export class WalkService {
  constructor(
    private readonly stock: StockService,
    private readonly scans: ScansService,
    private readonly reservations: Reservations,
    private readonly releases: ListRelease,
    private readonly lists: Lists,
    private readonly places: Places,
    private readonly house: HouseService,
    private readonly troubles: FloorTroubles,
  ) {}

  /** Does what a scan asks. Gives what the house had to say in addition: further places of what was missing. */
  async act(
    tx: Tx,
    sessionId: string,
    effects: readonly PickEffect[],
    after: PickState,
  ): Promise<Judgement<PickState> | null> {
    const goods = effects.filter(e => e.type === 'take' || e.type === 'missing' || e.type === 'give up');
    if (goods.length < effects.length) {
      const { listId } = (await listOfSession(tx, sessionId))!;
      for (const e of effects) {
        if (e.type === 'mix-up')
          await this.troubles.mixUp(tx, after.stops.find(s => s.id === e.stopId)!, e.sku);
        if (e.type === 'trolley') await this.carry(tx, listId, e.placeId, after.heap);
        if (e.type === 'drop') {
          await this.places.standAt(tx, listId, e.code);
          await tx.tell('lists', after.listNo);
        }
        if (e.type === 'tote') await this.bring(tx, listId, e.from, e.to);
      }
    }
    if (goods.length === 0) return null;
    const stops = await this.lockStops(
      tx,
      goods.map(e => e.stopId),
      after.heap,
    );
    let found: ReplacedStop[] = [];
    for (const effect of goods) {
      const own = alike(stops, effect.stopId, after.heap);
      if (effect.type === 'give up') await this.giveUp(tx, stops.find(s => s.id === effect.stopId)!);
      else if (effect.type === 'take')
        for (const { stop, units } of shares(own, effect.units)) {
          const { move, holds } = takeChange(stop, units);
          await this.stock.apply(tx, { moves: [move], holds });
        }
      else found = [...found, ...(await this.missing(tx, own, effect.units))];
    }
    const stages = await refreshStages(tx, [...new Set(stops.map(s => s.orderId))]);
    const held = await heldOf(tx, stages, after);
    const told =
      found.length > 0
        ? await this.tell(tx, sessionId, after, found)
        : held && (await this.scans.tell<PickState, PickNews>(tx, sessionId, after, held, pickScan));
    const { listId } = stops[0]!;
    const done = pickDone(told?.state ?? after);
    await this.lists.move(tx, listId, done ? 'done' : 'picking');
    if (done) await this.places.freeEmptyTotes(tx, listId);
    if (done || told) await tx.tell('lists', after.listNo);
    return told;
  }

  /** Stops with all that they touch locked. What is decided on is read after the locks. */
  private async lockStops(tx: Tx, stopIds: readonly string[], heap: boolean): Promise<HeldStop[]> {
    const stops = await heldStops(tx, stopIds, heap);
    await lockAll(tx, {
      orders: stops.map(s => s.orderId),
      pickList: [stops[0]!.listId],
      productStock: stops.map(s => s.productId),
    });
    return heldStops(tx, stopIds, heap);
  }

  /** A trolley or tote carries the list; a heap lies on it from now on. */
  private async carry(tx: Tx, listId: string, placeId: string, heap: boolean): Promise<void> {
    await lockAll(tx, { pickList: [listId] });
    await this.mustBeFree(tx, listId, placeId);
    await this.places.setOff(tx, placeId);
    await this.lists.carry(tx, listId, placeId, heap);
  }

  /** Another tote takes the place of one that the list was given. */
  private async bring(tx: Tx, listId: string, from: string, to: string): Promise<void> {
    await lockAll(tx, { pickList: [listId] });
    await this.mustBeFree(tx, listId, to);
    await this.places.changeTote(tx, from, to);
    await this.lists.changeTote(tx, listId, from, to);
  }

  private async mustBeFree(tx: Tx, listId: string, placeId: string): Promise<void> {
    const carrier = await lockCarrier(tx, placeId, listId);
    if (!carrier?.free)
      throw new Forbidden(
        `${carrier?.code ?? 'That tote'} was taken for something else a moment ago.`,
        'Take another and scan it.',
      );
  }

  /**
   * Pieces that are not there leave the stock (place MISSING) until they are counted. Their orders get others where there are any: on
   * this walk, at the places named in what it gives; else they become Short. Negative: found after all.
   */
  private async missing(tx: Tx, stops: readonly HeldStop[], units: number): Promise<ReplacedStop[]> {
    const nowhere = await this.house.place(tx, 'missing');
    // The last in the order of the list is the least urgent.
    const shared = units > 0 ? shares([...stops].reverse(), units) : shares(stops, units, 'missing');
    for (const { stop, units: n } of shared) {
      const [from, to] = n > 0 ? [stop.placeId, nowhere] : [nowhere, stop.placeId];
      const move: Move = {
        productId: stop.productId,
        lotId: stop.lotId,
        from,
        to,
        quantity: Math.abs(n),
        why: 'missing',
        causeId: stop.id,
      };
      if (n < 0) await this.giveBackSoft(tx, stop, -n);
      await this.stock.apply(tx, {
        moves: [move],
        holds: [{ ...holdOf(stop, 'listed', -n), at: stop, why: 'missing' }],
      });
    }
    if (units > 0) await this.reservations.reserveAgain(tx, [stops[0]!.productId]);
    await toHistory(
      tx,
      shared.map(({ stop, units: n }) =>
        event(tx, stop.orderId, 'missing', n > 0 ? `${n} not found at picking.` : `${-n} found after all.`),
      ),
    );
    if (units <= 0) return [];
    const found: ReplacedStop[] = [];
    for (const { stop } of shared) found.push(...(await this.releases.replace(tx, stop)));
    return found;
  }

  /** A stop that was added on the way is not walked to any more: what it holds is free. */
  private async giveUp(tx: Tx, stop: HeldStop): Promise<void> {
    await this.stock.apply(tx, {
      holds: [{ ...holdOf(stop, 'listed', -stop.listed), at: stop, why: 'missing' }],
    });
    await this.lists.drop(tx, stop.id);
  }

  private async giveBackSoft(tx: Tx, stop: StopRow, units: number): Promise<void> {
    const soft = (await softUnits(tx, stop.partId))!.n;
    const change = Math.min(units, soft);
    if (change > 0)
      await this.stock.apply(tx, {
        holds: [{ ...holdOf(stop, 'soft', -change), stopId: null, why: 'missing' }],
      });
  }

  /** Tells the walk of further stops, where they cost the fewest steps. */
  private async tell(
    tx: Tx,
    sessionId: string,
    after: PickState,
    found: readonly ReplacedStop[],
  ): Promise<Judgement<PickState>> {
    const like = after.stops.find(s => s.product.id === found[0]!.productId)!;
    const stops = found.map((f): PickStop => {
      const from = after.stops.find(s => s.id === f.instead) ?? like;
      return {
        ...from,
        id: f.id,
        placeId: f.placeId,
        placeCode: f.code,
        instead: from.id,
        wanted: f.quantity,
        taken: 0,
        missing: 0,
        ...(f.lot && { lot: f.lot }),
      };
    });
    const before = await this.insertBefore(tx, after, found);
    return this.scans.tell<PickState, PickNews>(
      tx,
      sessionId,
      after,
      { kind: 'stops', stops, before },
      pickScan,
    );
  }

  private async insertBefore(
    tx: Tx,
    after: PickState,
    found: readonly ReplacedStop[],
  ): Promise<string | null> {
    const layout = await this.house.layout(tx);
    const rows = new Map((await stopsAt(tx, found[0]!.listId)).map(r => [r.id, r]));
    const spotOf = (id: string): Spot | null => {
      const r = rows.get(id);
      return r && r.aisle !== null && r.along !== null && layout.aisles[r.aisle]
        ? { aisle: r.aisle, along: r.along }
        : null;
    };
    const to = spotOf(found[0]!.id);
    const here = found[0]!.instead;
    const open = after.stops.slice(after.at).filter(s => stopOpen(s) > 0);
    const rest = open.flatMap(s => spotOf(s.id) ?? []);
    if (!to || rest.length < open.length) return open.find(s => spotOf(s.id) === null)?.id ?? null;
    return open[insertStop(layout, spotOf(here) ?? layout.start, rest, to)]?.id ?? null;
  }
}

/** An order that was stopped, parked or cancelled meanwhile and of which the picker was not told yet. */
async function heldOf(
  tx: Tx,
  stages: ReadonlyMap<string, Stage>,
  after: PickState,
): Promise<PickNews | null> {
  const ids = [...stages].filter(([, stage]) => HELD.has(stage)).map(([id]) => id);
  if (after.heap || ids.length === 0) return null;
  const first = (await numbersOf(tx, ids)).find(o => !after.held.includes(`OR-${o.no}`));
  return first ? { kind: 'held', orderNo: `OR-${first.no}`, stage: stages.get(first.id)! } : null;
}

/** Stages of orders that must not go on. */
const HELD: ReadonlySet<Stage> = new Set(['Stopped', 'Parked', 'Cancelled']);

/** Of a heap, all stops of one product, place and lot are one to the picker; else a stop is itself. */
function alike(stops: readonly HeldStop[], stopId: string, heap: boolean): HeldStop[] {
  const one = stops.find(s => s.id === stopId)!;
  return heap
    ? stops.filter(s => s.placeId === one.placeId && s.productId === one.productId && s.lotId === one.lotId)
    : [one];
}

/** Units shared out over stops: taken in their order, put back (or found after all) in the reverse. */
function shares(
  stops: readonly HeldStop[],
  units: number,
  back: 'picked' | 'missing' = 'picked',
): { stop: HeldStop; units: number }[] {
  let left = Math.abs(units);
  const shared = (units > 0 ? [...stops] : [...stops].reverse()).flatMap(stop => {
    const n = Math.min(left, units > 0 ? stop.listed : stop[back]);
    left -= n;
    return n > 0 ? [{ stop, units: Math.sign(units) * n }] : [];
  });
  if (left > 0)
    throw new TooLate(
      'What this list wants has changed since it was opened.',
      'Open the list again by its code; what is taken stays taken.',
    );
  return shared;
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

/** Units from a place into where they are laid; negative units go back. */
export function takeChange(stop: StopRow, units: number): { move: Move; holds: HoldChange[] } {
  const [from, to] = units > 0 ? [stop.placeId, stop.toteId!] : [stop.toteId!, stop.placeId];
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
