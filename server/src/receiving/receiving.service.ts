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
import { Forbidden, NotHere } from '../http/problem.js';
import { CatalogService } from '../products/products.module.js';
import { event, toHistory } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { ScansService } from '../scans/scans.module.js';
import { Lots, PutAway, StockService } from '../stock/stock.module.js';
import { type PurchaseOrderRecord, PurchaseOrders } from './purchaseOrders.service.js';

interface LineRow {
  id: string;
  productId: string;
  quantity: number;
  received: number;
}

const FREED_SHOWN = 12;

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
    private readonly orders: PurchaseOrders,
  ) {}

  /** Opens receiving of a purchase order; several people may receive one order, each on a device of their own. */
  async open(no: string, device: string, doer: Doer): Promise<ReceiveView> {
    const sessionId = await this.db.tx(doer, async tx => {
      const order = await this.orders.found(tx, no);
      const known = await tx.one<{ id: string }>('SELECT id FROM scanSession WHERE purchaseOrderId = ?', [
        order.id,
      ]);
      if (known) return known.id;
      if (order.state !== 'open')
        throw new Forbidden(`PO-${order.no} is ${order.state}; nothing is awaited.`, 'Open another order.');
      const state = openReceive(`PO-${order.no}`, order.supplier, await this.lines(tx, order));
      return this.scans.open(tx, { kind: 'receive', purchaseOrderId: order.id }, state, device);
    });
    return this.view(sessionId);
  }

  async view(sessionId: string): Promise<ReceiveView> {
    const row = await this.db.one<
      { state: string } & Omit<PurchaseOrderRecord, 'state'> & { orderState: PurchaseOrderRecord['state'] }
    >(
      `SELECT x.state, o.id, o.no, o.reference, CAST(o.expected AS CHAR) AS expected, o.state AS orderState FROM scanSession x JOIN purchaseOrder o ON o.id = x.purchaseOrderId WHERE x.id = ?`,
      [sessionId],
    );
    if (!row) throw new NotHere('That receiving', 'Open the purchase order again by its code.');
    const freed = await this.db.rows<{ id: string; no: number; channelNumber: string; buyer: string }>(
      "SELECT DISTINCT o.id, o.no, o.channelNumber, o.buyer, o.leavesAt FROM orderEvent e JOIN orders o ON o.id = e.orderId AND o.stage = 'Clear' WHERE e.kind = 'freed by goods' AND e.says LIKE ? ORDER BY o.leavesAt IS NULL, o.leavesAt, o.no LIMIT ?",
      [`% PO-${row.no}.`, FREED_SHOWN],
    );
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
      this.scans.judge<ReceiveState, ReceiveEffect>(tx, sessionId, scan, receiveScan, (effects, _, after) =>
        this.act(tx, sessionId, effects, after),
      ),
    );
  }

  private async act(tx: Tx, sessionId: string, effects: ReceiveEffect[], after: ReceiveState): Promise<void> {
    const order = (await tx.one<{ id: string; no: number; state: string }>(
      'SELECT o.id, o.no, o.state FROM purchaseOrder o JOIN scanSession x ON x.purchaseOrderId = o.id WHERE x.id = ? FOR UPDATE',
      [sessionId],
    ))!;
    if (
      order.state === 'cancelled' ||
      (order.state === 'done' && effects.some(e => e.type === 'receive' && e.units > 0))
    )
      throw new Forbidden(
        `PO-${order.no} was closed meanwhile: the rest is not coming.`,
        'Ask the office about it.',
      );
    const dock = await tx.one<{ id: string }>(
      "SELECT id FROM place WHERE kind = 'dock' ORDER BY code LIMIT 1",
    );
    if (!dock)
      throw new Forbidden('The house has no dock.', 'Make a place of the kind dock under Stock > Places.');
    for (const e of effects) {
      const line = (await tx.one<LineRow>(
        'SELECT id, productId, quantity, received FROM purchaseLine WHERE id = ?',
        [e.lineId],
      ))!;
      const lotId =
        e.lot === null
          ? null
          : await this.lots.of(tx, line.productId, e.lot, e.type === 'receive' ? e.expiry : null);
      if (e.type === 'put') await this.put(tx, line, lotId, e.units, e.place, dock.id);
      else await this.receive(tx, order.no, line, lotId, e.units, dock.id);
    }
    const done = receiveDone(after);
    if (done !== (order.state === 'done'))
      await tx.run('UPDATE purchaseOrder SET state = ?, doneAt = ? WHERE id = ?', [
        done ? 'done' : 'open',
        done ? tx.at : null,
        order.id,
      ]);
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
    const outside = (await tx.one<{ id: string }>("SELECT id FROM place WHERE kind = 'outside' LIMIT 1"))!.id;
    await tx.run('UPDATE purchaseLine SET received = received + ? WHERE id = ?', [units, line.id]);
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
    const wanting = await this.reservations.lockWanting(tx, [line.productId]);
    await this.stock.apply(tx, { moves: [{ ...move, from: outside, to: dockId }] });
    const served = await this.reservations.reserveLocked(tx, wanting);
    if (served.length > 0) {
      const clear = await tx.rows<{ id: string }>(
        "SELECT id FROM orders WHERE id IN (?) AND stage = 'Clear'",
        [served],
      );
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
    const place = await tx.one<{
      id: string;
      code: string;
      kind: string;
      capacity: number | null;
      lies: number;
    }>(
      'SELECT p.id, p.code, p.kind, p.capacity, (SELECT CAST(COALESCE(SUM(b.onHand), 0) AS INT) FROM stockBalance b WHERE b.placeId = p.id) AS lies FROM place p WHERE p.code = ?',
      [code],
    );
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
      const free = await tx.one<{ n: number }>(
        'SELECT onHand - listed AS n FROM stockBalance WHERE productId = ? AND placeId = ? AND lotKey = ? FOR UPDATE',
        [line.productId, move.from, lotId ?? NONE],
      );
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
    const rows = await tx.rows<LineRow>(
      'SELECT id, productId, quantity, received FROM purchaseLine WHERE orderId = ? ORDER BY position',
      [order.id],
    );
    const ids = rows.map(r => r.productId);
    const products = await this.catalog.products(tx, ids);
    const lots = await tx.rows<{ productId: string; code: string; expiry: string | null }>(
      'SELECT productId, code, CAST(expiry AS CHAR) AS expiry FROM lot WHERE productId IN (?) ORDER BY code',
      [ids],
    );
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
