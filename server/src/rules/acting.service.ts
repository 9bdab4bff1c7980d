import { createHash } from 'node:crypto';
import {
  actionWords,
  type CallsIt,
  type CompiledBook,
  comparisonsOf,
  compileBook,
  type Done,
  group,
  laterWins,
  MOMENTS,
  type Moment,
  type NumberedRule,
  nextDeparture,
  type Ruled,
  type RuledTemplate,
  type RunGround,
  rulesOf,
  runBook,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { fromJson, type Tx } from '../database/db.js';
import { noteOrders, tagOrders } from '../orders/orders.module.js';
import {
  leaveWith,
  type RuledShipment,
  refreshStages,
  ruledOf,
  ruleEvent,
  ruleFor,
  setHead,
  toHistory,
} from '../records/records.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { alreadyDone, outcomesOf } from './acting.queries.js';
import type { RunningBook } from './books.service.js';
import { Dividing } from './dividing.service.js';
import type { OrderGround } from './grounds.service.js';
import { RuleDeed } from './ruleDeed.entity.js';
import { RuleOutcome } from './ruleOutcome.entity.js';
import { UnattendedBuying } from './unattended.service.js';

/** What an outcome is stored with: enough to compute it again. */
export interface StoredGround extends RunGround {
  currency: string;
  templates: Record<string, RuledTemplate>;
}

/** A book prepared for one moment, with what is kept beside each outcome. */
export interface Prepared {
  running: RunningBook;
  moment: Moment;
  compiled: CompiledBook;
  rules: ReadonlyMap<string, NumberedRule>;
  /** How services are called, where history tells of them. */
  calls: CallsIt;
}

/** One order with what the book says of it now. */
interface Ran {
  ground: OrderGround;
  ruled: Ruled;
}

export function prepared(
  running: RunningBook,
  moment: Moment,
  currency: string,
  templates: ReadonlyMap<string, RuledTemplate>,
  calls: CallsIt = (_, code) => code,
): Prepared {
  return {
    running,
    moment,
    compiled: compileBook(running.book, moment, currency, templates),
    rules: new Map(rulesOf(running.book).map(r => [r.id, r])),
    calls,
  };
}

/** Carries out what a book decides, for many orders in one transaction. The orders are locked, or made, by who asks. */
@Injectable()
export class RuleActing {
  constructor(
    private readonly planner: DeparturePlanner,
    private readonly buying: UnattendedBuying,
    private readonly dividing: Dividing,
  ) {}

  /** Runs the book on orders and does what it says; a moment that comes again decides its fields anew, and does nothing twice. */
  async run(tx: Tx, p: Prepared, grounds: readonly OrderGround[]): Promise<void> {
    const ran = grounds.map(ground => ({ ground, ruled: runBook(p.compiled, ground) }));
    const before = await outcomesOf(
      tx,
      grounds.map(g => g.orderId),
    );
    const outcomes = group(
      before.map(o => ({ ...o, ruled: fromJson<Ruled>(o.ruled) })),
      o => o.orderId,
    );
    const mine = (r: Ran) => (outcomes.get(r.ground.orderId) ?? []).find(o => o.moment === p.moment);
    // An order of which nothing is said now, and nothing was before, is left alone.
    const said = ran.filter(r => r.ruled.acted.length > 0 || r.ruled.waiting.length > 0 || mine(r));
    if (said.length === 0) return;
    const other = said.filter(r => !sameOutcome(mine(r)?.ruled, r.ruled));
    await tx.upsert(
      RuleOutcome,
      said.map(r => outcomeRow(tx, p, r)),
      ['bookNo', 'ground', 'ruled', 'at'],
    );
    await this.decided(tx, p, said, outcomes);
    await this.added(tx, p, said);
    await this.parked(tx, p, said);
    await this.bought(tx, p, said);
    await this.divided(tx, p, said);
    await toHistory(
      tx,
      other.flatMap(r => historyOf(tx, p, r)),
    );
  }

  /** Stores what counts of each field, over all moments; what a service means for the departure follows. */
  private async decided(
    tx: Tx,
    p: Prepared,
    ran: readonly Ran[],
    outcomes: ReadonlyMap<string, { moment: Moment; ruled: Ruled }[]>,
  ): Promise<void> {
    const decided = ran.map(({ ground, ruled }) => {
      const earlier = (outcomes.get(ground.orderId) ?? []).filter(o => o.moment !== p.moment);
      const all = [...earlier, { moment: p.moment, ruled }];
      const inOrder = all.sort((a, b) => MOMENTS.indexOf(a.moment) - MOMENTS.indexOf(b.moment));
      return {
        ground,
        fields: this.named(p, laterWins(inOrder.map(o => o.ruled)), ruledOf(ground.head.ruled)),
      };
    });
    const changed = decided.filter(
      d => JSON.stringify(ruledOf(d.ground.head.ruled)?.fields ?? {}) !== JSON.stringify(d.fields),
    );
    for (const alike of group(changed, d => JSON.stringify(d.fields)).values())
      await ruleFor(
        tx,
        alike.map(d => d.ground.orderId),
        { book: p.running.no, fields: alike[0]!.fields },
      );
    await this.leaving(tx, changed);
    await setStars(tx, changed);
  }

  /** Adds the number and name of each rule that decided; of a rule of an older book they stay as they were. */
  private named(p: Prepared, fields: Ruled['fields'], before: RuledShipment | null): RuledShipment['fields'] {
    return Object.fromEntries(
      Object.entries(fields).map(([field, d]) => {
        const rule = p.rules.get(d.by) ?? before?.fields[field as keyof Ruled['fields']];
        return [field, { ...d, no: rule?.no ?? 0, name: rule?.name ?? d.by }];
      }),
    );
  }

  /** Orders whose service a rule chose leave with that carrier's next departure, where no hand chose another. */
  private async leaving(
    tx: Tx,
    changed: readonly { ground: OrderGround; fields: RuledShipment['fields'] }[],
  ): Promise<void> {
    const free = changed.filter(
      ({ ground, fields }) => fields.service && !ground.head.chosen && !LABELLED.has(ground.stage),
    );
    if (free.length === 0) return;
    const open = await this.planner.open(tx, tx.at);
    for (const [carrier, orders] of group(free, d => String(d.fields.service!.value).split(' ')[0]!)) {
      const next = nextDeparture(open, carrier, tx.at.toISOString());
      if (next)
        await leaveWith(
          tx,
          orders.map(d => d.ground.orderId),
          next.id,
        );
    }
  }

  /** Tags stay; a note of a rule is written once for an order. */
  private async added(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const all = ran.flatMap(r => r.ruled.added.map(done => ({ orderId: r.ground.orderId, done })));
    const tags = all.filter(a => a.done.action.do === 'tag');
    await tagOrders(
      tx,
      tags.map(a => ({ orderId: a.orderId, tag: a.done.action.with as string })),
    );
    const notes = await this.firstTime(
      tx,
      p,
      all.filter(a => a.done.action.do !== 'tag').map(a => ({ ...a, what: deedOf(a.done) })),
    );
    await noteOrders(
      tx,
      notes.map(({ orderId, done }) => ({
        orderId,
        kind: done.action.do.slice('note '.length) as 'packer',
        text: done.action.with as string,
      })),
    );
  }

  /** Labels are bought by a job, once for an order and rule. */
  private async bought(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const wanted = ran.flatMap(({ ground, ruled }) =>
      ruled.deeds
        .filter(d => d.action.do === 'buy')
        .map(done => ({
          orderId: ground.orderId,
          done,
          what: 'buy',
          guessed: ground.facts.guessed === true,
        })),
    );
    const first = await this.firstTime(tx, p, wanted);
    await this.buying.want(
      tx,
      first.map(({ orderId, done, guessed }) => {
        const rule = p.rules.get(done.by)!;
        return {
          orderId,
          ruleId: done.by,
          actor: `book ${p.running.no}, rule ${rule.no}`,
          name: rule.name,
          guessed,
        };
      }),
    );
  }

  /** Lines become orders of their own by a job. What was split off by a rule is not split by it again. */
  private async divided(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const wanted = ran.flatMap(({ ground, ruled }) =>
      ruled.deeds
        .filter(d => d.action.do === 'own order')
        .map(done => ({ orderId: ground.orderId, done, what: deedOf(done), ground })),
    );
    const roots = wanted.flatMap(w => w.ground.head.splitOfId ?? []);
    const known = roots.length > 0 ? await alreadyDone(tx, roots) : [];
    const whole = wanted.filter(
      w =>
        !known.some(
          k => k.orderId === w.ground.head.splitOfId && k.ruleId === w.done.by && k.what === w.what,
        ),
    );
    const first = await this.firstTime(tx, p, whole);
    await this.dividing.want(
      tx,
      first.map(({ orderId, done, ground }) => {
        const rule = p.rules.get(done.by)!;
        return {
          orderId,
          actor: `book ${p.running.no}, rule ${rule.no}`,
          name: rule.name,
          lines: (done.lines ?? []).map(i => ground.keys[i]!),
        };
      }),
    );
  }

  /** An order that a person freed is not parked again by the same rule for the same facts. */
  private async parked(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const wanted = ran.flatMap(({ ground, ruled }) => {
      const park = ruled.fields.park;
      if (!park || ground.stage === 'Parked' || OVER.has(ground.stage)) return [];
      const done: Done = { by: park.by, action: { do: 'park', with: String(park.value) } };
      return [{ orderId: ground.orderId, done, what: `park ${factsRead(p.rules.get(park.by)!, ground)}` }];
    });
    const first = await this.firstTime(tx, p, wanted);
    for (const { orderId, done } of first)
      await setHead(tx, orderId, {
        parkedAt: tx.at,
        parkedReason: String(done.action.with),
        parkWord: null,
      });
    await refreshStages(
      tx,
      first.map(f => f.orderId),
    );
  }

  /** Those deeds that no run has done before; they count as done from now on. */
  private async firstTime<T extends { orderId: string; done: Done; what: string }>(
    tx: Tx,
    p: Prepared,
    deeds: readonly T[],
  ): Promise<T[]> {
    if (deeds.length === 0) return [];
    const key = (orderId: string, ruleId: string, what: string) => `${orderId} ${ruleId} ${what}`;
    const known = new Set(
      (
        await alreadyDone(
          tx,
          deeds.map(d => d.orderId),
        )
      ).map(d => key(d.orderId, d.ruleId, d.what)),
    );
    const first = deeds.filter(d => !known.has(key(d.orderId, d.done.by, d.what)));
    await tx.upsert(
      RuleDeed,
      first.map(d => ({
        orderId: d.orderId,
        ruleId: d.done.by,
        what: d.what,
        bookNo: p.running.no,
        at: tx.at,
      })),
      [],
    );
    return first;
  }
}

const LABELLED = new Set<string>(['Labelled', 'Departed', 'Cancelled']);
const OVER = new Set<string>(['Departed', 'Cancelled']);

const mark = (of: unknown): string =>
  createHash('sha1').update(JSON.stringify(of)).digest('hex').slice(0, 40);
const deedOf = ({ action }: Done): string => `${action.do} ${mark(action.with ?? null)}`;

/** A mark of the facts that a rule looks at. */
const factsRead = (rule: NumberedRule, ground: RunGround): string =>
  mark(comparisonsOf(rule.when).map(c => [c.field, ground.facts[c.field as keyof RunGround['facts']]]));

const sameOutcome = (a: Ruled | undefined, b: Ruled): boolean =>
  a !== undefined &&
  JSON.stringify([a.acted, a.fields, a.added]) === JSON.stringify([b.acted, b.fields, b.added]);

function outcomeRow(tx: Tx, p: Prepared, { ground, ruled }: Ran) {
  const { facts, lines, offers, promised } = ground;
  const stored: StoredGround = {
    facts,
    lines,
    offers,
    promised,
    currency: p.compiled.currency,
    templates: Object.fromEntries(p.compiled.templates),
  };
  return {
    orderId: ground.orderId,
    moment: p.moment,
    bookNo: p.running.no,
    ground: JSON.stringify(stored),
    ruled: JSON.stringify(ruled),
    at: tx.at,
  };
}

/** A row for each rule that acted, under its own name. */
function historyOf(tx: Tx, p: Prepared, { ground, ruled }: Ran) {
  return ruled.acted.flatMap(id => {
    const rule = p.rules.get(id)!;
    if (rule.do.length === 0) return [];
    const does = rule.do.map(a => actionWords(a, p.calls)).join(', ');
    return [ruleEvent(tx, ground.orderId, `book ${p.running.no}, rule ${rule.no}`, `${rule.name}: ${does}.`)];
  });
}

/** What is to go first is starred; a star that a person took off is put back only by another decision. */
async function setStars(
  tx: Tx,
  changed: readonly { ground: OrderGround; fields: RuledShipment['fields'] }[],
): Promise<void> {
  for (const { ground, fields } of changed)
    if (fields.first && !ruledOf(ground.head.ruled)?.fields.first)
      await setHead(tx, ground.orderId, { starred: true }, 'quietly');
}
