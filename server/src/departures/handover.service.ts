import type { HandoverView, Judged, ScanIn } from '@auk/contract';
import { type Answer, arrivesInstead, nextDeparture } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, NONE, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { Labels } from '../labels/labels.module.js';
import { Mails } from '../mails/mails.module.js';
import { Parcels } from '../parcels/parcels.module.js';
import {
  awayOf,
  event,
  HeldOrders,
  leaveWith,
  lockOrders,
  refreshStages,
  toHistory,
} from '../records/records.module.js';
import { ScansService } from '../scans/scans.module.js';
import { type HoldChange, type Move, StockService } from '../stock/stock.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { Tracking } from '../tracking/tracking.module.js';
import { BoardQueries } from './board.queries.js';
import { Collecting } from './collecting.service.js';
import {
  arrivalsOf,
  departureByNo,
  lastLabel,
  lockDeparture,
  lockOrdersOn,
  lockParcel,
  lockParcelsOn,
  lockWaitingFor,
  packedIn,
  parcelByCode,
  type ScannedParcel,
} from './handover.queries.js';
import { Telling } from './telling.service.js';

/** Scanning parcels onto a departure, and closing it. */
@Injectable()
export class HandoverService {
  constructor(
    private readonly db: Db,
    private readonly stock: StockService,
    private readonly board: BoardQueries,
    private readonly planner: DeparturePlanner,
    private readonly parcels: Parcels,
    private readonly held: HeldOrders,
    private readonly house: HouseService,
    private readonly telling: Telling,
    private readonly scans: ScansService,
    private readonly carriers: CarrierRegistry,
    private readonly labels: Labels,
    private readonly tracking: Tracking,
    private readonly mails: Mails,
    private readonly collecting: Collecting,
  ) {}

  /** Takes one scan: a parcel's own code or its tracking number. Scanning twice says so and changes nothing. */
  async scan(no: number, scan: ScanIn, doer: Doer): Promise<Judged<HandoverView>> {
    const judged = await this.db.tx(doer, async tx => {
      const session = await this.scans.of(
        tx,
        { kind: 'handover', departureId: await this.idOf(tx, no) },
        scan.device,
      );
      return this.scans.take<object>(tx, 'handover', session, scan, async ({ state }, kept) => ({
        answer: await this.put(tx, no, kept.text),
        state,
      }));
    });
    return { ...judged, state: await this.board.handover(no) };
  }

  private async put(tx: Tx, no: number, text: string): Promise<Answer> {
    const departure = await this.lock(tx, no);
    const code = text.trim().toUpperCase().slice(0, 60);
    const whose = await parcelByCode(tx, /^PA-(\d{1,9})$/.exec(code)?.[1] ?? -1, code);
    await lockOrders(tx, whose ? [whose.orderId] : []);
    const parcel = await lockParcel(tx, whose?.id ?? NONE);
    const wrong = (says: string, next: string): Answer => ({ kind: 'refused', tone: 'wrong', says, next });
    if (!parcel)
      return wrong(`No parcel has the code ${code.slice(0, 30)}.`, 'Scan the barcode of the label.');
    if (parcel.departedAt)
      return wrong(`PA-${parcel.no} has departed already.`, 'Put it aside and ask the lead.');
    if (whose!.label === 'voided')
      return wrong(`That label of PA-${parcel.no} was given back.`, 'Take the old label off it.');
    if (parcel.label !== 'bought')
      return wrong(await this.unlabelled(tx, parcel), 'Bring it back to the bench.');
    if (!parcel.closedAt)
      return wrong(
        `PA-${parcel.no} is not packed yet; its label was bought ahead.`,
        'Bring it back to the bench.',
      );
    if (parcel.misfit)
      return wrong(
        `PA-${parcel.no} has a wrong label. ${parcel.misfit}`,
        'Bring it back to the bench, void the label there and buy it anew.',
      );
    if (parcel.carrier !== departure.carrier)
      return wrong(`Wrong truck: PA-${parcel.no} goes with ${parcel.carrierName}.`, 'Put it back.');
    const held = (await this.held.among(tx, [parcel.orderId])).get(parcel.orderId);
    if (held) return wrong(`PA-${parcel.no} must not go: ${held.says}`, held.cure);
    if (parcel.handedOverAt && parcel.departureId === departure.id)
      return {
        kind: 'moved',
        tone: 'info',
        says: `PA-${parcel.no} is on it already.`,
        next: 'Scan the next parcel.',
      };
    const before = parcel.departureId === departure.id ? null : parcel.departureId;
    await this.parcels.handOver(tx, parcel.id, departure.id);
    await leaveWith(tx, [parcel.orderId], departure.id);
    await tx.tell('departures', departure.id);
    return {
      kind: 'counted',
      tone: 'right',
      says: `Right, PA-${parcel.no} is on it${before ? '; it was planned for another departure' : ''}.`,
      next: 'Scan the next parcel.',
    };
  }

  /** Why a parcel without a bought label must not go. */
  private async unlabelled(tx: Tx, parcel: ScannedParcel): Promise<string> {
    if (parcel.label === 'void asked') return `The label of PA-${parcel.no} is being given back.`;
    if (parcel.label)
      return `The label of PA-${parcel.no} is ${parcel.label}: nobody knows yet that it is ours.`;
    const last = await lastLabel(tx, parcel.id);
    return last?.state === 'voided'
      ? `The label of PA-${parcel.no} was given back.`
      : `PA-${parcel.no} has no label yet.`;
  }

  /**
   * Closes the departure: what was scanned has left. What was bought and not scanned refuses it, and so does what was scanned before
   * its order was held back, unless it is knowingly left for the next one.
   */
  async close(no: number, leaveBehind: boolean, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const departure = await this.lock(tx, no);
      const parcels = await this.parcelsOf(tx, departure.id);
      const held = await this.held.among(
        tx,
        parcels.map(p => p.orderId),
      );
      const leaving = parcels.filter(p => p.handedOverAt && !held.has(p.orderId));
      const stopped = parcels.filter(p => p.handedOverAt && held.has(p.orderId));
      const missing = parcels.filter(p => !p.handedOverAt);
      if (!leaveBehind) {
        if (stopped.length > 0)
          throw new Forbidden(
            `${numbers(stopped)} must not go: ${held.get(stopped[0]!.orderId)!.says}`,
            'Take it off the truck, then close and leave it for the next departure.',
            { missing: [...stopped, ...missing].map(p => `PA-${p.no}`) },
          );
        if (missing.length > 0)
          throw new Forbidden(
            `${missing.length} labelled parcels were not scanned: ${numbers(missing)}.`,
            'Scan them, or close and leave them for the next departure.',
            { missing: missing.map(p => `PA-${p.no}`) },
          );
      }
      if (leaving.length > 0) {
        await this.leave(tx, leaving);
        await this.collecting.endSoon(tx, departure);
      }
      await this.postpone(tx, departure, [...stopped, ...missing], 'was not scanned and waits');
      await this.end(tx, departure.id, 'closed', '');
    });
  }

  /** Calls a collection off: nothing leaves with it, and all that was planned for it waits for the carrier's next one. */
  async cancel(no: number, reason: string, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const departure = await this.lock(tx, no);
      const parcels = await this.parcelsOf(tx, departure.id);
      await this.postpone(tx, departure, parcels, 'waits, because the collection was called off,');
      await this.end(tx, departure.id, 'cancelled', reason);
    });
  }

  private async end(tx: Tx, id: string, state: 'closed' | 'cancelled', reason: string): Promise<void> {
    await this.planner.end(tx, id, state, reason);
    await tx.tell('departures', id);
  }

  /** The labelled parcels of a departure that have not left, with their orders and themselves locked. */
  private async parcelsOf(tx: Tx, departureId: string): Promise<ScannedParcel[]> {
    await lockOrdersOn(tx, departureId);
    return lockParcelsOn(tx, departureId);
  }

  /** Parcels leave: out of the house by the ledger, orders Departed, channels to be told. */
  async leave(tx: Tx, parcels: readonly { id: string; no: number; orderId: string }[]): Promise<void> {
    const ids = parcels.map(p => p.id);
    const gone = await this.house.place(tx, 'gone');
    const packed = await packedIn(tx, ids);
    // What goes to a center lies in a place of its own until it is counted in there.
    const away = new Map(
      (
        await awayOf(
          tx,
          parcels.map(p => p.orderId),
        )
      ).map(a => [a.orderId, a.placeId]),
    );
    const moves: Move[] = packed.map(p => ({
      productId: p.productId,
      lotId: p.lotId,
      from: p.placeId,
      to: away.get(p.orderId) ?? gone,
      quantity: p.quantity,
      why: 'depart',
      causeId: p.parcelKey,
    }));
    const holds = packed.flatMap((p): HoldChange[] => {
      const common = {
        partId: p.partId,
        orderId: p.orderId,
        productId: p.productId,
        stopId: p.stopKey,
        parcelId: p.parcelKey,
        why: 'depart',
      };
      return [
        { ...common, hold: 'packed', change: -p.quantity },
        { ...common, hold: 'departed', change: p.quantity },
      ];
    });
    await lockAll(tx, { productStock: packed.map(p => p.productId) });
    await this.stock.apply(tx, { moves, holds });
    await this.parcels.depart(tx, ids);
    await this.telling.soon(tx, ids);
    await this.tracking.begin(tx, ids);
    const first = new Map([...parcels].reverse().map(p => [p.orderId, p.id]));
    await this.mails.due(
      tx,
      [...first].map(([orderId, cause]) => ({ orderId, moment: 'departed', cause })),
    );
    await toHistory(
      tx,
      parcels.map(p => event(tx, p.orderId, 'departed', `PA-${p.no} departed.`)),
    );
    await refreshStages(
      tx,
      parcels.map(p => p.orderId),
    );
  }

  /** What did not leave, labelled or not yet, is planned for the carrier's next departure. */
  private async postpone(
    tx: Tx,
    departure: { id: string; carrier: string; cutOff: Date },
    missing: readonly ScannedParcel[],
    why: string,
  ): Promise<void> {
    const open = (await this.planner.open(tx, tx.at)).filter(d => d.id !== departure.id);
    const following = nextDeparture(open, departure.carrier, tx.at.toISOString());
    const next = following?.id ?? null;
    if (missing.length > 0) {
      if (following) await this.arriveLater(tx, departure.cutOff, new Date(following.cutOff), missing);
      await this.parcels.plan(
        tx,
        missing.map(p => p.id),
        next,
      );
      await toHistory(
        tx,
        missing.map(p => event(tx, p.orderId, 'left behind', `PA-${p.no} ${why} for the next departure.`)),
      );
    }
    const waiting = await lockWaitingFor(tx, departure.id);
    await leaveWith(
      tx,
      waiting.map(o => o.id),
      next,
    );
    if (waiting.length > 0) await tx.tell('orders', '');
  }

  /** What leaves later arrives later, by as many business days on the way. */
  private async arriveLater(
    tx: Tx,
    before: Date,
    then: Date,
    parcels: readonly ScannedParcel[],
  ): Promise<void> {
    const [was, leaves] = [await this.house.today(tx, before), await this.house.today(tx, then)];
    const closed = await this.carriers.closedDays(tx);
    const labels = await arrivalsOf(
      tx,
      parcels.map(p => p.id),
    );
    await this.labels.arriveOn(
      tx,
      labels.map(l => ({
        id: l.labelId,
        arrives: arrivesInstead({ leaves: was, arrives: l.arrives }, leaves, { closed }),
      })),
    );
  }

  private async idOf(tx: Tx, no: number): Promise<string> {
    const departure = await departureByNo(tx, no);
    if (!departure) throw new NotHere(`The departure DE-${no}`);
    return departure.id;
  }

  private async lock(tx: Tx, no: number): Promise<{ id: string; no: number; carrier: string; cutOff: Date }> {
    const departure = await lockDeparture(tx, no);
    if (!departure) throw new NotHere(`The departure DE-${no}`);
    if (departure.state !== 'open')
      throw new Forbidden(`DE-${no} is ${departure.state}.`, 'Choose a departure that is still open.');
    return departure;
  }
}

const NAMED = 6;

/** The first few parcels by their numbers. */
const numbers = (parcels: readonly ScannedParcel[]): string =>
  parcels
    .slice(0, NAMED)
    .map(p => `PA-${p.no}`)
    .join(', ') + (parcels.length > NAMED ? ` and ${parcels.length - NAMED} more` : '');
