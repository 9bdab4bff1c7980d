import type { Judged, ReceiveView, ScanIn } from '@auk/contract';
import {
  openReceive,
  type ReceiveEffect,
  type ReceiveLine,
  type ReceiveState,
  receiveDone,
  receiveScan,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { StockCorrections } from '../corrections/corrections.module.js';
import { Db, type Doer, fromJson, NONE, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { CatalogService } from '../products/products.module.js';
import { event, toHistory } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { ScansService } from '../scans/scans.module.js';
import { Lots, PutAway, StockService } from '../stock/stock.module.js';
import { PurchaseLine } from './purchaseLine.entity.js';
import { PurchaseOrder } from './purchaseOrder.entity.js';
import { type PurchaseOrderRecord, PurchaseOrders } from './purchaseOrders.service.js';
import {
  addReceived,
  clearAmong,
  freedBy,
  lockOrderOfSession,
  lockUnlisted,
  lotsOf,
  placeToFill,
  receivingRow,
  sessionOf,
} from './receiving.queries.js';

interface LineRow {
  id: string;
  productId: string;
  quantity: number;
  received: number;
}

/** Receiving by scan: what comes is counted into the dock, put away by scanning its place, and promised at once to who waits for it. */
@Injectable()
export class Receiving {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly stock: StockService,
    private readonly corrections: StockCorrections,
    private readonly lots: Lots,
    private readonly putAway: PutAway,
    private readonly reservations: Reservations,
    private readonly scans: ScansService,
    private readonly house: HouseService,
    private readonly orders: PurchaseOrders,
  ) {}

  /** Opens receiving of a purchase order; several people may receive one order, each on a device of their own. */
  async open(no: string, device: string, doer: Doer): Promise<ReceiveView> {
    const sessionId = await this.db.tx(doer, async tx => {
      const order = await this.orders.found(tx, no);
      const known = await sessionOf(tx, order.id);
      if (known) return known.id;
      if (order.state !== 'open')
        throw new Forbidden(`PO-${order.no} is ${order.state}; nothing is awaited.`, 'Open another order.');
      const state = openReceive(`PO-${order.no}`, order.supplier, await this.lines(tx, order));
      return this.scans.open(tx, { kind: 'receive', purchaseOrderId: order.id }, state, device);
    });
    return this.view(sessionId);
  }

  async view(sessionId: string): Promise<ReceiveView> {
    const row = await receivingRow(this.db, sessionId);
    if (!row) throw new NotHere('That receiving', 'Open the purchase order again by its code.');
    const freed = await freedBy(this.db, `% PO-${row.no}.`);
    return {
      sessionId,
      no: `PO-${row.no}`,
      reference: row.reference,
      expected: row.expected,
      orderState: row.orderState,
      state: fromJson<ReceiveState>(row.state),
      freed: freed.map(f => ({ id: f.id, no: `OR-${f.no}`, channelNumber: f.channelNumber, buyer: f.buyer })),
    };
  }

  /** Judges a scan at the dock and moves the stock with it. */
  scan(sessionId: string, scan: ScanIn, doer: Doer): Promise<Judged<ReceiveState>> {
    return this.db.tx(doer, tx =>
      this.scans.judge<ReceiveState, ReceiveEffect>(
        tx,
        'receive',
        sessionId,
        scan,
        receiveScan,
        (effects, _, after) => this.act(tx, sessionId, effects, after),
      ),
    );
  }

  private async act(tx: Tx, sessionId: string, effects: ReceiveEffect[], after: ReceiveState): Promise<void> {
    const order = (await lockOrderOfSession(tx, sessionId))!;
    if (
      order.state === 'cancelled' ||
      (order.state === 'done' && effects.some(e => e.type === 'receive' && e.units > 0))
    )
      throw new Forbidden(
        `PO-${order.no} was closed meanwhile: the rest is not coming.`,
        'Ask the office about it.',
      );
    const dock = await this.house.place(tx, 'dock');
    for (const e of effects) {
      const line = (await tx.of(PurchaseLine).findOne({
        where: { id: e.lineId },
        select: { id: true, productId: true, quantity: true, received: true },
      }))!;
      const lotId =
        e.lot === null
          ? null
          : await this.lots.of(tx, line.productId, e.lot, e.type === 'receive' ? e.expiry : null);
      if (e.type === 'put') await this.put(tx, line, lotId, e.units, e.place, dock);
      else await this.receive(tx, order.no, line, lotId, e.units, dock);
    }
    const done = receiveDone(after);
    if (done !== (order.state === 'done'))
      await tx
        .of(PurchaseOrder)
        .update({ id: order.id }, { state: done ? 'done' : 'open', doneAt: done ? tx.at : null });
    await tx.tell('purchases', `PO-${order.no}`);
  }

  /** Units from outside onto the dock, promised at once to the most urgent who wait; negative units were scanned by mistake and leave again. */
  private async receive(
    tx: Tx,
    orderNo: number,
    line: LineRow,
    lotId: string | null,
    units: number,
    dockId: string,
  ): Promise<void> {
    const outside = await this.house.place(tx, 'outside');
    await addReceived(tx, units, line.id);
    const move = {
      productId: line.productId,
      lotId,
      quantity: Math.abs(units),
      why: units > 0 ? 'receive' : 'not received',
      causeId: line.id,
    };
    if (units < 0) {
      await this.corrections.force(
        tx,
        { ...move, from: dockId, to: outside },
        true,
        `PO-${orderNo} was scanned wrongly.`,
      );
      return;
    }
    const wanting = await this.reservations.wanting(tx, [line.productId]);
    await lockAll(tx, { orders: wanting, productStock: [line.productId] });
    await this.stock.apply(tx, { moves: [{ ...move, from: outside, to: dockId }] });
    const served = await this.reservations.reserveLocked(tx, wanting);
    if (served.length > 0) {
      const clear = await clearAmong(tx, served);
      await toHistory(
        tx,
        clear.map(o => event(tx, o.id, 'freed by goods', `Clear: what it lacked came with PO-${orderNo}.`)),
      );
    }
    await tx.tell('stock', line.productId);
  }

  private async put(
    tx: Tx,
    line: LineRow,
    lotId: string | null,
    units: number,
    code: string,
    dockId: string,
  ): Promise<void> {
    const place = await placeToFill(tx, code);
    if (!place) throw new NotHere(`The place ${code}`, 'Scan the place again, or choose the proposed one.');
    if (!['bin', 'reserve', 'quarantine', 'staging', 'bench'].includes(place.kind))
      throw new Forbidden(
        `${code} is a ${place.kind}; goods are not put away there.`,
        'Scan a place on the shelves.',
      );
    if (units > 0 && place.capacity !== null && place.lies + units > place.capacity)
      throw new Forbidden(
        `${code} holds ${place.capacity} units and ${place.lies} lie there; ${units} more do not fit.`,
        'Put them somewhere else.',
      );
    const move = {
      productId: line.productId,
      lotId,
      quantity: Math.abs(units),
      why: 'put away',
      causeId: line.id,
      from: units > 0 ? dockId : place.id,
      to: units > 0 ? place.id : dockId,
    };
    const promised = place.kind === 'bin' || place.kind === 'reserve';
    if (promised) {
      await this.stock.lockFree(tx, [line.productId]);
      const free = await lockUnlisted(tx, line.productId, move.from, lotId ?? NONE);
      if ((free?.n ?? 0) < move.quantity)
        throw new Forbidden(
          `Only ${Math.max(0, free?.n ?? 0)} of them still lie free ${units > 0 ? 'on the dock' : `in ${code}`}: the others are on a pick list and are taken from there.`,
          'Leave those where they are; put the rest away with Stock > Move.',
        );
      await this.stock.apply(tx, { moves: [move] });
      await tx.tell('stock', line.productId);
    } else await this.corrections.force(tx, move, units > 0, `put away in ${place.code}.`);
  }

  private async lines(tx: Tx, order: PurchaseOrderRecord): Promise<ReceiveLine[]> {
    const rows = await tx.of(PurchaseLine).find({
      where: { orderId: order.id },
      select: { id: true, productId: true, quantity: true, received: true },
      order: { position: 'ASC' },
    });
    const ids = rows.map(r => r.productId);
    const products = await this.catalog.products(tx, ids);
    const lots = await lotsOf(tx, ids);
    const lines: ReceiveLine[] = [];
    for (const r of rows) {
      const { id, sku, name, codes, picture, hint, facts } = products.get(r.productId)!;
      lines.push({
        id: r.id,
        product: { id, sku, name, codes, picture, hint },
        ordered: r.quantity,
        received: r.received,
        lotWanted: facts.lots === true,
        expiryWanted: facts.expiry === true,
        putAway: await this.putAway.propose(tx, r.productId, r.quantity - r.received),
        lots: lots.filter(l => l.productId === r.productId).map(l => ({ code: l.code, expiry: l.expiry })),
      });
    }
    return lines;
  }
}
