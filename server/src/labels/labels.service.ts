import type { BuyLabel, CarrierBought, CarrierBuy, DecideLabel, LabelView } from '@auk/contract';
import {
  type AskedAndTold,
  contradiction,
  formatMoney,
  type LabelEvent,
  labelHolds,
  labelNext,
  nextDeparture,
  readFinding,
  STRAY_CHECKS_MS,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import pLimit, { type LimitFunction } from 'p-limit';
import { PrintQueue } from '../benches/benches.module.js';
import type { Carrier } from '../carriers/carriers.module.js';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, fromJson, isDuplicate, type Tx } from '../database/db.js';
import { NotHere, TooLate } from '../http/problem.js';
import { type Lease, Leases, Rounds } from '../leases/leases.module.js';
import { Parcels, ParcelsQueries } from '../parcels/parcels.module.js';
import { type PriceGround, RatingService } from '../rating/rating.module.js';
import {
  event,
  HeldOrders,
  leaveWith,
  lockOrders,
  refreshStages,
  refuseTheirs,
  toHistory,
} from '../records/records.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { Claims } from './claims.service.js';
import { failedWords } from './failedWords.js';
import { Label } from './label.entity.js';
import { labelPicture } from './labelPicture.js';
import {
  askedSince,
  type LabelRow,
  labelByKeyOrParcel,
  lockLabel,
  lockParcel,
  noteAsked,
  noteCheck,
  orderOfLabel,
  parcelWithTracking,
  refuseKeyOfAnother,
  STUCK,
} from './labels.queries.js';
import { Purchases } from './purchases.service.js';

/** A batch that a label is bought in, with what its prices are made from: read once for many. */
export interface OfBatch {
  id: string;
  ground: PriceGround;
}

type Happened = LabelEvent & { bought?: CarrierBought };

const ROUND = 'recover labels';
const ASKED_AT_ONCE = 8;

/** A parcel, and which of its ways a label is for: to its buyer, or back to the house. */
interface LabelWay {
  no: number;
  back: boolean;
}

/**
 * Buys labels exactly once. The intention is committed with its key before the carrier is asked; the database allows one live
 * purchase a parcel; one worker at a time is at a purchase, by a lease; whatever stays unanswered is found out by asking the carrier
 * for the key. Only an answer about the purchase itself ends it.
 */
@Injectable()
export class Labels {
  private readonly limits = new Map<string, LimitFunction>();

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
    private readonly claims: Claims,
  ) {
    purchases.recover(ROUND, STUCK, (id, lease, doer) => this.recoverOne(id, lease, doer));
  }

  /** Buys the label chosen; pressing again, with the same key or another, gives the purchase that is there. */
  async buy(no: number, wish: BuyLabel, doer: Doer, batch?: OfBatch): Promise<LabelView> {
    return this.buyFor({ no, back: false }, wish, doer, batch);
  }

  /** The same for the way back of a parcel to the house. */
  async buyReturn(no: number, wish: BuyLabel, doer: Doer): Promise<LabelView> {
    return this.buyFor({ no, back: true }, wish, doer);
  }

  private async buyFor(way: LabelWay, wish: BuyLabel, doer: Doer, batch?: OfBatch): Promise<LabelView> {
    const begun = await this.intend(way, wish, doer, batch);
    if (begun.lease) await this.purchases.under(begun.lease, lease => this.ask(wish.key, lease, doer));
    return (await this.parcels.label(begun.parcelId, way.back))!;
  }

  /** Commits the intention to buy, with the lease to carry it out; without a lease when the purchase is there already. */
  private async intend(
    { no, back }: LabelWay,
    wish: BuyLabel,
    doer: Doer,
    batch?: OfBatch,
  ): Promise<{ parcelId: string; lease: Lease | null }> {
    const carrier = await this.carriers.get(wish.carrier);
    if (!carrier) throw new NotHere(`The carrier ${wish.carrier}`, 'Ask for the prices again.');
    const parcel = await this.parcels.parcel(this.db, no);
    if (!parcel) throw new NotHere(`The parcel PA-${no}`);
    let request: CarrierBuy;
    try {
      request = await this.rating.purchase(parcel, wish, doer.at, { known: batch?.ground, back });
    } catch (error) {
      // What may not be bought any more may have been bought under this key before.
      const known = await labelByKeyOrParcel(this.db, wish.key, parcel.id, back);
      refuseKeyOfAnother(known, wish.key, parcel.id, back);
      if (known?.id === wish.key) return { parcelId: parcel.id, lease: null };
      throw error;
    }
    try {
      return await this.db.tx(doer, async tx => {
        await lockOrders(tx, [parcel.orderId]);
        const now = (await lockParcel(tx, parcel.id))!;
        const known = await labelByKeyOrParcel(tx, wish.key, parcel.id, back);
        refuseKeyOfAnother(known, wish.key, parcel.id, back);
        if (known && (known.id === wish.key || labelHolds(known.state)))
          return { parcelId: parcel.id, lease: null };
        if (now.boxCode !== parcel.boxCode || now.weightMg !== parcel.weightMg)
          throw new TooLate(`PA-${no} was boxed or weighed anew meanwhile.`, 'Ask for the prices again.');
        await refuseTheirs(tx, parcel.orderId, no);
        await this.held.refuse(tx, parcel.orderId, no);
        await this.insert(tx, parcel.id, carrier, wish, request, { batchId: batch?.id ?? null, back });
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

  /** Labels arrive on other days than was told when they were bought. */
  async arriveOn(tx: Tx, labels: readonly { id: string; arrives: string }[]): Promise<void> {
    for (const { id, arrives } of labels) await tx.of(Label).update(id, { arrives });
  }

  /** The parcel, and its order, leave with the carrier's next departure. */
  async leave(tx: Tx, row: { parcelId: string; orderId: string; carrier: string }): Promise<void> {
    const departure = nextDeparture(await this.planner.open(tx, tx.at), row.carrier, tx.at.toISOString());
    await this.written.plan(tx, [row.parcelId], departure?.id ?? null);
    if (departure) await leaveWith(tx, [row.orderId], departure.id);
  }

  private async insert(
    tx: Tx,
    parcelId: string,
    carrier: Carrier,
    wish: BuyLabel,
    request: CarrierBuy,
    of: { batchId: string | null; back: boolean },
  ): Promise<void> {
    await tx.insert(Label, [
      {
        id: wish.key,
        parcelId,
        state: 'intended',
        carrier: carrier.code,
        carrierName: carrier.name,
        account: wish.account,
        service: wish.service,
        serviceName: wish.name,
        zone: wish.zone,
        billable: wish.billable,
        charges: JSON.stringify(wish.charges),
        minor: wish.minor,
        currency: wish.currency,
        request: JSON.stringify(request),
        arrives: wish.arrives,
        personId: tx.personId,
        intendedAt: tx.at,
        ...of,
      },
    ]);
  }

  /** Asks the carrier for an intended purchase and stores what came of it. */
  private async ask(id: string, lease: Lease, doer: Doer): Promise<void> {
    const row = await this.step(id, lease, doer, { type: 'ask' });
    if (!row || typeof row === 'string') return;
    const carrier = await this.carriers.get(row.carrier);
    if (!carrier) return;
    const answer = await this.atOnce(carrier.code)(() => carrier.buy(fromJson<CarrierBuy>(row.request)));
    const later = { ...doer, at: new Date() };
    if (answer.kind === 'answered') await this.told(row, lease, later, answer.value, false);
    else if (answer.kind === 'silent')
      await this.step(id, lease, later, { type: 'answered nothing', why: answer.why });
    else if (row.asks === 0) await this.step(id, lease, later, { type: 'answered refused', why: answer.why });
    else await this.refusedAgain(id, carrier, lease, later, answer.why);
  }

  /** A carrier is asked to sell so many labels at once by this server, and no more. */
  private atOnce(carrier: string): LimitFunction {
    const limit = this.limits.get(carrier) ?? pLimit(ASKED_AT_ONCE);
    this.limits.set(carrier, limit);
    return limit;
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
    if (found.type === 'bought') await this.told({ id }, lease, doer, found.bought, true);
    else
      await this.step(
        id,
        lease,
        doer,
        found.type === 'not found' ? { type: 'answered refused', why } : found,
      );
  }

  /**
   * A carrier tells of a purchase. What contradicts what was asked is not believed: an answer leaves it open, to be found out in the
   * books; the books leave it in doubt, for a person.
   */
  private async told(
    { id }: { id: string },
    lease: Lease,
    doer: Doer,
    bought: CarrierBought,
    inBooks: boolean,
  ): Promise<void> {
    const wrong = await this.step(id, lease, doer, boughtOf(bought));
    if (typeof wrong === 'string')
      await this.step(id, lease, doer, { type: inBooks ? 'doubted' : 'answered nothing', why: wrong });
  }

  /** A person has looked at a doubtful purchase: the books are asked once more, it is asked for anew, or it is given up. */
  async decide(no: number, what: DecideLabel['what'], doer: Doer): Promise<LabelView> {
    const parcel = await this.parcels.parcel(this.db, no);
    if (!parcel) throw new NotHere(`The parcel PA-${no}`);
    const [there, back] = [
      await labelByKeyOrParcel(this.db, '', parcel.id, false),
      await labelByKeyOrParcel(this.db, '', parcel.id, true),
    ];
    const known = there?.state === 'doubtful' ? there : back;
    if (known?.state !== 'doubtful')
      throw new TooLate(`The label of PA-${no} is not in doubt.`, 'Look at the parcel again.');
    const lease = await this.purchases.take(known.id);
    if (!lease)
      throw new TooLate(
        `The label of PA-${no} is being found out at this moment.`,
        'Wait a moment and look at the parcel again.',
      );
    await this.purchases.under(lease, async l => {
      if (what === 'look') await this.recoverOne(known.id, l, doer);
      else if (what === 'give up')
        await this.step(known.id, l, doer, { type: 'called off', why: 'Given up by hand.' });
      else {
        await this.step(known.id, l, doer, { type: 'asked anew' });
        await this.askIfFree(known.id, l, doer);
      }
    });
    return (await this.parcels.label(parcel.id, known === back))!;
  }

  /** Finds out about everything that was asked for too long, or intended and never asked; waits for the end. */
  recover(): Promise<void> {
    return this.rounds.once(ROUND);
  }

  private async recoverOne(id: string, lease: Lease, doer: Doer): Promise<void> {
    const row = (await askedSince(this.db, id))!;
    const carrier = await this.carriers.get(row.carrier);
    if (!carrier) return;
    if (row.state === 'intended') return this.askIfFree(id, lease, doer);
    const found = readFinding(await carrier.find(id), row.sinceMs ?? 0, carrier.longestMs);
    if (found.type === 'bought') return this.told({ id }, lease, doer, found.bought, true);
    if (found.type !== 'not found') return void (await this.step(id, lease, doer, found));
    // To ask it once more might be a second purchase: that a person decides.
    if (!carrier.keyed)
      return void (await this.step(id, lease, doer, {
        type: 'doubted',
        why: `${carrier.name} knows nothing of it, and asking again might buy it twice.`,
      }));
    await this.step(id, lease, doer, found);
    await this.askIfFree(id, lease, doer);
  }

  /** Asks for a purchase of which the carrier knows nothing, unless its order is held back by now: then it ends without one. */
  private async askIfFree(id: string, lease: Lease, doer: Doer): Promise<void> {
    const { orderId } = (await orderOfLabel(this.db, id))!;
    const why = (await this.held.among(this.db, [orderId])).get(orderId);
    if (why) await this.step(id, lease, doer, { type: 'called off', why: why.says });
    else await this.ask(id, lease, doer);
  }

  /** One stored step of the purchase under its lease; null when the row has moved on meanwhile, a sentence when what was told cannot be so. */
  private step(id: string, lease: Lease, doer: Doer, happened: Happened): Promise<LabelRow | string | null> {
    return this.db.tx(doer, async tx => {
      const { orderId } = (await orderOfLabel(tx, id))!;
      await lockOrders(tx, [orderId]);
      const row = (await lockLabel(tx, id))!;
      await this.leases.must(tx, lease);
      const next = labelNext(row.state, happened);
      if (!next.ok) return null;
      const wrong = happened.bought ? await this.contradicts(tx, row, happened.bought) : null;
      if (wrong) return wrong;
      if (happened.type === 'ask') await noteAsked(tx, next.value, id);
      else await tx.of(Label).update({ id }, { state: next.value, answeredAt: tx.at });
      if (happened.type === 'answered bought') await this.bought(tx, row, happened);
      if ('why' in happened) await this.failed(tx, row, happened.type, happened.why);
      // A carrier may refuse and have sold all the same: its books are looked through again.
      if (next.value === 'refused' && row.asks > 0) await noteCheck(tx, id, 0, STRAY_CHECKS_MS[0]);
      // To be asked for changes nothing of where an order stands.
      if (happened.type !== 'ask') await refreshStages(tx, [row.orderId]);
      await tx.tell('parcels', row.parcelId);
      return row;
    });
  }

  private async bought(
    tx: Tx,
    row: LabelRow,
    answer: Extract<LabelEvent, { type: 'answered bought' }> & { bought?: CarrierBought },
  ): Promise<void> {
    const { tracking, minor } = answer;
    const over = minor - row.minor;
    const why =
      over === 0
        ? null
        : `Charged ${formatMoney(minor, row.currency)} instead of ${formatMoney(row.minor, row.currency)}.`;
    const picture = await labelPicture(answer.bought?.picture);
    await tx
      .of(Label)
      .update(
        { id: row.id },
        { tracking, chargedMinor: minor, routing: answer.bought?.routing ?? '', why, picture },
      );
    if (over > 0) await this.claims.open(tx, row, 'price', over, why!, tracking);
    if (!row.back) await this.leave(tx, row);
    await toHistory(tx, [
      event(
        tx,
        row.orderId,
        'labelled',
        `${row.back ? 'Return label' : 'Label'} bought: ${row.carrierName}, ${row.serviceName}, ${answer.tracking}.`,
      ),
    ]);
    // What is for the way back is sent to the buyer, or printed when somebody asks for it; what nobody packs yet, when it is opened.
    if (row.back || row.aheadAt) return;
    if (!row.batchId) await this.prints.add(tx, 'label', row.orderId, row.parcelNo);
    await this.prints.add(tx, 'customs', row.orderId, row.parcelNo);
  }

  private async contradicts(tx: Tx, row: LabelRow, told: CarrierBought): Promise<string | null> {
    const other = await parcelWithTracking(tx, row.id, `${row.carrier} ${told.tracking}`);
    const asked: AskedAndTold['asked'] = row;
    return contradiction({ asked, told, otherHas: other && `PA-${other.no}` });
  }

  private async failed(tx: Tx, row: LabelRow, type: LabelEvent['type'], why: string): Promise<void> {
    await tx.of(Label).update({ id: row.id }, { why: why.slice(0, 300) });
    await toHistory(tx, [event(tx, row.orderId, 'label', failedWords(type, why))]);
  }
}

const boughtOf = (bought: CarrierBought): Happened => ({
  type: 'answered bought',
  tracking: bought.tracking,
  minor: bought.minor,
  bought,
});
