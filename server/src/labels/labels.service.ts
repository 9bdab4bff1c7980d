import type { BuyLabel, CarrierBought, CarrierBuy, LabelView } from '@auk/contract';
import { type LabelEvent, labelHolds, labelNext, nextDeparture, readFinding } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { PrintQueue } from '../benches/benches.module.js';
import type { Carrier } from '../carriers/carriers.module.js';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, fromJson, isDuplicate, type Tx } from '../database/db.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { type Lease, Leases, Rounds } from '../leases/leases.module.js';
import { Parcels, ParcelsQueries } from '../parcels/parcels.module.js';
import { RatingService } from '../rating/rating.module.js';
import {
  event,
  HeldOrders,
  leaveWith,
  lockOrders,
  refreshStages,
  toHistory,
} from '../records/records.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { Label } from './label.entity.js';
import {
  askedSince,
  type LabelRow,
  labelByKeyOrParcel,
  lockLabel,
  lockParcel,
  noteAsked,
  orderOfLabel,
  STUCK,
} from './labels.queries.js';
import { Purchases } from './purchases.service.js';

type Happened = LabelEvent & { bought?: CarrierBought };

const ROUND = 'recover labels';

/**
 * Buys labels exactly once. The intention is committed with its key before the carrier is asked; the database allows one live
 * purchase a parcel; one worker at a time is at a purchase, by a lease; whatever stays unanswered is found out by asking the carrier
 * for the key. Only an answer about the purchase itself ends it.
 */
@Injectable()
export class Labels {
  constructor(
    private readonly db: Db,
    private readonly parcels: ParcelsQueries,
    private readonly written: Parcels,
    private readonly rating: RatingService,
    private readonly planner: DeparturePlanner,
    private readonly held: HeldOrders,
    private readonly leases: Leases,
    private readonly rounds: Rounds,
    private readonly purchases: Purchases,
    private readonly carriers: CarrierRegistry,
    private readonly prints: PrintQueue,
  ) {
    purchases.recover(ROUND, STUCK, (id, lease, doer) => this.recoverOne(id, lease, doer));
  }

  /** Buys the label chosen; pressing again, with the same key or another, gives the purchase that is there. */
  async buy(no: number, wish: BuyLabel, doer: Doer): Promise<LabelView> {
    const begun = await this.intend(no, wish, doer);
    if (begun.lease) await this.purchases.under(begun.lease, lease => this.ask(wish.key, lease, doer));
    return (await this.parcels.label(begun.parcelId))!;
  }

  /** Commits the intention to buy, with the lease to carry it out; without a lease when the purchase is there already. */
  private async intend(
    no: number,
    wish: BuyLabel,
    doer: Doer,
  ): Promise<{ parcelId: string; lease: Lease | null }> {
    const carrier = this.carriers.get(wish.carrier);
    if (!carrier) throw new NotHere(`The carrier ${wish.carrier}`, 'Ask for the prices again.');
    const parcel = await this.parcels.parcel(this.db, no);
    if (!parcel) throw new NotHere(`The parcel PA-${no}`);
    const request: CarrierBuy = {
      key: wish.key,
      quoteId: wish.quoteId,
      minor: wish.minor,
      service: wish.service,
      parcel: await this.rating.request(parcel, doer.at),
      reference: `PA-${no}`,
    };
    try {
      return await this.db.tx(doer, async tx => {
        await lockOrders(tx, [parcel.orderId]);
        await lockParcel(tx, parcel.id);
        const known = await labelByKeyOrParcel(tx, wish.key, parcel.id);
        if (known && known.parcelId !== parcel.id)
          throw new Forbidden(
            'This purchase key was used for another parcel.',
            'Ask for the prices again and choose anew.',
          );
        if (known && (known.id === wish.key || labelHolds(known.state)))
          return { parcelId: parcel.id, lease: null };
        await this.held.refuse(tx, parcel.orderId, no);
        await this.insert(tx, parcel.id, carrier, wish, request);
        return { parcelId: parcel.id, lease: await this.purchases.take(wish.key, tx) };
      });
    } catch (error) {
      if (isDuplicate(error))
        throw new TooLate(
          `The label of PA-${no} is being bought by someone else at this moment.`,
          'Wait a moment and look at the parcel again.',
        );
      throw error;
    }
  }

  private async insert(
    tx: Tx,
    parcelId: string,
    carrier: Carrier,
    wish: BuyLabel,
    request: CarrierBuy,
  ): Promise<void> {
    await tx.insert(Label, [
      {
        id: wish.key,
        parcelId,
        state: 'intended',
        carrier: carrier.code,
        carrierName: carrier.name,
        service: wish.service,
        serviceName: wish.name,
        minor: wish.minor,
        currency: 'USD',
        request: JSON.stringify(request),
        arrives: wish.arrives,
        personId: tx.personId,
        intendedAt: tx.at,
      },
    ]);
  }

  /** Asks the carrier for an intended purchase and stores what came of it. */
  private async ask(id: string, lease: Lease, doer: Doer): Promise<void> {
    const row = await this.step(id, lease, doer, { type: 'ask' });
    if (!row) return;
    const carrier = this.carriers.get(row.carrier);
    if (!carrier) return;
    const answer = await carrier.buy(fromJson<CarrierBuy>(row.request));
    const later = { ...doer, at: new Date() };
    if (answer.kind === 'answered') await this.step(id, lease, later, boughtOf(answer.value));
    else if (answer.kind === 'silent')
      await this.step(id, lease, later, { type: 'answered nothing', why: answer.why });
    else if (row.asks === 0) await this.step(id, lease, later, { type: 'answered refused', why: answer.why });
    else await this.refusedAgain(id, carrier, lease, later, answer.why);
  }

  /** A second asking was refused, perhaps only because the first was answered after all: the books decide. */
  private async refusedAgain(
    id: string,
    carrier: Carrier,
    lease: Lease,
    doer: Doer,
    why: string,
  ): Promise<void> {
    const found = readFinding(await carrier.find(id), carrier.longestMs, carrier.longestMs);
    await this.step(
      id,
      lease,
      doer,
      found.type === 'bought'
        ? boughtOf(found.bought)
        : found.type === 'not found'
          ? { type: 'answered refused', why }
          : found,
    );
  }

  /** Finds out about everything that was asked for too long, or intended and never asked; waits for the end. */
  recover(): Promise<void> {
    return this.rounds.once(ROUND);
  }

  private async recoverOne(id: string, lease: Lease, doer: Doer): Promise<void> {
    const row = (await askedSince(this.db, id))!;
    const carrier = this.carriers.get(row.carrier);
    if (!carrier) return;
    if (row.state === 'intended') return this.askIfFree(id, lease, doer);
    const found = readFinding(await carrier.find(id), row.sinceMs ?? 0, carrier.longestMs);
    if (found.type === 'bought') await this.step(id, lease, doer, boughtOf(found.bought));
    else await this.step(id, lease, doer, found);
    if (found.type === 'not found') await this.askIfFree(id, lease, doer);
  }

  /** Asks for a purchase of which the carrier knows nothing, unless its order is held back by now: then it ends without one. */
  private async askIfFree(id: string, lease: Lease, doer: Doer): Promise<void> {
    const { orderId } = (await orderOfLabel(this.db, id))!;
    const why = (await this.held.among(this.db, [orderId])).get(orderId);
    if (why) await this.step(id, lease, doer, { type: 'called off', why: why.says });
    else await this.ask(id, lease, doer);
  }

  /** One stored step of the purchase under its lease; null when the row has moved on meanwhile. */
  private step(id: string, lease: Lease, doer: Doer, happened: Happened): Promise<LabelRow | null> {
    return this.db.tx(doer, async tx => {
      const { orderId } = (await orderOfLabel(tx, id))!;
      await lockOrders(tx, [orderId]);
      const row = (await lockLabel(tx, id))!;
      await this.leases.must(tx, lease);
      const next = labelNext(row.state, happened);
      if (!next.ok) return null;
      if (happened.type === 'ask') await noteAsked(tx, next.value, id);
      else await tx.of(Label).update({ id }, { state: next.value, answeredAt: tx.at });
      if (happened.type === 'answered bought') await this.bought(tx, row, happened);
      if ('why' in happened) await this.failed(tx, row, happened.type, happened.why);
      await refreshStages(tx, [row.orderId]);
      await tx.tell('parcels', row.parcelId);
      return row;
    });
  }

  private async bought(
    tx: Tx,
    row: LabelRow,
    answer: Extract<LabelEvent, { type: 'answered bought' }> & { bought?: CarrierBought },
  ): Promise<void> {
    const why =
      answer.minor === row.minor ? null : `Charged ${answer.minor} instead of ${row.minor} minor units.`;
    await tx
      .of(Label)
      .update(
        { id: row.id },
        { tracking: answer.tracking, chargedMinor: answer.minor, routing: answer.bought?.routing ?? '', why },
      );
    const departure = nextDeparture(await this.planner.open(tx, tx.at), row.carrier, tx.at.toISOString());
    await this.written.plan(tx, [row.parcelId], departure?.id ?? null);
    if (departure) await leaveWith(tx, [row.orderId], departure.id);
    await toHistory(tx, [
      event(
        tx,
        row.orderId,
        'labelled',
        `Label bought: ${row.carrierName}, ${row.serviceName}, ${answer.tracking}.`,
      ),
    ]);
    await this.prints.add(tx, 'label', row.orderId, row.parcelNo);
  }

  private async failed(tx: Tx, row: LabelRow, type: LabelEvent['type'], why: string): Promise<void> {
    await tx.of(Label).update({ id: row.id }, { why: why.slice(0, 300) });
    await toHistory(tx, [event(tx, row.orderId, 'label', `${FAILED[type] ?? ''}${why}${AFTER[type] ?? ''}`)]);
  }
}

const FAILED: Partial<Record<LabelEvent['type'], string>> = {
  'answered refused': 'Label refused. ',
  'answered nothing': 'Label without an answer. ',
  'called off': 'The label was not bought: ',
};
const AFTER: Partial<Record<LabelEvent['type'], string>> = { 'answered nothing': ' Auk asks again.' };

const boughtOf = (bought: CarrierBought): Happened => ({
  type: 'answered bought',
  tracking: bought.tracking,
  minor: bought.minor,
  bought,
});
