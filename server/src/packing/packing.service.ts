import type { ArrivedRow, BenchView, Judged, QueueRow, ScanIn } from '@auk/contract';
import {
  type BoxedWeight,
  type Captured,
  labelMisfit,
  learnedWeight,
  NO_CHOICES,
  type PackEffect,
  type PackNews,
  type PackState,
  packScan,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { PrintQueue } from '../benches/benches.module.js';
import { Measures } from '../catalog/catalog.module.js';
import { Db, type Doer, isDuplicate, newId, Stale, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotAllowed, NotHere, TooLate } from '../http/problem.js';
import { Parcels } from '../parcels/parcels.module.js';
import {
  event,
  leaveOut,
  refreshStages,
  refuseBuild,
  refuseTold,
  toHistory,
} from '../records/records.module.js';
import { ScansService } from '../scans/scans.module.js';
import { type HoldChange, type Move, Places, StockService } from '../stock/stock.module.js';
import { BenchViews, lacking } from './benchViews.service.js';
import { serialElsewhere, whose } from './lookups.js';
import { Opening } from './opening.service.js';
import {
  aheadParcel,
  boughtFor,
  lockForPacking,
  lockParcelsOfSession,
  type OrderHead,
  parcelByNo,
  partsPacked,
  sessionOfOrder,
  unitsHeld,
} from './packing.queries.js';
import { UnitFacts } from './unitFacts.service.js';

/** A parcel that goods are moved into or out of. */
export interface PackedParcel {
  id: string;
  placeId: string;
  orderId: string;
}

/** An order that was opened: its session, and what that was told of what had changed meanwhile. */
interface OpenedOrder {
  sessionId: string;
  news: BenchView['news'];
}

/** What whoever sends a scan may do beside scanning. */
export interface BenchRights {
  byHand: boolean;
  all: boolean;
}

/** Orders at the bench: opened by any of their codes, checked piece by piece into parcels. */
@Injectable()
export class PackingService {
  constructor(
    private readonly db: Db,
    private readonly stock: StockService,
    private readonly scans: ScansService,
    private readonly written: Parcels,
    private readonly places: Places,
    private readonly house: HouseService,
    private readonly opening: Opening,
    private readonly views: BenchViews,
    private readonly facts: UnitFacts,
    private readonly prints: PrintQueue,
    private readonly measures: Measures,
  ) {}

  arrived = (): Promise<ArrivedRow[]> => this.views.arrived();
  queue = (): Promise<QueueRow[]> => this.views.queue();
  view = (sessionId: string): Promise<BenchView> => this.views.view(sessionId);

  /** Opens the order that a code belongs to. What was begun goes on, on this bench. */
  async open(code: string, device: string, doer: Doer): Promise<BenchView> {
    const orderId = await this.views.orderOf(code, device);
    const { sessionId, news } = await this.db.tx(doer, tx => this.openOrder(tx, orderId, device));
    return { ...(await this.view(sessionId)), news };
  }

  /** Opens (or reopens) packing of an order inside a transaction; returns the session, and what it was told of changes. */
  async openOrder(tx: Tx, orderId: string, device: string): Promise<OpenedOrder> {
    const begun = await this.goOn(tx, orderId, device);
    if (begun) return begun;
    const order = (await lockForPacking(tx, orderId))!;
    // Whoever opened it while this waited for the order has made the session.
    const late = await sessionOfOrder(tx, orderId);
    if (late) return { sessionId: late.id, news: null };
    await refuseBuild(tx, orderId);
    if (order.stage !== 'Picked')
      throw new Forbidden(
        `${order.channelNumber} is ${order.stage}, so there is nothing to pack yet.`,
        cureForStage(order.stage),
      );
    const state = await this.opening.state(tx, order, device);
    await this.places.takeAway(tx, order.id);
    const ahead = await aheadParcel(tx, orderId);
    if (ahead) await this.written.takeOver(tx, ahead.id);
    else await this.openParcel(tx, order, 1);
    const sessionId = await this.scans.open(tx, { kind: 'pack', orderId: order.id }, state, device);
    // A label that was bought before anybody packed comes out where it is packed.
    if (ahead?.label === 'bought') await this.prints.add(tx, 'label', orderId, ahead.no);
    return { sessionId, news: null };
  }

  /** What was begun goes on, on this bench, unless somebody is at it at another one. Sessions are locked before orders. */
  private async goOn(tx: Tx, orderId: string, device: string): Promise<OpenedOrder | null> {
    const seen = await sessionOfOrder(tx, orderId);
    if (!seen) return null;
    const { state } = await this.scans.lock<PackState>(tx, seen.id);
    const known = (await sessionOfOrder(tx, orderId))!;
    const busy =
      !known.closedAt &&
      known.device !== device &&
      known.personId !== tx.personId &&
      tx.at.getTime() - (known.lastScanAt ?? known.openedAt).getTime() < BUSY_MS;
    if (busy)
      throw new TooLate(
        `${known.name} is packing ${known.channelNumber} at another bench right now.`,
        'Let them finish, or open it when they have stopped for two minutes.',
      );
    await this.scans.handTo(tx, known.id, device);
    const news = known.closedAt ? null : await this.tellChanges(tx, known.id, orderId, state);
    return { sessionId: known.id, news };
  }

  /** What the order wants otherwise than the session knows is told to it. */
  private async tellChanges(
    tx: Tx,
    sessionId: string,
    orderId: string,
    state: PackState,
  ): Promise<OpenedOrder['news']> {
    const news = await this.opening.changes(tx, orderId, state);
    if (news === null) return null;
    const { answer } = await this.scans.tell<PackState, PackNews>(tx, sessionId, state, news, packScan);
    return { says: answer.says, next: answer.next };
  }

  /** Takes a closed parcel open again, to be boxed and weighed anew. What has its label or has left stays closed. */
  async reopen(no: string, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const seen = await parcelByNo(tx, no);
      const session = seen && (await sessionOfOrder(tx, seen.orderId));
      if (!session) throw new NotHere('That parcel', 'Scan the slip of the order.');
      const { state } = await this.scans.lock<PackState>(tx, session.id);
      await lockAll(tx, { orders: [seen.orderId], parcel: [seen.id] });
      const parcel = (await parcelByNo(tx, no))!;
      if (parcel.departedAt || parcel.handedOverAt)
        throw new Forbidden(`${no} has left the bench.`, 'It has left; nothing is packed any more.');
      await refuseTold(tx, parcel.orderId, no);
      if (parcel.label) throw new Forbidden(`${no} has its label already (${parcel.label}).`, KEEP_LABEL);
      if (!parcel.closedAt || !session.closedAt) throw faster('This order is being packed.');
      await this.written.openAgain(tx, parcel.id);
      await this.scans.openAgain(tx, session.id);
      const news: PackNews = { kind: 'reopened', parcel: parcel.seq };
      await this.scans.tell<PackState, PackNews>(tx, session.id, state, news, packScan);
      await toHistory(tx, [event(tx, parcel.orderId, 'packed', `${no} was taken open again.`)]);
      await refreshStages(tx, [parcel.orderId]);
      await tx.tell('parcels', parcel.id);
    });
  }

  private async openParcel(
    tx: Tx,
    order: Omit<OrderHead, 'no' | 'channelNumber' | 'stage'>,
    seq: number,
  ): Promise<void> {
    const id = newId();
    const placeId = await this.places.makeForParcel(tx, order.warehouseId, id);
    await this.written.open(tx, [{ id, orderId: order.id, shipmentId: order.shipmentId, placeId, seq }]);
  }

  /** Judges a scan of the bench and moves the stock with it. */
  scan(sessionId: string, scan: ScanIn, doer: Doer, may: BenchRights): Promise<Judged<PackState>> {
    if (scan.by === 'pressed' && !may.byHand && !/^AUK-/i.test(scan.text))
      throw new NotAllowed(
        'You may not press pieces here.',
        'Scan them, or ask the lead, who can give you that right.',
      );
    if (/^AUK-ALL$/i.test(scan.text.trim()) && !may.all)
      throw new NotAllowed(
        'You may not count all the rest at once.',
        'Scan each piece, or ask the lead, who can give you that right.',
      );
    return this.db.tx(doer, tx => this.judge(tx, sessionId, scan));
  }

  private judge(tx: Tx, sessionId: string, scan: ScanIn): Promise<Judged<PackState>> {
    return this.scans.judge<PackState, PackEffect>(
      tx,
      'pack',
      sessionId,
      scan,
      packScan,
      (effects, _, after) => this.act(tx, sessionId, effects, after),
      {
        before: (state, made) => serialElsewhere(tx, sessionId, state, made),
        after: (state, known) => whose(tx, sessionId, state, known),
      },
    );
  }

  private async act(
    tx: Tx,
    sessionId: string,
    effects: readonly PackEffect[],
    after: PackState,
  ): Promise<void> {
    const parcels = await lockParcelsOfSession(tx, sessionId);
    const { orderId, warehouseId, shipmentId } = parcels[0]!;
    const moved = effects.flatMap(e => ('lineId' in e ? after.lines.find(l => l.id === e.lineId)! : []));
    const seals = effects.some(e => e.type === 'close');
    await lockAll(tx, {
      productStock: (seals ? after.lines : moved).map(l => l.product.id),
    });
    const parcelOf = (seq: number) => parcels.find(p => p.seq === seq)!;
    for (const e of effects) {
      if (e.type === 'pack') await this.move(tx, parcelOf(e.parcel), e, after);
      if (e.type === 'capture')
        await this.capture(tx, parcelOf(e.captured.parcel), e.captured, e.takenBack, after);
      if (e.type === 'leave out') await leaveOut(tx, e.lineId, e.units);
      if (e.type === 'next parcel')
        await this.openParcel(tx, { id: orderId, warehouseId, shipmentId }, e.parcel);
      if (e.type === 'close') {
        const { boxCode, weightMg } = after.parcels.find(p => p.no === e.parcel)!;
        if (e.last) await this.refuseUnfinished(tx, orderId, after);
        if (e.last) await this.putLeftOutBack(tx, orderId, after);
        await this.close(tx, parcelOf(e.parcel), { boxCode, weightMg }, e.last, after.choices);
        const learned = learnedWeight(after, e.parcel);
        if (learned) await this.measures.propose(tx, learned.productId, { weightMg: learned.mg }, orderId);
        if (e.last) await this.scans.close(tx, sessionId);
      }
    }
  }

  /** Moves units in or out. What an edit has taken out of the books already is only taken out of the box. */
  private async move(
    tx: Tx,
    parcel: PackedParcel,
    { parcel: no, lineId, units }: Extract<PackEffect, { type: 'pack' }>,
    after: PackState,
  ): Promise<void> {
    if (units > 0) return this.pack(tx, parcel, lineId, units);
    const booked = (await unitsHeld(tx, lineId, parcel.id)).reduce((n, r) => n + r.quantity, 0);
    const stay = after.parcels.find(p => p.no === no)!.holds[lineId] ?? 0;
    if (booked > stay) await this.pack(tx, parcel, lineId, stay - booked);
  }

  /** The last parcel is closed only when all that the order wants by now is in. */
  private async refuseUnfinished(tx: Tx, orderId: string, after: PackState): Promise<void> {
    const parts = await partsPacked(tx, orderId);
    const scanned = new Map(after.lines.map(l => [l.id, l.packed]));
    if (parts.some(p => p.packed !== (scanned.get(p.id) ?? 0)))
      throw faster('The order was changed meanwhile.');
    const lacks = lacking(parts);
    if (lacks)
      throw new Forbidden(
        `Not all of it is here: ${lacks}.`,
        'Set the order aside; it comes back to the queue when that is picked. What is in stays in.',
      );
  }

  private async capture(
    tx: Tx,
    parcel: PackedParcel,
    captured: Captured,
    takenBack: boolean,
    after: PackState,
  ): Promise<void> {
    if (takenBack) return this.facts.forget(tx, parcel.orderId, captured.n);
    const productId = after.lines.find(l => l.id === captured.line)!.product.id;
    try {
      await this.facts.keep(tx, { ...captured, orderId: parcel.orderId, parcelId: parcel.id, productId });
    } catch (error) {
      // Another bench has just kept this serial number: what was looked up is stale, and is looked up again.
      throw isDuplicate(error) ? new Stale('The serial number was given meanwhile.') : error;
    }
  }

  /** Moves units of a part from where they lie (tote, heap or cell) into the parcel; negative units back there. */
  async pack(tx: Tx, parcel: PackedParcel, partId: string, units: number): Promise<void> {
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
    if (left > 0) throw faster('The pieces of this order have changed since it was opened.');
    await this.stock.apply(tx, { moves, holds });
  }

  /** What was left out and lies in a tote goes to the staging place, to be put back. */
  private async putLeftOutBack(tx: Tx, orderId: string, after: PackState): Promise<void> {
    const staging = await this.house.placeNamed(tx, 'staging');
    for (const line of after.lines.filter(l => l.leftOut > 0)) {
      const rows = await unitsHeld(tx, line.id, null);
      const common = { partId: line.id, orderId, parcelId: null, why: 'left out' };
      await this.stock.apply(tx, {
        moves: rows.map(r => ({
          productId: r.productId,
          lotId: r.lotId,
          from: r.liesIn,
          to: staging.id,
          quantity: r.quantity,
          why: 'put back' as const,
          causeId: orderId,
        })),
        holds: rows.map(r => ({
          ...common,
          productId: r.productId,
          hold: r.lies,
          stopId: r.stopKey,
          change: -r.quantity,
        })),
      });
    }
  }

  /** Seals a parcel: box and weight are kept; with the last one the order's totes are free, and it is Packed. */
  async close(
    tx: Tx,
    parcel: { id: string; orderId: string },
    packed: BoxedWeight,
    last: boolean,
    choices: PackState['choices'] = NO_CHOICES,
  ): Promise<void> {
    const label = await boughtFor(tx, parcel.id);
    const { boxCode } = packed;
    // What was only checked stays as its label says.
    const misfit = label && labelMisfit(label, packed, choices);
    await this.written.close(tx, parcel.id, { ...(boxCode === null && label ? label : packed), misfit });
    if (misfit) await toHistory(tx, [event(tx, parcel.orderId, 'label', misfit)]);
    if (last) await this.places.freeTotes(tx, parcel.orderId);
    await toHistory(tx, [
      event(tx, parcel.orderId, 'packed', boxCode ? `Packed in box ${boxCode}.` : 'Checked, without a box.'),
    ]);
    await refreshStages(tx, [parcel.orderId]);
    if (last)
      for (const kind of ['slip', 'invoice'] as const) await this.prints.add(tx, kind, parcel.orderId);
    await tx.tell('parcels', parcel.id);
  }
}

/** Somebody or something was faster; the order is opened again, which tells what changed. */
const faster = (says: string) => new TooLate(says, 'Open the order again by its slip; what is in stays in.');
/** What is done about a label that is there already. */
const KEEP_LABEL =
  'Void its label at the bench and take the parcel open again, then do it again. Park the order when the parcel must not leave.';
/** How long after a scan an order counts as being packed by its person. */
const BUSY_MS = 120_000;

function cureForStage(stage: string): string {
  if (stage === 'Clear' || stage === 'Listed') return 'It must be picked first.';
  if (stage === 'Departed') return 'It has left; nothing is packed any more.';
  return 'Look at the order to see why.';
}
