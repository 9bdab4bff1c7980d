import { type PlannableDeparture, planDeparture } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { Db, fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { Rounds } from '../leases/leases.module.js';
import { Departure } from './departure.entity.js';
import { openDepartures, timetables } from './planner.queries.js';

/** A departure as planning needs it. */
export type OpenDeparture = PlannableDeparture;

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
    const rows = await timetables(tx);
    const made = rows.flatMap(r => {
      const first = DateTime.fromJSDate(from, { zone: r.zone }).startOf('day');
      const dates = Array.from({ length: days }, (_, i) => first.plus({ days: i })).filter(d =>
        r.weekdays.split(',').includes(String(d.weekday)),
      );
      const [hour, minute] = r.cutOff.split(':').map(Number);
      return dates.map(d => ({
        id: newId(),
        warehouseId: r.warehouseId,
        timetableId: r.id,
        carrier: r.carrier,
        carrierName: r.carrierName,
        name: r.name,
        day: d.toISODate()!,
        cutOff: d.set({ hour: hour!, minute: minute! }).toUTC().toJSDate(),
        services: JSON.stringify(fromJson(r.services)),
        freight: r.freight,
      }));
    });
    await tx.upsert(Departure, made, []);
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

  /** A departure is over: it has left, or it was called off. */
  async end(tx: Tx, id: string, state: 'closed' | 'cancelled', reason: string): Promise<void> {
    await tx.of(Departure).update(id, { state, closedAt: tx.at, closedBy: tx.personId, reason });
  }
}
