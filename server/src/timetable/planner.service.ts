import type { CollectionIn } from '@auk/contract';
import { type PlannableDeparture, planDeparture } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { Db, fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { Rounds } from '../leases/leases.module.js';
import { cutOffOn } from './cutOff.js';
import { Departure } from './departure.entity.js';
import { closedDays, departuresToCome, openDepartures, removeUnused, timetables } from './planner.queries.js';
import { Timetable } from './timetable.entity.js';

/** A departure as planning needs it. */
export type OpenDeparture = PlannableDeparture;

type Weekly = Awaited<ReturnType<typeof timetables>>[number];

const DAYS_AHEAD = 8;
const PLAN_EVERY_MS = 60_000;

/** Makes dated departures from the weekly timetable and plans shipments for them. */
@Injectable()
export class DeparturePlanner {
  constructor(db: Db, rounds: Rounds) {
    rounds.register({
      name: 'plan departures',
      everyMs: PLAN_EVERY_MS,
      leaseMs: PLAN_EVERY_MS,
      lanes: async () => [''],
      work: () => db.tx({ personId: null, at: new Date() }, tx => this.materialise(tx)),
    });
  }

  /** Makes sure that departures exist from `from` (or today) for eight days. Repeating changes nothing. */
  async materialise(tx: Tx, from: Date = tx.at, days = DAYS_AHEAD): Promise<void> {
    const closed = await this.makeFor(tx, await timetables(tx), from, days);
    if (closed > 0) await removeUnused(tx, 'days off');
  }

  /** Makes the departures of some collections that are not there yet; gives how many days off there are. */
  private async makeFor(tx: Tx, rows: readonly Weekly[], from: Date, days: number): Promise<number> {
    const closed = new Set((await closedDays(tx)).map(r => r.day));
    const made = rows.flatMap(r => {
      const first = DateTime.fromJSDate(from, { zone: r.zone }).startOf('day');
      const dates = Array.from({ length: days }, (_, i) => first.plus({ days: i })).filter(
        d => r.weekdays.split(',').includes(String(d.weekday)) && !closed.has(d.toISODate()!),
      );
      return dates.map(d => ({
        id: newId(),
        warehouseId: r.warehouseId,
        timetableId: r.id,
        carrier: r.carrier,
        carrierName: r.carrierName,
        name: r.name,
        day: d.toISODate()!,
        cutOff: cutOffOn(d.toISODate()!, r.cutOff, r.zone),
        services: JSON.stringify(fromJson(r.services)),
        freight: r.freight,
      }));
    });
    await tx.upsert(Departure, made, []);
    return closed.size;
  }

  /** Departures that still take parcels, soonest first. */
  async open(sql: Sql, now: Date): Promise<OpenDeparture[]> {
    const rows = await openDepartures(sql, now);
    return rows.map(r => ({ ...r, cutOff: r.cutOff.toISOString(), open: true }));
  }

  /** The departure a shipment is planned for before its label is bought. */
  plan(open: readonly OpenDeparture[], weightMg: number, now: Date): string | null {
    return planDeparture(open, weightMg, now.toISOString())?.id ?? null;
  }

  /** Keeps a collection of the week; gives its id, or null when the one that is to be changed is not there. */
  async keepCollection(
    tx: Tx,
    {
      id,
      weekdays,
      ...wish
    }: CollectionIn & Pick<Timetable, 'warehouseId' | 'carrier' | 'carrierName'> & { id: string | null },
  ): Promise<string | null> {
    const row = { ...wish, weekdays: [...new Set(weekdays)].sort().join(',') };
    if (id !== null) return (await tx.of(Timetable).update(id, row)).affected === 0 ? null : id;
    const made = newId();
    await tx.insert(Timetable, [{ id: made, ...row, services: '[]', freight: false }]);
    return made;
  }

  async dropCollection(tx: Tx, id: string): Promise<boolean> {
    return (await tx.of(Timetable).delete(id)).affected !== 0;
  }

  /** Departures of a collection that are still to come, locked. */
  toCome(tx: Tx, timetableId: string): Promise<Pick<Departure, 'id' | 'day' | 'cutOff'>[]> {
    return departuresToCome(tx, timetableId);
  }

  /** Departures to come follow a changed collection (null: it is no more): those that nothing is planned for are made anew, the others leave at the new time. */
  async follow(tx: Tx, timetableId: string, wish: CollectionIn | null): Promise<void> {
    await removeUnused(tx, { timetableId });
    if (!wish) return;
    const own = (await timetables(tx)).find(t => t.id === timetableId)!;
    for (const d of await departuresToCome(tx, timetableId)) {
      const cutOff = cutOffOn(d.day, wish.cutOff, own.zone);
      if (cutOff > tx.at) await tx.of(Departure).update(d.id, { cutOff, name: wish.name });
    }
    await this.makeFor(tx, [own], tx.at, DAYS_AHEAD);
  }

  /** A departure leaves at another time. */
  async moveCutOff(tx: Tx, id: string, cutOff: Date): Promise<void> {
    await tx.of(Departure).update(id, { cutOff });
  }

  /** Its carrier has booked the collection. */
  async booked(tx: Tx, id: string, bookedAs: string): Promise<void> {
    await tx.of(Departure).update(id, { bookedAs });
  }

  /** Its carrier has the list of what was handed over. */
  async listed(tx: Tx, id: string, manifest: string): Promise<void> {
    await tx.of(Departure).update(id, { manifest });
  }

  /** A departure is over: it has left, or it was called off. */
  async end(tx: Tx, id: string, state: 'closed' | 'cancelled', reason: string): Promise<void> {
    await tx.of(Departure).update(id, { state, closedAt: tx.at, closedBy: tx.personId, reason });
  }
}
