import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Busy, Forbidden, NotHere } from '../http/problem.js';
import { JobsService } from '../jobs/jobs.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { loadOf, lockDeparture, trackingsOf } from './handover.queries.js';

const KIND = 'end of day';
/** A carrier may be away over a weekend; after this a person is asked. */
const TRY_HOURS = 72;

/** Collections that are booked at a carrier, and the list of what was handed over that it is told at the end. */
@Injectable()
export class Collecting {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
    private readonly carriers: CarrierRegistry,
    private readonly planner: DeparturePlanner,
    private readonly jobs: JobsService,
  ) {
    jobs.register<{ departureId: string; no: number; carrier: string; at: string }>({
      kind: KIND,
      tryHours: TRY_HOURS,
      work: job => this.end(job.payload),
    });
  }

  /** Books the collection; asked twice, or with an answer that was lost, it is booked once. */
  async book(no: number, doer: Doer): Promise<void> {
    const departure = await this.db.tx(doer, tx => this.open(tx, no));
    if (departure.bookedAs) return;
    const carrier = await this.carriers.get(departure.carrier);
    if (!carrier) throw new NotHere(`The carrier ${departure.carrier}`, 'Connect it under Setup > Carriers.');
    const { postcode, country } = await this.house.warehouse(this.db);
    const load = (await loadOf(this.db, departure.id))!;
    const readyBy = departure.cutOff.toISOString();
    const asked = await carrier.collect({
      key: departure.id,
      account: '',
      postcode,
      country,
      readyBy,
      ...load,
    });
    if (asked.kind === 'refused')
      throw new Forbidden(asked.why, 'Ask the carrier, or take the parcels there.');
    if (asked.kind === 'silent')
      throw new Busy(asked.why, 'Press again: what was booked already is not booked twice.');
    await this.db.tx(doer, async tx => {
      await this.open(tx, no);
      await this.planner.booked(tx, departure.id, asked.value.reference);
      await tx.tell('departures', departure.id);
    });
  }

  /** Sees to it that the carrier is told what left with a departure. */
  async endSoon(tx: Tx, { id, no, carrier }: { id: string; no: number; carrier: string }): Promise<void> {
    const payload = { departureId: id, no, carrier, at: tx.at.toISOString() };
    await this.jobs.add(tx, [{ kind: KIND, lane: `day ${carrier}`, payload, subjectId: id }]);
  }

  private async end({
    departureId,
    no,
    carrier: code,
    at,
  }: {
    departureId: string;
    no: number;
    carrier: string;
    at: string;
  }) {
    const carrier = await this.carriers.get(code);
    // What goes with a carrier that Auk does not speak with is told to it on paper.
    if (!carrier) return;
    const trackings = (await trackingsOf(this.db, departureId)).map(t => t.tracking);
    if (trackings.length === 0) return;
    const asked = await carrier.endDay({ key: departureId, at, trackings });
    if (asked.kind !== 'answered') throw new Error(asked.why);
    const { manifest, unknown } = asked.value;
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await this.planner.listed(tx, departureId, manifest);
      await tx.tell('departures', departureId);
    });
    if (unknown.length > 0)
      throw new Error(
        `${carrier.name} took DE-${no} over as ${manifest}, and says that it never sold ${unknown.slice(0, 6).join(', ')}.`,
      );
  }

  private async open(tx: Tx, no: number) {
    const departure = await lockDeparture(tx, no);
    if (!departure) throw new NotHere(`The departure DE-${no}`);
    if (departure.state !== 'open')
      throw new Forbidden(`DE-${no} is ${departure.state}.`, 'Choose a departure that is still open.');
    return departure;
  }
}
