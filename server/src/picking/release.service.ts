import { choosePlaces, type WalkStop, walkStops, walksOf } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { NONE, newId, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, TooLate } from '../http/problem.js';
import { Lists } from '../lists/lists.module.js';
import { event, refreshStages, toHistory } from '../records/records.module.js';
import { type HoldChange, Places, StockService } from '../stock/stock.module.js';
import { binStock, lockBins, lockToRelease, type SoftPart, softParts } from './release.queries.js';

/** Pick faces first, then reserve, the dock last: what lies there is about to be put away. */
const RANKS = ['bin', 'reserve', 'dock'];

interface NewStop extends SoftPart, WalkStop {
  placeId: string;
  lotId: string | null;
  toteId: string;
}

/** Turns Clear orders into a released pick list: places are decided, totes given, stops put in walking order. */
@Injectable()
export class ListRelease {
  constructor(
    private readonly stock: StockService,
    private readonly lists: Lists,
    private readonly places: Places,
    private readonly house: HouseService,
  ) {}

  /** Releases one list of the orders, a tote for each. All or nothing: the first order that cannot go refuses the list with its why. */
  async release(tx: Tx, orderIds: readonly string[]): Promise<{ id: string; no: number }> {
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
    const stops = await this.placeParts(tx, soft, await this.giveTotes(tx, ids));
    const walk = walkStops(stops, walksOf(await this.house.layout(tx)));
    return this.store(tx, orders, walk.stops, walk.distance);
  }

  /** A free tote for each order; refused when there are not enough. */
  private async giveTotes(tx: Tx, orderIds: readonly string[]): Promise<Map<string, string>> {
    const given = await this.places.giveTotes(tx, orderIds);
    if (given.size < orderIds.length)
      throw new Forbidden(
        `Only ${given.size} totes are free, and ${orderIds.length} orders want one each.`,
        'Choose fewer orders, or pack what stands at the benches first.',
      );
    return given;
  }

  private async placeParts(
    tx: Tx,
    soft: readonly SoftPart[],
    totes: Map<string, string>,
  ): Promise<NewStop[]> {
    const ids = [...new Set(soft.map(s => s.productId)), NONE];
    await lockBins(tx, ids);
    const bins = await binStock(tx, ids);
    const today = await this.house.today(tx, tx.at);
    return soft.flatMap(part => {
      const stock = bins.filter(b => b.productId === part.productId);
      const picks = choosePlaces(
        part.quantity,
        stock.map(b => ({ ...b, lotId: b.lotKey === NONE ? null : b.lotKey, rank: RANKS.indexOf(b.kind) })),
        today,
      );
      const placed = picks.reduce((n, p) => n + p.quantity, 0);
      if (placed < part.quantity)
        throw new Forbidden(
          'The stock of a product lies in places that may not be picked from (expired, or taken meanwhile).',
          'Count that product, then plan again.',
          { productId: part.productId },
        );
      return picks.map(p => {
        const bin = stock.find(b => b.placeId === p.placeId && (p.lotId ?? NONE) === b.lotKey)!;
        bin.held += p.quantity;
        return {
          ...part,
          quantity: p.quantity,
          placeId: p.placeId,
          lotId: p.lotId,
          code: bin.code,
          aisle: bin.aisle,
          along: bin.along,
          toteId: totes.get(part.orderId)!,
        };
      });
    });
  }

  private async store(
    tx: Tx,
    orders: readonly { id: string; warehouseId: string }[],
    stops: readonly NewStop[],
    distance: number,
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
    const no = await this.lists.add(tx, { id, warehouseId: orders[0]!.warehouseId, distance }, rows);
    const holds = rows.flatMap(r => {
      const common = {
        partId: r.partId,
        orderId: r.orderId,
        productId: r.productId,
        parcelId: null,
        why: 'release',
      } as const;
      return [
        { ...common, hold: 'soft', stopId: null, change: -r.quantity },
        {
          ...common,
          hold: 'listed',
          stopId: r.id,
          change: r.quantity,
          at: { placeId: r.placeId, lotId: r.lotId },
        },
      ] satisfies HoldChange[];
    });
    await this.stock.apply(tx, { holds });
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
