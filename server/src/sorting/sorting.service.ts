import type { HeapRow, Judged, OpenedHeap, OpenHeap, ScanIn } from '@auk/contract';
import { openSort, type SortEffect, type SortState, sortDone, sortScan } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, type Sql, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { Lists } from '../lists/lists.module.js';
import { CatalogService } from '../products/products.module.js';
import { refreshStages } from '../records/records.module.js';
import { ScansService } from '../scans/scans.module.js';
import { type HoldChange, StockService, Walls } from '../stock/stock.module.js';
import {
  type Heap,
  type HeapUnits,
  heapByCode,
  heapsToSort,
  openSortOf,
  stopToSort,
  unitsInCell,
  unitsOfHeap,
} from './sorting.queries.js';

/** Heaps are sorted at a put wall: each piece goes from what carries the heap into the cell of its order. */
@Injectable()
export class SortingService {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly stock: StockService,
    private readonly scans: ScansService,
    private readonly walls: Walls,
    private readonly lists: Lists,
  ) {}

  /** Heaps that wait, the most urgent first. */
  async waiting(): Promise<HeapRow[]> {
    const rows = await heapsToSort(this.db);
    return rows.map(r => ({ ...r, list: `PL-${r.list}`, cutOff: r.cutOff?.toISOString() ?? null }));
  }

  /**
   * Opens a heap by the code of what it lies on or of its list. Sorting that is under way goes on, on whichever device, as long as the
   * heap is as that session knows it; else it begins anew from what lies where.
   */
  async open({ code, wall, device }: OpenHeap, doer: Doer): Promise<OpenedHeap> {
    return this.db.tx(doer, async tx => {
      const heap = await heapByCode(tx, code.toUpperCase());
      if (!heap)
        throw new NotHere(
          `A heap with the code ${code.slice(0, 30)}`,
          'Scan the trolley or tote that a batch list was picked onto, or the code of that list.',
        );
      const known = await openSortOf(tx, heap.id);
      const session = known && (await this.scans.lock<SortState>(tx, known.id));
      const units = await unitsOfHeap(tx, heap.id);
      if (units.every(u => u.heap === 0))
        throw new Forbidden(
          `Nothing of PL-${heap.listNo} lies on ${heap.code} any more: all of it is sorted or packed.`,
          'Scan the trolley of another heap, or open an order of it at the bench.',
        );
      const state = await this.stateOf(tx, heap, units, wall ?? session?.state.wall ?? null);
      const about = { listNo: `PL-${heap.listNo}`, columns: await this.columns(tx, state.wall) };
      if (session && !session.closedAt && isSame(session.state, state)) {
        await this.scans.handTo(tx, session.id, device);
        return { ...about, sessionId: session.id, state: session.state };
      }
      if (session) await this.scans.close(tx, session.id);
      const sessionId = await this.scans.open(tx, { kind: 'sort', placeId: heap.id }, state, device);
      return { ...about, sessionId, state };
    });
  }

  /** Judges a scan at the wall and moves the goods with it. */
  scan(sessionId: string, scan: ScanIn, doer: Doer): Promise<Judged<SortState>> {
    return this.db.tx(doer, tx =>
      this.scans.judge<SortState, SortEffect>(
        tx,
        'sort',
        sessionId,
        scan,
        sortScan,
        async (effects, _, after) => {
          for (const e of effects) await this.sort(tx, e);
          if (sortDone(after)) await tx.tell('lists', after.heap);
        },
      ),
    );
  }

  private async sort(tx: Tx, { lineId, cellId, units }: SortEffect): Promise<void> {
    const known = (await stopToSort(tx, lineId))!;
    await lockAll(tx, { orders: [known.orderId], productStock: [known.productId] });
    const stop = (await stopToSort(tx, lineId))!;
    if ((units > 0 ? stop.heap : stop.sorted) < Math.abs(units))
      throw new TooLate(
        'Somebody took pieces of this heap to pack them.',
        'Scan the trolley again; what is sorted stays sorted.',
      );
    if (units > 0 && !(await this.walls.isFor(tx, cellId, stop.orderId)))
      throw new TooLate(
        'Somebody at this wall gave that cell to another order, or this order another cell.',
        'Scan the trolley again; what is sorted stays sorted.',
      );
    const [from, to] = units > 0 ? [stop.toteId, cellId] : [cellId, stop.toteId];
    const common = {
      partId: stop.partId,
      orderId: stop.orderId,
      productId: stop.productId,
      stopId: stop.id,
      parcelId: null,
      why: 'sort',
    };
    const holds: HoldChange[] = [
      { ...common, hold: 'picked', change: -units },
      { ...common, hold: 'sorted', change: units },
    ];
    await this.stock.apply(tx, {
      moves: [
        {
          productId: stop.productId,
          lotId: stop.lotId,
          from,
          to,
          quantity: Math.abs(units),
          why: units > 0 ? 'sort' : 'unsort',
          causeId: stop.id,
        },
      ],
      holds,
    });
    await this.lists.sortInto(tx, stop.id, cellId);
    const { n } = (await unitsInCell(tx, stop.orderId, cellId))!;
    await this.walls.give(tx, cellId, n > 0 ? stop.orderId : null);
    await refreshStages(tx, [stop.orderId]);
  }

  /** The heap at a wall, from what lies where now. */
  private async stateOf(
    sql: Sql,
    heap: Heap,
    units: readonly HeapUnits[],
    asked: string | null,
  ): Promise<SortState> {
    const begun = units.find(u => u.wall !== null && u.sorted > 0)?.wall ?? null;
    const wall = begun ?? asked ?? (await this.emptiest(sql));
    const cells = await this.walls.cells(sql, wall);
    if (cells.length === 0)
      throw new NotHere(`The put wall ${wall}`, 'Set one up under Stock > Put walls, or choose another.');
    const products = await this.catalog.products(sql, [...new Set(units.map(u => u.productId))]);
    const own = new Map(units.flatMap(u => (u.sorted > 0 ? [[u.cellId, `OR-${u.orderNo}`] as const] : [])));
    return openSort(
      wall,
      heap.code,
      // A cell that another heap has filled is not free; its order is named, and no piece of this heap goes there.
      cells.map(c => ({
        id: c.id,
        code: c.code,
        mark: c.mark!,
        orderNo: own.get(c.id) ?? (c.orderNo === null ? null : `OR-${c.orderNo}`),
      })),
      units.map(u => {
        const { id, sku, name, codes, picture, hint } = products.get(u.productId)!;
        return {
          id: u.id,
          product: { id, sku, name, codes, picture, hint },
          orderNo: `OR-${u.orderNo}`,
          wanted: u.heap + u.sorted,
          sorted: u.sorted,
        };
      }),
    );
  }

  private async emptiest(sql: Sql): Promise<string> {
    const walls = await this.walls.list(sql);
    const free = (w: (typeof walls)[number]) => w.cells.filter(c => c.order === null).length;
    const [first] = [...walls].sort((a, b) => free(b) - free(a));
    if (!first)
      throw new NotHere(
        'A put wall',
        'Set one up under Stock > Put walls: how many rows and columns it has.',
      );
    return first.wall;
  }

  private async columns(sql: Sql, wall: string): Promise<number> {
    return Math.max(...(await this.walls.cells(sql, wall)).map(c => c.bay!));
  }
}

/** Whether a session knows the heap and the wall as they are. */
function isSame(known: SortState, now: SortState): boolean {
  const of = ({ wall, cells, lines }: SortState) =>
    JSON.stringify([
      wall,
      cells.map(c => [c.id, c.orderNo]),
      lines.map(l => [l.id, l.wanted, l.sorted]).sort(),
    ]);
  return of(known) === of(now);
}
