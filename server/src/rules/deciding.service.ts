import { group, laterWins, MOMENTS, nextDeparture, type Ruled } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import { leaveWith, type RuledShipment, ruledOf, ruleFor, setHead } from '../records/records.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import type { OutcomeOf } from './acting.queries.js';
import type { OrderGround } from './grounds.service.js';
import type { Prepared, Ran } from './prepared.js';

/** What counts of an order by all moments so far, and what it was before. */
interface Decided {
  ground: OrderGround;
  now: Required<Pick<RuledShipment, 'fields' | 'apart'>>;
  before: RuledShipment | null;
}

/** Stores what counts of each field, over all moments and buttons; what a service means for the departure follows. */
@Injectable()
export class Deciding {
  constructor(private readonly planner: DeparturePlanner) {}

  /** `earlier` are the outcomes of the orders at all other moments and buttons. */
  async store(
    tx: Tx,
    p: Prepared,
    ran: readonly Ran[],
    earlier: ReadonlyMap<string, OutcomeOf[]>,
  ): Promise<void> {
    const changed = ran
      .map((r): Decided => this.decided(p, r, earlier.get(r.ground.orderId) ?? []))
      .filter(d => mark(d.now) !== mark({ fields: d.before?.fields ?? {}, apart: d.before?.apart ?? [] }));
    for (const alike of group(changed, d => mark(d.now)).values())
      await ruleFor(
        tx,
        alike.map(d => d.ground.orderId),
        { book: p.running.no, ...alike[0]!.now },
      );
    await this.leaving(tx, changed);
    await setStars(tx, changed);
  }

  private decided(p: Prepared, { ground, ruled }: Ran, earlier: readonly OutcomeOf[]): Decided {
    const all = [...earlier, { moment: p.moment, at: LAST, ruled }].sort(inTime).map(o => o.ruled);
    const before = ruledOf(ground.head.ruled);
    const apart = all.flatMap(r => apartIn(r, ground));
    return {
      ground,
      before,
      now: { fields: named(p, laterWins(all), before), apart: [...new Set(apart)].sort() },
    };
  }

  /** Orders whose service a rule chose leave with that carrier's next departure, where no hand chose another. */
  private async leaving(tx: Tx, changed: readonly Decided[]): Promise<void> {
    const free = changed.filter(
      ({ ground, now }) => now.fields.service && !ground.head.chosen && !LABELLED.has(ground.stage),
    );
    if (free.length === 0) return;
    const open = await this.planner.open(tx, tx.at);
    const carrierOf = (d: Decided) => String(d.now.fields.service!.value).split(' ')[0]!;
    for (const [carrier, orders] of group(free, carrierOf)) {
      const next = nextDeparture(open, carrier, tx.at.toISOString());
      if (next)
        await leaveWith(
          tx,
          orders.map(d => d.ground.orderId),
          next.id,
        );
    }
  }
}

const LABELLED = new Set<string>(['Labelled', 'Departed', 'Cancelled']);
/** The outcome of now comes after all that are stored. */
const LAST = new Date(8.64e15);

/** Moments in their order; buttons, which come last, as they were pressed. */
const inTime = (a: Pick<OutcomeOf, 'moment' | 'at'>, b: Pick<OutcomeOf, 'moment' | 'at'>): number =>
  MOMENTS.indexOf(a.moment) - MOMENTS.indexOf(b.moment) || a.at.getTime() - b.at.getTime();

const mark = ({ fields, apart }: Decided['now']): string => JSON.stringify([fields, apart]);

/** Keys of the lines that an outcome gives parcels of their own. */
const apartIn = (ruled: Ruled, { keys }: OrderGround): string[] =>
  ruled.deeds
    .filter(d => d.action.do === 'own parcel')
    .flatMap(d => d.lines ?? [])
    .flatMap(i => keys[i]?.key ?? []);

/** Adds the number and name of each rule that decided; of a rule of an older book they stay as they were. */
const named = (p: Prepared, fields: Ruled['fields'], before: RuledShipment | null): RuledShipment['fields'] =>
  Object.fromEntries(
    Object.entries(fields).map(([field, d]) => {
      const rule = p.rules.get(d.by) ?? before?.fields[field as keyof Ruled['fields']];
      return [field, { ...d, no: rule?.no ?? 0, name: rule?.name ?? d.by }];
    }),
  );

/** What is to go first is starred; a star that a person took off is put back only by another decision. */
async function setStars(tx: Tx, changed: readonly Decided[]): Promise<void> {
  for (const { ground, now, before } of changed)
    if (now.fields.first && !before?.fields.first)
      await setHead(tx, ground.orderId, { starred: true }, 'quietly');
}
