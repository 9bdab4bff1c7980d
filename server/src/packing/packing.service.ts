import type { ArrivedRow, BenchView, Judged, ScanIn } from '@auk/contract';
import {
  type BenchBox,
  type Box,
  openPack,
  type PackEffect,
  type PackLine,
  type PackState,
  type Piece,
  packScan,
  parseScan,
  planBoxes,
  type ScanProduct,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { Parcels, ParcelsQueries } from '../parcels/parcels.module.js';
import type { Product } from '../products/products.module.js';
import { CatalogService } from '../products/products.module.js';
import { event, productsOf, refreshStages, refuseBuild, toHistory } from '../records/records.module.js';
import { ScansService } from '../scans/scans.module.js';
import { type HoldChange, type Move, Places, StockService } from '../stock/stock.module.js';
import {
  arrivedOrders,
  type BenchSession,
  benchRow,
  lockForPacking,
  newestSession,
  notesToConfirm,
  type OrderHead,
  orderByCode,
  othersLeaving,
  packerNotes,
  parcelOfSession,
  pickedLines,
  unitsHeld,
} from './packing.queries.js';

/** Orders at the bench: opened by any of their codes, checked piece by piece into a parcel. */
@Injectable()
export class PackingService {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly stock: StockService,
    private readonly scans: ScansService,
    private readonly parcels: ParcelsQueries,
    private readonly written: Parcels,
    private readonly places: Places,
  ) {}

  /** What stands at staging places for the benches, the most urgent first. */
  async arrived(): Promise<ArrivedRow[]> {
    const rows = await arrivedOrders(this.db);
    return rows.map(({ id, no, lacks, expected, leavesAt, since, ...r }) => ({
      ...r,
      id,
      no: `OR-${no}`,
      lacks: lacks ?? '',
      expected: expected ?? null,
      cutOff: leavesAt?.toISOString() ?? null,
      since: since.toISOString(),
    }));
  }

  /** Opens the order that a slip, tote or parcel code belongs to. What was begun goes on, on this bench. */
  async open(code: string, device: string, doer: Doer): Promise<BenchView> {
    const orderId = await this.orderOf(code);
    const sessionId = await this.db.tx(doer, tx => this.openOrder(tx, orderId, device));
    return this.view(sessionId);
  }

  /** Opens (or reopens) packing of an order inside a transaction; returns the session. */
  async openOrder(tx: Tx, orderId: string, device: string): Promise<string> {
    const begun = await this.goOn(tx, orderId, device);
    if (begun) return begun;
    const order = (await lockForPacking(tx, orderId))!;
    // Whoever opened it while this waited for the order has made the session.
    const late = await this.sessionOf(tx, orderId);
    if (late) return late.id;
    await refuseBuild(tx, orderId);
    if (order.stage !== 'Picked')
      throw new Forbidden(
        `${order.channelNumber} is ${order.stage}, so there is nothing to pack yet.`,
        cureForStage(order.stage),
      );
    return this.begin(tx, order, device);
  }

  private sessionOf(tx: Tx, orderId: string): Promise<BenchSession | null> {
    return newestSession(tx, orderId);
  }

  /** What was begun goes on, on this bench, unless somebody is at it at another one. Sessions are locked before orders. */
  private async goOn(tx: Tx, orderId: string, device: string): Promise<string | null> {
    const seen = await this.sessionOf(tx, orderId);
    if (!seen) return null;
    await this.scans.lock(tx, seen.id);
    const known = (await this.sessionOf(tx, orderId))!;
    const busy =
      !known.closedAt &&
      known.device !== device &&
      known.personId !== tx.personId &&
      known.lastScanAt &&
      tx.at.getTime() - known.lastScanAt.getTime() < BUSY_MS;
    if (busy)
      throw new TooLate(
        `${known.name} is packing ${known.channelNumber} at another bench right now.`,
        'Let them finish, or open it when they have stopped for two minutes.',
      );
    await this.scans.handTo(tx, known.id, device);
    return known.id;
  }

  private async begin(tx: Tx, order: OrderHead, device: string): Promise<string> {
    const boxes = await this.catalog.boxes(tx);
    const { lines, pieces } = await this.lines(tx, order.id);
    const state = openPack(
      `OR-${order.no}`,
      lines,
      boxes.map(toBenchBox),
      planBoxes(boxes, pieces).parcels[0]?.box.code ?? null,
      await this.notesToConfirm(tx, order.id),
    );
    const parcelId = newId();
    await this.places.takeAway(tx, order.id);
    const placeId = await this.places.makeForParcel(tx, order.warehouseId, parcelId);
    await this.written.open(tx, [{ id: parcelId, orderId: order.id, shipmentId: order.shipmentId, placeId }]);
    return this.scans.open(tx, { kind: 'pack', parcelId }, state, device);
  }

  private async notesToConfirm(tx: Tx, orderId: string): Promise<string[]> {
    const notes = await notesToConfirm(tx, orderId);
    return notes.map(n => n.text);
  }

  private async packerNotes(orderId: string): Promise<{ text: string; confirm: boolean }[]> {
    const rows = await packerNotes(this.db, orderId);
    return rows.map(r => ({ text: r.text, confirm: !!r.confirm }));
  }

  /** Judges a scan of the bench and moves the stock with it. */
  scan(sessionId: string, scan: ScanIn, doer: Doer): Promise<Judged<PackState>> {
    return this.db.tx(doer, tx => this.judge(tx, sessionId, scan));
  }

  private judge(tx: Tx, sessionId: string, scan: ScanIn): Promise<Judged<PackState>> {
    return this.scans.judge<PackState, PackEffect>(
      tx,
      'pack',
      sessionId,
      scan,
      packScan,
      async (effects, _, after) => {
        const parcel = (await parcelOfSession(tx, sessionId))!;
        await lockAll(tx, {
          orders: [parcel.orderId],
          parcel: [parcel.id],
          productStock: await productsOf(tx, parcel.orderId),
        });
        for (const e of effects) if (e.type === 'pack') await this.pack(tx, parcel, e.lineId, e.units);
        if (effects.some(e => e.type === 'close'))
          await this.close(tx, parcel, sessionId, after.boxCode!, after.weightMg!);
      },
    );
  }

  /** Moves units of a part from where they lie (tote, heap or cell) into the parcel; negative units back there. */
  async pack(
    tx: Tx,
    parcel: { id: string; placeId: string; orderId: string },
    partId: string,
    units: number,
  ): Promise<void> {
    const rows = await unitsHeld(tx, partId, units > 0 ? null : parcel.id);
    const moves: Move[] = [];
    const holds: HoldChange[] = [];
    let left = Math.abs(units);
    for (const r of rows) {
      const n = Math.min(left, r.quantity);
      if (n === 0) break;
      left -= n;
      const signed = units > 0 ? n : -n;
      const [from, to] = units > 0 ? [r.liesIn, parcel.placeId] : [parcel.placeId, r.liesIn];
      moves.push({
        productId: r.productId,
        lotId: r.lotId,
        from,
        to,
        quantity: n,
        why: units > 0 ? 'pack' : 'unpack',
        causeId: parcel.id,
      });
      const common = {
        partId,
        orderId: parcel.orderId,
        productId: r.productId,
        stopId: r.stopKey,
        why: 'pack',
      };
      holds.push(
        { ...common, hold: r.lies, parcelId: null, change: -signed },
        { ...common, hold: 'packed', parcelId: parcel.id, change: signed },
      );
    }
    if (left > 0)
      throw new TooLate(
        'The pieces of this order have changed since it was opened.',
        'Open the order again by its slip; what is in stays in.',
      );
    await this.stock.apply(tx, { moves, holds });
  }

  /** Seals the parcel: box and weight are kept, the order's totes are free, the order is Packed. */
  async close(
    tx: Tx,
    parcel: { id: string; orderId: string },
    sessionId: string | null,
    boxCode: string,
    weightMg: number,
  ): Promise<void> {
    await this.written.close(tx, parcel.id, boxCode, weightMg);
    if (sessionId) await this.scans.close(tx, sessionId);
    await this.places.freeTotes(tx, parcel.orderId);
    await toHistory(tx, [event(tx, parcel.orderId, 'packed', `Packed in box ${boxCode}.`)]);
    await refreshStages(tx, [parcel.orderId]);
    await tx.tell('parcels', parcel.id);
  }

  /** The bench's picture of a session. */
  async view(sessionId: string): Promise<BenchView> {
    const row = await benchRow(this.db, sessionId);
    if (!row) throw new NotHere('That packing session', 'Scan the slip of the order.');
    const state = fromJson<PackState>(row.state);
    const behind = row.departureId ? (await othersLeaving(this.db, row.departureId, row.orderId))!.n : 0;
    const to = fromJson<{ city: string; region: string }>(row.shipTo);
    return {
      sessionId,
      parcelNo: `PA-${row.parcelNo}`,
      orderId: row.orderId,
      channelNumber: row.channelNumber,
      channel: row.channel,
      buyer: row.buyer,
      town: `${to.city}, ${to.region}`,
      note: row.note,
      notes: await this.packerNotes(row.orderId),
      promised: row.promised,
      departure: row.cutOff ? { carrier: row.carrierName!, cutOff: row.cutOff.toISOString() } : null,
      behind,
      expectedMg: await this.expectedMg(state),
      state,
      label: await this.parcels.label(row.parcelId),
    };
  }

  /** What the parcel should weigh by its products and the chosen box, in milligrams; 0 when a product's weight is not known. */
  private async expectedMg(state: PackState): Promise<number> {
    const products = await this.catalog.products(
      this.db,
      state.lines.map(l => l.product.id),
    );
    const weights = state.lines.map(l => products.get(l.product.id)?.weightMg);
    if (weights.some(w => !w)) return 0;
    return state.lines.reduce(
      (sum, l, i) => sum + l.wanted * weights[i]!,
      state.boxes.find(b => b.code === state.boxCode)?.tareMg ?? 0,
    );
  }

  private async orderOf(code: string): Promise<string> {
    const parsed = parseScan(code, 2000);
    if (!parsed.ok) throw new Forbidden(parsed.problem, 'Scan the slip or the tote.');
    const text = 'code' in parsed.value ? parsed.value.code : code.trim().toUpperCase();
    const number = /^[A-Z]{2}-(\d{1,9})$/.exec(text)?.[1] ?? -1;
    const found = await orderByCode(this.db, text, number);
    if (!found)
      throw new NotHere(
        `An order with the code ${text.slice(0, 40)}`,
        'Scan the slip, the tote or the parcel of an order.',
      );
    return found.id;
  }

  private async lines(sql: Sql, orderId: string): Promise<{ lines: PackLine[]; pieces: Piece[] }> {
    const rows = await pickedLines(sql, orderId);
    const all = await this.catalog.withParts(
      sql,
      rows.flatMap(r => [r.productId, r.lineProductId]),
    );
    const lines = rows.map(r => toLine(r, all));
    const pieces = rows.flatMap(r => {
      const p = all.get(r.productId)!;
      return p.size ? [{ id: p.id, size: p.size, weightMg: p.weightMg ?? 0, quantity: r.quantity }] : [];
    });
    return { lines, pieces };
  }
}

/** How long after a scan an order counts as being packed by its person. */
const BUSY_MS = 120_000;

function cureForStage(stage: string): string {
  if (stage === 'Clear' || stage === 'Listed') return 'It must be picked first.';
  if (stage === 'Departed') return 'It has left; nothing is packed any more.';
  return 'Look at the order to see why.';
}

const toBenchBox = (b: Box): BenchBox => ({
  code: b.code,
  name: b.name,
  tareMg: b.tareMg,
  limitMg: b.limitMg,
});
const toScanProduct = ({ id, sku, name, codes, picture, hint }: Product): ScanProduct => ({
  id,
  sku,
  name,
  codes,
  picture,
  hint,
});

function toLine(
  r: {
    id: string;
    lineId: string;
    productId: string;
    quantity: number;
    lineProductId: string;
    lineQuantity: number;
  },
  all: Map<string, Product>,
): PackLine {
  const product = all.get(r.productId)!;
  const sold = all.get(r.lineProductId)!;
  const kitParts =
    product.kind === 'kit'
      ? product.recipe.parts.map(p => ({
          product: toScanProduct(all.get(p.productId)!),
          perKit: p.quantity,
          scanned: 0,
        }))
      : [];
  const bundle =
    sold.kind === 'bundle'
      ? {
          id: r.lineId,
          name: sold.name,
          codes: sold.codes.map(c => c.code),
          each: Math.max(1, Math.round(r.quantity / r.lineQuantity)),
        }
      : null;
  return { id: r.id, product: toScanProduct(product), wanted: r.quantity, packed: 0, kitParts, bundle };
}
