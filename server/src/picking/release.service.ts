import {
  fillTotes,
  type PickMethod,
  placeParts,
  type ToteLimits,
  type WalkStop,
  walkStops,
  walksOf,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { NONE, newId, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, TooLate } from '../http/problem.js';
import { Lists } from '../lists/lists.module.js';
import { event, refreshStages, toHistory } from '../records/records.module.js';
import { type HoldChange, Places, StockService } from '../stock/stock.module.js';
import type { StopRow } from './pickRows.queries.js';
import {
  type BinStock,
  binStock,
  lockBins,
  lockToRelease,
  type SoftPart,
  softParts,
} from './release.queries.js';

/** Pick faces first, then reserve, the dock last: what lies there is about to be put away. */
const RANKS = ['bin', 'reserve', 'dock'];

/** Units of an order from one place and lot, as release decides them. */
export interface PlacedPart extends SoftPart, WalkStop {
  placeId: string;
  lotId: string | null;
  /** The area that the place lies in. */
  area: string;
  lot: { code: string; expiry: string | null } | null;
}

type NewStop = PlacedPart & { toteId: string | null };

/** A further stop of a list, for units that were not found at another. */
export interface ReplacedStop {
  id: string;
  /** The stop at which they were missing. */
  instead: string;
  listId: string;
  placeId: string;
  code: string;
  productId: string;
  quantity: number;
  lot: { code: string; expiry: string | null } | null;
}

/** How a list is picked, and what its totes hold. */
export interface ReleaseChoice {
  method: PickMethod;
  tote: ToteLimits;
}

/** How places are chosen: on which day, which parts are walked together, what is taken already, and where nothing is taken from. */
interface Placing {
  now: Date;
  walkOf?: (part: SoftPart) => string;
  taken?: Map<string, number>;
  not?: string | null;
}

/** Orders of which places are expected in one go. */
const PORTION = 150;

/** What totes hold while nobody says so: as much as comes. */
export const ANYTHING: ToteLimits = { volume: Infinity, weight: Infinity };

/** Turns Clear orders into a released pick list: places are decided, totes given, stops put in walking order. */
@Injectable()
export class ListRelease {
  constructor(
    private readonly stock: StockService,
    private readonly lists: Lists,
    private readonly places: Places,
    private readonly house: HouseService,
  ) {}

  /** Releases one list of the orders, as many totes for each as it fills. All or nothing: the first order that cannot go refuses the list with its why. */
  async release(
    tx: Tx,
    orderIds: readonly string[],
    { method, tote }: ReleaseChoice = { method: 'cluster', tote: ANYTHING },
  ): Promise<{ id: string; no: number }> {
    const ids = [...new Set(orderIds)].sort();
    const orders = await lockToRelease(tx, ids);
    const not = orders.find(o => o.stage !== 'Clear');
    if (orders.length !== ids.length)
      throw new Forbidden('Some of the orders are not in Auk any more.', 'Look at the list again.');
    if (not)
      throw new TooLate(
        `${not.channelNumber} is ${not.stage}, not Clear, so it cannot be put on a pick list.`,
        'Take it out of the choice, or look why.',
        { orderId: not.id },
      );
    const soft = await softParts(tx, ids);
    await this.stock.lockFree(
      tx,
      soft.map(s => s.productId),
    );
    await lockBins(tx, [...productsOf(soft), NONE]);
    const { parts, short } = await this.placed(tx, soft, { now: tx.at });
    if (short)
      throw new Forbidden(
        'The stock of a product lies in places that may not be picked from (expired, or taken meanwhile).',
        'Count that product, then plan again.',
        { productId: short },
      );
    const walk = walkStops(parts, walksOf(await this.house.layout(tx)));
    const stops =
      method === 'batch'
        ? walk.stops.map(s => ({ ...s, toteId: null }))
        : await this.intoTotes(tx, ids, walk.stops, tote);
    return this.store(tx, orders, stops, walk.distance, method);
  }

  /**
   * Puts what is promised again of a part that was not found onto the list of the stop where it was missing, at other places: what the
   * books still have there is not believed. Gives the new stops; none where nothing is promised, or none of it lies elsewhere.
   */
  async replace(tx: Tx, stop: StopRow): Promise<ReplacedStop[]> {
    const soft = (await softParts(tx, [stop.orderId])).filter(p => p.partId === stop.partId);
    if (soft.length === 0) return [];
    await lockBins(tx, [stop.productId, NONE]);
    const { parts } = await this.placed(tx, soft, { now: tx.at, not: stop.placeId });
    const rows = parts.map(p => ({
      id: newId(),
      placeId: p.placeId,
      lotId: p.lotId,
      productId: p.productId,
      partId: p.partId,
      orderId: p.orderId,
      quantity: p.quantity,
      toteId: stop.toteId,
    }));
    await this.lists.extend(tx, stop.listId, rows);
    await this.stock.apply(tx, { holds: rows.flatMap(listedHolds) });
    return rows.map((r, i) => ({
      id: r.id,
      instead: stop.id,
      listId: stop.listId,
      placeId: r.placeId,
      code: parts[i]!.code,
      productId: r.productId,
      quantity: r.quantity,
      lot: parts[i]!.lot,
    }));
  }

  /** Where the promised units of orders would be taken from if their lists were released now. Nothing is locked or kept. In portions, so that scans are answered in between. */
  async expected(sql: Sql, orderIds: readonly string[], now: Date): Promise<PlacedPart[]> {
    const taken = new Map<string, number>();
    const all: PlacedPart[] = [];
    for (let i = 0; i < orderIds.length; i += PORTION) {
      const soft = await softParts(sql, orderIds.slice(i, i + PORTION));
      all.push(...(await this.placed(sql, soft, { now, taken, walkOf: p => p.orderId })).parts);
    }
    return all;
  }

  /** Stops with their totes: each order fills as many as it needs, and a stop that goes into two becomes two. */
  private async intoTotes(
    tx: Tx,
    orderIds: readonly string[],
    stops: readonly PlacedPart[],
    limits: ToteLimits,
  ): Promise<NewStop[]> {
    const filled = new Map(
      orderIds.map(id => [
        id,
        fillTotes(
          stops.filter(s => s.orderId === id),
          limits,
        ),
      ]),
    );
    const wanted = new Map([...filled].map(([id, totes]) => [id, totes.length]));
    const given = await this.places.giveTotes(tx, wanted);
    const [free, all] = [given, wanted].map(m => [...m.values()]) as [string[][], number[]];
    const [have, need] = [free.flat().length, all.reduce((n, t) => n + t, 0)];
    if (have < need)
      throw new Forbidden(
        `Only ${have} totes are free, and ${orderIds.length} orders want ${need === orderIds.length ? 'one each' : `${need} in all`}.`,
        'Choose fewer orders, or pack what stands at the benches first.',
      );
    const seen = new Map<string, number>();
    return stops.flatMap(stop => {
      const at = seen.get(stop.orderId) ?? 0;
      seen.set(stop.orderId, at + 1);
      return filled
        .get(stop.orderId)!
        .flatMap((tote, t) =>
          tote
            .filter(u => u.stop === at)
            .map(u => ({ ...stop, quantity: u.units, toteId: given.get(stop.orderId)![t]! })),
        );
    });
  }

  /**
   * Where the parts are taken from, those of one walk near each other; `short` is a product of which too little may be picked. `taken`
   * is what parts before them took, and grows by theirs; nothing is taken from `not`.
   */
  private async placed(
    sql: Sql,
    soft: readonly SoftPart[],
    { now, walkOf = () => '', taken = new Map<string, number>(), not = null }: Placing,
  ): Promise<{ parts: PlacedPart[]; short: string | null }> {
    const keyOf = (b: BinStock & { lotKey: string }) => `${b.productId} ${b.placeId} ${b.lotKey}`;
    const [rows, layout, today] = await Promise.all([
      binStock(sql, [...productsOf(soft), NONE]),
      this.house.layout(sql),
      this.house.today(sql, now),
    ]);
    const stock = rows
      .filter(b => b.placeId !== not)
      .map(b => ({
        ...b,
        held: b.held + (taken.get(keyOf(b)) ?? 0),
        lotId: b.lotKey === NONE ? null : b.lotKey,
        rank: RANKS.indexOf(b.kind),
      }));
    const placed = placeParts(
      soft.map(part => ({ ...part, walk: walkOf(part) })),
      stock,
      layout,
      today,
    );
    const short = soft.find((part, i) => placed[i]!.reduce((n, u) => n + u.quantity, 0) < part.quantity);
    const parts = soft.flatMap((part, i) =>
      placed[i]!.map(({ stock: from, quantity }) => {
        taken.set(keyOf(from), (taken.get(keyOf(from)) ?? 0) + quantity);
        const { placeId, lotId, code, aisle, along, zone: area, lotCode, expiry } = from;
        const lot = lotCode === null ? null : { code: lotCode, expiry };
        return { ...part, quantity, placeId, lotId, code, aisle, along, area, lot };
      }),
    );
    return { parts, short: short?.productId ?? null };
  }

  private async store(
    tx: Tx,
    orders: readonly { id: string; warehouseId: string }[],
    stops: readonly NewStop[],
    distance: number,
    method: PickMethod,
  ): Promise<{ id: string; no: number }> {
    const id = newId();
    const rows = stops.map((s, i) => ({
      id: newId(),
      listId: id,
      seq: i + 1,
      placeId: s.placeId,
      lotId: s.lotId,
      productId: s.productId,
      partId: s.partId,
      orderId: s.orderId,
      quantity: s.quantity,
      toteId: s.toteId,
    }));
    const no = await this.lists.add(tx, { id, warehouseId: orders[0]!.warehouseId, distance, method }, rows);
    await this.stock.apply(tx, { holds: rows.flatMap(listedHolds) });
    await toHistory(
      tx,
      orders.map(o => event(tx, o.id, 'listed', `Put on pick list PL-${no}.`)),
    );
    await refreshStages(
      tx,
      orders.map(o => o.id),
    );
    await tx.tell('lists', id);
    return { id, no };
  }
}

/** Promised units are held at a place. */
function listedHolds(r: Omit<StopRow, 'listId' | 'toteId'> & { quantity: number }): HoldChange[] {
  const common = {
    partId: r.partId,
    orderId: r.orderId,
    productId: r.productId,
    parcelId: null,
    why: 'release',
  };
  return [
    { ...common, hold: 'soft', stopId: null, change: -r.quantity },
    {
      ...common,
      hold: 'listed',
      stopId: r.id,
      change: r.quantity,
      at: { placeId: r.placeId, lotId: r.lotId },
    },
  ];
}

const productsOf = (soft: readonly SoftPart[]): string[] => [...new Set(soft.map(s => s.productId))];
