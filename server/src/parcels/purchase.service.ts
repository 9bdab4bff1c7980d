import type { BuyLabel, CarrierBought, CarrierBuy, LabelView } from '@auk/contract';
import {
  nextDeparture,
  type PurchaseEvent,
  type PurchaseState,
  purchaseHolds,
  purchaseNext,
} from '@auk/core';
import { Inject, Injectable } from '@nestjs/common';
import { type Asked, CARRIERS, type Carriers } from '../carriers/carrier.js';
import { Db, type Doer, errnoOf, fromJson, type Tx } from '../database/db.js';
import { DeparturePlanner } from '../departures/planner.js';
import { log } from '../http/log.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { event } from '../orders/events.js';
import { refreshStages } from '../orders/stages.js';
import { RatingService } from '../rating/rating.service.js';
import { ParcelsQueries } from './parcels.queries.js';

interface PurchaseRow {
  id: string;
  parcelId: string;
  orderId: string;
  state: PurchaseState;
  carrier: string;
  carrierName: string;
  serviceName: string;
  minor: number;
  request: string;
}

const DUPLICATE = 1062;
/** How long a purchase may be asked for before it is asked after. Longer than the longest wait for a carrier. */
const RECOVER_AFTER_MS = 6_000;

/**
 * Buys labels exactly once. The intention is committed with its key before the carrier is asked; the database allows one live
 * purchase a parcel; whatever stays unanswered is found out by asking the carrier for the key.
 */
@Injectable()
export class PurchaseService {
  constructor(
    private readonly db: Db,
    private readonly parcels: ParcelsQueries,
    private readonly rating: RatingService,
    private readonly planner: DeparturePlanner,
    @Inject(CARRIERS) private readonly carriers: Carriers,
  ) {}

  /** Buys the label chosen; pressing again, with the same key or another, gives the purchase that is there. */
  async buy(no: number, wish: BuyLabel, doer: Doer): Promise<LabelView> {
    const begun = await this.intend(no, wish, doer);
    if (begun.fresh) await this.ask(begun.id, doer);
    return (await this.parcels.label(begun.parcelId))!;
  }

  private async intend(
    no: number,
    wish: BuyLabel,
    doer: Doer,
  ): Promise<{ id: string; parcelId: string; fresh: boolean }> {
    const carrier = this.carriers.get(wish.carrier);
    if (!carrier) throw new NotHere(`The carrier ${wish.carrier}`);
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
        await tx.one('SELECT id FROM parcel WHERE id = ? FOR UPDATE', [parcel.id]);
        const known = await tx.one<{ id: string; parcelId: string; state: PurchaseState }>(
          'SELECT id, parcelId, state FROM purchase WHERE id = ? OR liveParcel = ? ORDER BY id = ? DESC LIMIT 1',
          [wish.key, parcel.id, wish.key],
        );
        if (known && known.parcelId !== parcel.id)
          throw new Forbidden(
            'This purchase key was used for another parcel.',
            'Ask for the prices again and choose anew.',
          );
        if (known && (known.id === wish.key || purchaseHolds(known.state)))
          return { id: known.id, parcelId: parcel.id, fresh: false };
        await tx.insert('purchase', [
          {
            id: wish.key,
            parcelId: parcel.id,
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
        return { id: wish.key, parcelId: parcel.id, fresh: true };
      });
    } catch (error) {
      if (errnoOf(error) === DUPLICATE)
        throw new TooLate(
          `The label of PA-${no} is being bought by someone else at this moment.`,
          'Wait a moment and look at the parcel again.',
        );
      throw error;
    }
  }

  /** Asks the carrier for an intended purchase and stores what came of it. */
  private async ask(id: string, doer: Doer): Promise<void> {
    const row = await this.step(id, doer, { type: 'ask' });
    if (!row) return;
    const answer = await this.carriers.get(row.carrier)!.buy(fromJson<CarrierBuy>(row.request));
    await this.step(id, { ...doer, at: new Date() }, toEvent(answer));
  }

  /** Asks after everything that was asked for too long, or intended and never asked. Run at start-up and every minute. */
  async recover(now: Date, olderThanMs = RECOVER_AFTER_MS): Promise<number> {
    const stuck = await this.db.rows<PurchaseRow>(
      "SELECT id, carrier, state, request FROM purchase WHERE (state IN ('asked', 'unknown') AND COALESCE(answeredAt, askedAt) <= ?) OR (state = 'intended' AND intendedAt <= ?)",
      [new Date(now.getTime() - olderThanMs), new Date(now.getTime() - olderThanMs)],
    );
    for (const row of stuck) {
      try {
        await this.recoverOne(row, { personId: null, at: now });
      } catch (error) {
        log.error({ err: error, purchase: row.id }, 'recovery of a purchase failed; it is tried again');
      }
    }
    return stuck.length;
  }

  private async recoverOne(row: PurchaseRow, doer: Doer): Promise<void> {
    if (row.state === 'intended') return this.ask(row.id, doer);
    const found = await this.carriers.get(row.carrier)!.find(row.id);
    if (found.kind === 'answered' && found.value === null) {
      await this.step(row.id, doer, { type: 'not found' });
      return this.ask(row.id, doer);
    }
    await this.step(row.id, doer, toEvent(found as Asked<CarrierBought>));
  }

  /** One stored step of the purchase; null when the row has moved on meanwhile. */
  private step(
    id: string,
    doer: Doer,
    happened: PurchaseEvent & { bought?: CarrierBought },
  ): Promise<PurchaseRow | null> {
    return this.db.tx(doer, async tx => {
      const row = (await tx.one<PurchaseRow>(
        'SELECT b.*, c.orderId FROM purchase b JOIN parcel c ON c.id = b.parcelId WHERE b.id = ? FOR UPDATE',
        [id],
      ))!;
      const next = purchaseNext(row.state, happened);
      if (!next.ok) return null;
      await tx.run(
        `UPDATE purchase SET state = ?, ${happened.type === 'ask' ? 'askedAt' : 'answeredAt'} = ? WHERE id = ?`,
        [next.value, tx.at, id],
      );
      if (happened.type === 'answered bought') await this.bought(tx, row, happened);
      if (happened.type === 'answered refused' || happened.type === 'answered nothing')
        await this.failed(tx, row, happened.type, happened.why);
      await refreshStages(tx, [row.orderId]);
      await tx.tell('parcels', row.parcelId);
      return row;
    });
  }

  private async bought(
    tx: Tx,
    row: PurchaseRow,
    answer: Extract<PurchaseEvent, { type: 'answered bought' }> & { bought?: CarrierBought },
  ): Promise<void> {
    const why =
      answer.minor === row.minor ? null : `Charged ${answer.minor} instead of ${row.minor} minor units.`;
    await tx.run('UPDATE purchase SET tracking = ?, chargedMinor = ?, routing = ?, why = ? WHERE id = ?', [
      answer.tracking,
      answer.minor,
      answer.bought?.routing ?? '',
      why,
      row.id,
    ]);
    const departure = nextDeparture(await this.planner.open(tx, tx.at), row.carrier, tx.at.toISOString());
    await tx.run('UPDATE parcel SET departureId = ? WHERE id = ?', [departure?.id ?? null, row.parcelId]);
    if (departure) await this.planner.assign(tx, [row.orderId], departure.id);
    await tx.insert('orderEvent', [
      event(
        tx,
        row.orderId,
        'labelled',
        `Label bought: ${row.carrierName}, ${row.serviceName}, ${answer.tracking}.`,
      ),
    ]);
  }

  private async failed(tx: Tx, row: PurchaseRow, type: string, why: string): Promise<void> {
    await tx.run('UPDATE purchase SET why = ? WHERE id = ?', [why.slice(0, 300), row.id]);
    await tx.insert('orderEvent', [
      event(
        tx,
        row.orderId,
        'label',
        type === 'answered refused'
          ? `Label refused. ${why}`
          : `Label without an answer. ${why} Auk asks again.`,
      ),
    ]);
  }
}

function toEvent(answer: Asked<CarrierBought>): PurchaseEvent & { bought?: CarrierBought } {
  if (answer.kind === 'answered')
    return {
      type: 'answered bought',
      tracking: answer.value.tracking,
      minor: answer.value.minor,
      bought: answer.value,
    };
  return answer.kind === 'refused'
    ? { type: 'answered refused', why: answer.why }
    : { type: 'answered nothing', why: answer.why };
}
