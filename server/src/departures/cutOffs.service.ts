import type { FollowsView } from '@auk/contract';
import { arrivesInstead, nextDeparture } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { leavesAgain, lockOrders } from '../records/records.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { departureByNo, lockDeparture, ordersLeavingWith, ordersToFollow } from './handover.queries.js';

/** A truck that comes a day later is another collection. */
const LONGEST_MS = 24 * 3_600_000;

/** Cut-offs that the lead moves, and what follows of it, or of a collection that is called off, for each order. */
@Injectable()
export class CutOffs {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly carriers: CarrierRegistry,
    private readonly planner: DeparturePlanner,
  ) {}

  /** What would follow when the cut-off were moved; without one, when the collection did not come. */
  async follows(no: number, cutOff: Date | null, now: Date): Promise<FollowsView> {
    const departure = await departureByNo(this.db, no);
    if (!departure) throw new NotHere(`The departure DE-${no}`);
    const leaves = cutOff ?? (await this.nextOf(this.db, departure, now));
    const closed = await this.carriers.closedDays(this.db);
    const dayOf = (at: Date) => this.house.today(this.db, at);
    const [before, then] = [await dayOf(departure.cutOff), leaves && (await dayOf(leaves))];
    const orders = await ordersToFollow(this.db, departure.id);
    return {
      leaves: leaves?.toISOString() ?? null,
      orders: orders.map(o => {
        const wouldArrive =
          o.arrives && then ? arrivesInstead({ leaves: before, arrives: o.arrives }, then, { closed }) : null;
        const latest = wouldArrive ?? then;
        return {
          id: o.id,
          channelNumber: o.channelNumber,
          stage: o.stage,
          labelled: o.arrives !== null,
          promised: o.promised,
          arrives: o.arrives,
          wouldArrive,
          late: o.promised !== null && (latest === null || latest > o.promised),
        };
      }),
    };
  }

  /** Moves the cut-off of an open departure; its orders leave at the new time. */
  async move(no: number, cutOff: Date, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const departure = await lockDeparture(tx, no);
      if (!departure) throw new NotHere(`The departure DE-${no}`);
      if (departure.state !== 'open')
        throw new Forbidden(`DE-${no} is ${departure.state}.`, 'Choose a departure that is still open.');
      if (cutOff <= tx.at)
        throw new Forbidden('That time is past already.', 'Choose a time that is still to come.');
      if (Math.abs(cutOff.getTime() - departure.cutOff.getTime()) > LONGEST_MS)
        throw new Forbidden(
          'That is more than a day away.',
          'Cancel this collection; what it would have taken waits for the next.',
        );
      await lockOrders(
        tx,
        (await ordersLeavingWith(tx, [departure.id])).map(o => o.id),
      );
      await this.planner.moveCutOff(tx, departure.id, cutOff);
      await leavesAgain(tx, [departure.id]);
      await tx.tell('departures', departure.id);
      await tx.tell('orders', '');
    });
  }

  private async nextOf(
    sql: Sql,
    departure: { id: string; carrier: string },
    now: Date,
  ): Promise<Date | null> {
    const open = (await this.planner.open(sql, now)).filter(d => d.id !== departure.id);
    const next = nextDeparture(open, departure.carrier, now.toISOString());
    return next && new Date(next.cutOff);
  }
}
