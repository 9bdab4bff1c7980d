import type { CarrierTracked, TrackView } from '@auk/contract';
import { isOver, type TrackKind, trackedState } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry, TRACK_AT_ONCE } from '../carriers/carriers.module.js';
import { Db, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { NotHere } from '../http/problem.js';
import { Rounds, type Turn } from '../leases/leases.module.js';
import { type MailCause, Mails } from '../mails/mails.module.js';
import { troubleOnTheWay } from '../parcels/parcels.module.js';
import { event, toHistory } from '../records/records.module.js';
import { TrackedParcel } from './trackedParcel.entity.js';
import {
  askLater,
  carriersToAsk,
  labelsOfParcels,
  leftElsewhere,
  lockTracked,
  parcelsToAsk,
  wayOf,
} from './tracking.queries.js';
import { TrackingEvent } from './trackingEvent.entity.js';

const EVERY_MS = 15_000;
/** A parcel is asked after so often; where a carrier could not be asked, sooner. */
const ASK_MINUTES = { answered: 90, failed: 10 };
/** After so many days a parcel is not asked after any more. */
const LONGEST_DAYS = 90;

/** What is told of, beside the history: to the buyer by mail, and to those of the house who want to hear of trouble. */
const TOLD: Partial<Record<TrackKind, MailCause['moment']>> = {
  'out for delivery': 'on the way',
  delivered: 'delivered',
  exception: 'exception',
  'waits for the buyer': 'exception',
  'coming back': 'back',
};
const TROUBLE: readonly TrackKind[] = ['exception', 'coming back', 'back'];

/** Parcels that left, as their carriers tell of them. */
@Injectable()
export class Tracking {
  constructor(
    private readonly db: Db,
    private readonly carriers: CarrierRegistry,
    private readonly house: HouseService,
    private readonly mails: Mails,
    rounds: Rounds,
  ) {
    rounds.register({
      name: 'tracking',
      everyMs: EVERY_MS,
      leaseMs: 60_000,
      lanes: async () => (await carriersToAsk(this.db)).map(r => r.carrier),
      work: (carrier, turn) => this.ask(carrier, turn),
    });
  }

  /** Begins to follow parcels that leave. */
  async begin(tx: Tx, parcelIds: readonly string[]): Promise<void> {
    const labels = parcelIds.length === 0 ? [] : await labelsOfParcels(tx, parcelIds);
    await tx.upsert(
      TrackedParcel,
      labels.map(l => ({ labelId: l.id, leftAt: tx.at, askAt: tx.at })),
      [],
    );
  }

  /** A parcel came back through the door: that is the last of its way. */
  async back(tx: Tx, parcelId: string): Promise<void> {
    for (const { id } of await labelsOfParcels(tx, [parcelId]))
      await this.take(tx, id, null, [
        { id: 'received', at: tx.at.toISOString(), kind: 'back', says: 'Received here', place: '' },
      ]);
  }

  /** All that is known of a parcel on its way. */
  async of(parcelNo: number): Promise<TrackView> {
    const way = await wayOf(this.db, parcelNo);
    if (!way) return this.notFollowed(parcelNo);
    const events = await this.db
      .of(TrackingEvent)
      .find({ where: { labelId: way.labelId }, order: { at: 'DESC', code: 'ASC' } });
    const { state, says, since, expected, why } = way;
    const closed = await this.carriers.closedDays(this.db);
    const days = await this.house.days(this.db, new Date());
    return {
      state,
      says,
      since: since?.toISOString() ?? null,
      expected,
      why,
      trouble: troubleOnTheWay(way, days, closed),
      events: events.map(({ at, kind, says, place }) => ({ at: at.toISOString(), kind, says, place })),
    };
  }

  /** A parcel that left by a carrier that Auk does not speak with: all that is known is its number there. */
  private async notFollowed(parcelNo: number): Promise<TrackView> {
    const left = await leftElsewhere(this.db, parcelNo);
    if (!left) throw new NotHere(`The way of PA-${parcelNo}`, 'It has not left yet.');
    return {
      state: null,
      says: '',
      since: null,
      expected: null,
      trouble: null,
      events: [],
      why: `Auk does not speak with ${left.carrierName}; ask there for ${left.tracking}.`,
    };
  }

  private async ask(code: string, turn: Turn): Promise<void> {
    const carrier = await this.carriers.get(code);
    let due = await parcelsToAsk(this.db, code, TRACK_AT_ONCE);
    while (due.length > 0 && !turn.stopped()) {
      const ids = due.map(d => d.id);
      const asked = carrier ? await carrier.track(due.map(d => d.tracking!)) : null;
      if (asked?.kind !== 'answered') {
        const why = asked ? asked.why : `There is no carrier ${code} any more.`;
        await this.quietly(tx => askLater(tx, ids, ASK_MINUTES.failed, LONGEST_DAYS, why));
        return;
      }
      const told = new Map(asked.value.map(t => [t.tracking, t]));
      for (const { id, tracking } of due)
        await this.quietly(async tx => {
          await askLater(tx, [id], ASK_MINUTES.answered, LONGEST_DAYS, null);
          const t: CarrierTracked | undefined = told.get(tracking!);
          if (t) await this.take(tx, id, t.expected, t.events);
        });
      due = await parcelsToAsk(this.db, code, TRACK_AT_ONCE);
    }
  }

  private quietly(work: (tx: Tx) => Promise<unknown>): Promise<unknown> {
    return this.db.tx({ personId: null, at: new Date() }, work);
  }

  /** Keeps what was told, each event once, and says what is new of it to whom it concerns. */
  private async take(
    tx: Tx,
    labelId: string,
    expected: string | null,
    events: CarrierTracked['events'],
  ): Promise<void> {
    const order = await lockTracked(tx, labelId);
    if (!order) return;
    const known = new Set((await tx.of(TrackingEvent).findBy({ labelId })).map(e => e.code));
    const news = events.filter(e => !known.has(e.id));
    await tx.upsert(
      TrackingEvent,
      news.map(({ id: code, at, ...e }) => ({ labelId, code, at: new Date(at), ...e })),
      [],
    );
    if (expected) await tx.of(TrackedParcel).update(labelId, { expected });
    if (news.length === 0) return;
    const all = await tx.of(TrackingEvent).findBy({ labelId });
    const state = trackedState(all.map(({ at, kind, says }) => ({ at: at.toISOString(), kind, says })))!;
    const over = isOver(state.kind);
    await tx.of(TrackedParcel).update(labelId, {
      state: state.kind,
      says: state.says,
      since: new Date(state.at),
      ...(over && { askAt: null }),
    });
    if (state.kind === order.state) return;
    const says = `PA-${order.no}: ${state.kind}. ${state.says}`;
    await toHistory(tx, [event(tx, order.orderId, 'on the way', says)]);
    await tx.tell('tracking', labelId);
    const moment = TOLD[state.kind];
    const cause = `${labelId} ${state.kind}`;
    if (moment)
      await this.mails.due(tx, [{ orderId: order.orderId, moment, cause, words: { says: state.says } }]);
    if (TROUBLE.includes(state.kind)) {
      const subject = `${order.channelNumber}, PA-${order.no}: ${state.kind}`;
      await this.mails.alert(
        tx,
        'trouble',
        { id: order.orderId, channelId: order.channelId },
        cause,
        subject,
        `${says}\n\nIt stands under Parcels.`,
      );
    }
  }
}
