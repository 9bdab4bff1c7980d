import type {
  BeginCount,
  Corrected,
  CountIn,
  CountSession,
  Judged,
  MoveIn,
  ScanIn,
  StockSettings,
  WriteOffIn,
} from '@auk/contract';
import { type CountState, countScan, openCount, type ReserveMode } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, NONE, newId, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { CatalogService } from '../products/products.module.js';
import { event, toHistory } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { ScansService } from '../scans/scans.module.js';
import {
  Lots,
  type PlaceFound,
  PROMISED_FROM,
  placeByCode,
  StockBalance,
  StockService,
} from '../stock/stock.module.js';
import { StockCorrections } from './corrections.service.js';
import { StockCount } from './stockCount.entity.js';
import {
  liesThere,
  lotByCode,
  newestChange,
  type ProductFound,
  productBySku,
  shortAmong,
  unitsIn,
} from './stockDesk.queries.js';

/** Kinds that people carry goods from and to by hand; totes and parcels belong to orders. */
const BY_HAND = new Set([...PROMISED_FROM, 'staging', 'bench', 'quarantine']);

/** Moves, write-offs and counts that people make, each with its reason. */
@Injectable()
export class StockDesk {
  constructor(
    private readonly db: Db,
    private readonly stock: StockService,
    private readonly corrections: StockCorrections,
    private readonly reservations: Reservations,
    private readonly lots: Lots,
    private readonly catalog: CatalogService,
    private readonly house: HouseService,
    private readonly scans: ScansService,
  ) {}

  async settings(): Promise<StockSettings> {
    return { reserveMode: await this.house.setting<ReserveMode>(this.db, 'reserveMode', 'partly') };
  }

  /** Sets how orders are promised stock from now on; what is promised already stays. */
  saveSettings(input: StockSettings, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      await this.house.set(tx, 'reserveMode', input.reserveMode);
      await tx.tell('stock', '');
    });
  }

  /** Serves scarce products anew by urgency, as the lead asks; every order that gained or lost by it says so. */
  serveAgain(doer: Doer): Promise<{ cleared: number; shorted: number }> {
    return this.db.tx(doer, async tx => {
      const { cleared, shorted } = await this.reservations.serveAgain(tx);
      await toHistory(tx, [
        ...cleared.map(id =>
          event(
            tx,
            id,
            'served again',
            'Scarce goods were given out anew by urgency: this order has them now.',
          ),
        ),
        ...shorted.map(id =>
          event(
            tx,
            id,
            'served again',
            'Scarce goods were given out anew by urgency: more urgent orders have them now.',
          ),
        ),
      ]);
      await tx.tell('stock', '');
      return { cleared: cleared.length, shorted: shorted.length };
    });
  }

  /** Carries goods to another place. What is promised to orders may move among places of stock, but not out of them. */
  move(input: MoveIn, doer: Doer): Promise<Corrected> {
    return this.db.tx(doer, tx => once(tx, input.key, 'move', () => this.moveIn(tx, input)));
  }

  private async moveIn(tx: Tx, input: MoveIn): Promise<Corrected> {
    const product = await this.product(tx, input.sku);
    const [from, to] = [await this.place(tx, input.from), await this.place(tx, input.to)];
    if (from.id === to.id) throw new Forbidden('Both places are the same.', 'Name another place.');
    const lotId = await this.knownLot(tx, product, input.lot);
    await this.roomIn(tx, to, input.quantity);
    const move = {
      productId: product.id,
      lotId,
      from: from.id,
      to: to.id,
      quantity: input.quantity,
      why: 'move',
      causeId: null,
      reason: input.reason,
    };
    await this.liesFree(tx, product, from, lotId, input.quantity);
    if (PROMISED_FROM.has(from.kind) && !PROMISED_FROM.has(to.kind)) {
      // Orders are locked before goods; what lies there is looked at again under its lock.
      const lost = await this.corrections.force(tx, move, true, `moved to ${to.code}: ${input.reason}`);
      return this.corrected(tx, [], lost.orders);
    }
    const wanting = PROMISED_FROM.has(to.kind) ? await this.reservations.wanting(tx, [product.id]) : [];
    await lockAll(tx, { orders: wanting, productStock: [product.id] });
    await this.liesFree(tx, product, from, lotId, input.quantity);
    await this.stock.apply(tx, { moves: [move] });
    await this.reservations.reserveLocked(tx, wanting);
    await tx.tell('stock', product.id);
    return { changes: [], short: [] };
  }

  /** Writes goods off: broken, spoiled, given away. Orders that were promised them lose the promise, the newest first. */
  writeOff(input: WriteOffIn, doer: Doer): Promise<Corrected> {
    return this.db.tx(doer, tx => once(tx, input.key, 'write off', () => this.writeOffIn(tx, input)));
  }

  private async writeOffIn(tx: Tx, input: WriteOffIn): Promise<Corrected> {
    const product = await this.product(tx, input.sku);
    const from = await this.place(tx, input.from);
    const lotId = await this.knownLot(tx, product, input.lot);
    await this.lies(tx, product, from, lotId, input.quantity);
    const lost = await this.corrections.force(
      tx,
      {
        productId: product.id,
        lotId,
        from: from.id,
        to: await this.house.place(tx, 'gone'),
        quantity: input.quantity,
        why: 'write off',
        causeId: null,
        reason: input.reason,
      },
      PROMISED_FROM.has(from.kind),
      `written off: ${input.reason}`,
    );
    return this.corrected(tx, [], lost.orders);
  }

  /** Begins a count of a place under the id that the device made for it; begun again it goes on where it stood. */
  async beginCount(input: BeginCount, doer: Doer): Promise<CountSession> {
    const { code, seen, stock } = await this.catalog.place(input.place);
    return this.db.tx(doer, async tx => {
      const place = await this.place(tx, code);
      const known = await this.scans.find<CountState>(tx, input.id);
      if (known?.closedAt)
        throw new TooLate('This count is saved already.', 'Begin the count of this place anew.', {
          place: code,
        });
      const lines = stock.map(s => ({ sku: s.sku, name: s.name, lot: s.lot }));
      if (known) return { id: input.id, state: known.state };
      const state = openCount(code, seen, lines);
      await this.scans.open(tx, { kind: 'count', placeId: place.id }, state, input.device, input.id);
      return { id: input.id, state };
    });
  }

  /** Judges a scan of a count. */
  scanCount(id: string, scan: ScanIn, doer: Doer): Promise<Judged<CountState>> {
    return this.db.tx(doer, tx => this.scans.judge(tx, 'count', id, scan, countScan));
  }

  /** Sets what lies in a place to what was counted. Less than is promised makes orders Short, the newest promise first. */
  count(input: CountIn, doer: Doer): Promise<Corrected> {
    return this.db.tx(doer, tx => once(tx, input.key, 'count', () => this.countIn(tx, input)));
  }

  private async countIn(tx: Tx, input: CountIn): Promise<Corrected> {
    await this.scans.close(tx, input.key);
    const place = await this.place(tx, input.place);
    await this.mustBeAsSeen(tx, place, input);
    const changes: Corrected['changes'] = [];
    const short = new Set<string>();
    for (const line of [...input.lines].sort((a, b) => (a.sku < b.sku ? -1 : 1))) {
      const { before, orders } = await this.countLine(tx, input.key, input.place, line, input.reason);
      if (before !== line.counted)
        changes.push({ sku: line.sku, lot: line.lot, before, after: line.counted });
      for (const id of orders) short.add(id);
    }
    // What moved here is locked by now: whoever was faster is seen.
    await this.mustBeAsSeen(tx, place, input);
    return this.corrected(tx, changes, [...short]);
  }

  /** Refuses a count of an older state: goods were moved, picked or counted in the place after it was opened. */
  private async mustBeAsSeen(tx: Tx, place: PlaceFound, input: CountIn): Promise<void> {
    const newer = await newestChange(tx, place.id, input.seen, input.key);
    if (newer)
      throw new TooLate(
        `${newer.name} changed in ${place.code} after this count was begun (${newer.why}${newer.person ? ` by ${newer.person}` : ''}), so the count is of an older state.`,
        'Begin the count of this place anew.',
        { place: place.code },
      );
  }

  /** Counts one product in one place; tells what the books said before, and the orders that lost a promise. */
  async countLine(
    tx: Tx,
    countId: string,
    placeCode: string,
    line: CountIn['lines'][number],
    reason: string,
  ): Promise<{ before: number; orders: string[] }> {
    const place = await this.place(tx, placeCode);
    const product = await this.product(tx, line.sku);
    const lotId = line.lot === null ? null : await this.lots.of(tx, product.id, line.lot, null);
    const held = await liesThere(tx, product.id, place.id, lotId ?? NONE);
    const before = held?.onHand ?? 0;
    await tx.insert(StockCount, [
      {
        id: newId(),
        countId,
        at: tx.at,
        personId: tx.personId,
        placeId: place.id,
        productId: product.id,
        lotKey: lotId ?? NONE,
        expected: before,
        counted: line.counted,
        reason,
      },
    ]);
    const more = line.counted - before;
    const at = { productId: product.id, placeId: place.id, lotKey: lotId ?? NONE };
    if (more === 0) {
      await this.stock.counted(tx, at);
      return { before, orders: [] };
    }
    const missing = await this.house.place(tx, 'missing');
    const lost = await this.corrections.force(
      tx,
      {
        productId: product.id,
        lotId,
        from: more > 0 ? missing : place.id,
        to: more > 0 ? place.id : missing,
        quantity: Math.abs(more),
        why: 'count',
        causeId: countId,
        reason,
      },
      more < 0 && PROMISED_FROM.has(place.kind),
      `${line.counted} of ${before} counted in ${place.code}`,
    );
    await this.stock.counted(tx, at);
    return { before, orders: lost.orders };
  }

  private async corrected(
    tx: Tx,
    changes: Corrected['changes'],
    orderIds: readonly string[],
  ): Promise<Corrected> {
    const short = await shortAmong(tx, orderIds);
    return { changes, short: short.map(o => ({ no: `OR-${o.no}`, channelNumber: o.channelNumber })) };
  }

  private async lies(
    tx: Tx,
    product: ProductFound,
    from: PlaceFound,
    lotId: string | null,
    wanted: number,
  ): Promise<number> {
    const held = await tx.of(StockBalance).findOneBy({
      productId: product.id,
      placeId: from.id,
      lotKey: lotId ?? NONE,
    });
    if (!held || held.onHand < wanted)
      throw new Forbidden(
        `${held?.onHand ?? 0} of ${product.name} lie in ${from.code}, not ${wanted}${lotId ? ' of that lot' : ''}.`,
        'Look what lies there, or count the place.',
      );
    return held.onHand - held.listed;
  }

  private async liesFree(
    tx: Tx,
    product: ProductFound,
    from: PlaceFound,
    lotId: string | null,
    wanted: number,
  ): Promise<void> {
    const free = await this.lies(tx, product, from, lotId, wanted);
    if (free < wanted)
      throw new Forbidden(
        `Pick lists take ${product.name} from ${from.code}; only ${free} of it are not on one.`,
        'Move fewer, or wait until they are picked.',
      );
  }

  private async roomIn(tx: Tx, to: PlaceFound, more: number): Promise<void> {
    if (to.capacity === null) return;
    const { n } = (await unitsIn(tx, to.id))!;
    if (n + more > to.capacity)
      throw new Forbidden(
        `${to.code} holds ${to.capacity} units and ${n} lie there; ${more} more do not fit.`,
        'Choose another place, or change what the place holds.',
      );
  }

  private async product(tx: Tx, sku: string): Promise<ProductFound> {
    const found = await productBySku(tx, sku);
    if (!found) throw new NotHere(`The product ${sku}`);
    if (found.kind === 'bundle')
      throw new Forbidden(`${found.name} is a bundle and has no stock of its own.`, 'Name its parts.');
    return found;
  }

  private async place(tx: Tx, code: string): Promise<PlaceFound> {
    const found = await placeByCode(tx, code);
    if (!found) throw new NotHere(`The place ${code}`);
    if (!BY_HAND.has(found.kind))
      throw new Forbidden(
        `${code} is a ${found.kind}; what lies there belongs to its order.`,
        'Name a place on the shelves, a bench, the dock, the staging place or the quarantine.',
      );
    return found;
  }

  private async knownLot(tx: Tx, product: ProductFound, code: string | null): Promise<string | null> {
    if (code === null) return null;
    const lot = await lotByCode(tx, product.id, code);
    if (!lot)
      throw new NotHere(`The lot ${code} of ${product.name}`, 'Look at the lots that lie in the house.');
    return lot.id;
  }
}
