import { createHash } from 'node:crypto';
import {
  type ActionName,
  comparisonsOf,
  type Done,
  group,
  type NumberedRule,
  type RunGround,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import { Centers } from '../elsewhere/elsewhere.module.js';
import { Mails } from '../mails/mails.module.js';
import { noteOrders, tagOrders } from '../orders/orders.module.js';
import { refreshStages, setHead } from '../records/records.module.js';
import { alreadyDone } from './acting.queries.js';
import { Dividing, type WantedSplit } from './dividing.service.js';
import type { OrderGround } from './grounds.service.js';
import { actorOf, type Prepared, type Ran } from './prepared.js';
import { RuleDeed } from './ruleDeed.entity.js';
import { UnattendedBuying } from './unattended.service.js';

/** A deed of a rule for an order; `what` tells it from other deeds of that rule. */
interface Deed {
  orderId: string;
  done: Done;
  what: string;
  ground: OrderGround;
}

/** What rules do once for each order: tags, notes, parks, purchases, orders of their own. */
@Injectable()
export class Deeds {
  constructor(
    private readonly buying: UnattendedBuying,
    private readonly dividing: Dividing,
    private readonly centers: Centers,
    private readonly mails: Mails,
  ) {}

  async do(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    await this.added(tx, p, ran);
    await this.mailed(tx, p, ran);
    await this.parked(tx, p, ran);
    await this.bought(tx, p, ran);
    await this.divided(tx, p, ran);
    await this.routed(tx, p, ran);
    await this.centered(tx, p, ran);
  }

  /** Tags stay; a note of a rule is written once for an order. */
  private async added(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const all = ran.flatMap(({ ground, ruled }) =>
      ruled.added.map(done => ({ orderId: ground.orderId, ground, done, what: deedOf(done) })),
    );
    await tagOrders(
      tx,
      all
        .filter(a => a.done.action.do === 'tag')
        .map(a => ({ orderId: a.orderId, tag: a.done.action.with as string })),
    );
    const notes = await this.firstTime(
      tx,
      p,
      all.filter(a => a.done.action.do !== 'tag'),
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

  /** Mails to the buyer: one for each order, template and moment, whatever rules want it. */
  private async mailed(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const first = await this.firstTime(tx, p, deedsOf(ran, 'mail'));
    await this.mails.due(
      tx,
      first.map(({ orderId, done }) => {
        const template = done.action.with as string;
        const cause = `${orderId} ${p.moment} ${mark(template).slice(0, 20)}`;
        return { orderId, moment: 'rule' as const, template, cause };
      }),
    );
  }

  /** Labels are bought by a job, once for an order and rule. */
  private async bought(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const wanted = deedsOf(ran, 'buy').map(d => ({ ...d, what: 'buy' }));
    const first = await this.firstTime(tx, p, wanted);
    await this.buying.want(
      tx,
      first.map(({ orderId, done, ground }) => ({
        orderId,
        ruleId: done.by,
        actor: actorOf(p, done.by),
        name: p.rules.get(done.by)!.name,
        guessed: ground.facts.guessed === true,
        ahead: p.moment !== 'packed',
      })),
    );
  }

  /** Lines become orders of their own by a job. What was split off by a rule is not split by it again. */
  private async divided(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const whole = await this.notOfParents(tx, deedsOf(ran, 'own order'));
    const first = await this.firstTime(tx, p, whole);
    await this.dividing.want(
      tx,
      first.map(d => splitOf(p, d, d.done.lines ?? [])),
    );
  }

  /** Lines that a fulfillment center is to send: the first that is connected. */
  private async centered(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const wanted = await this.notOfParents(tx, deedsOf(ran, 'center'));
    const [center] = wanted.length > 0 ? await this.centers.list(tx) : [];
    if (!center) return;
    const first = await this.firstTime(tx, p, wanted);
    await this.dividing.want(
      tx,
      first.map(d => ({ ...splitOf(p, d, d.done.lines ?? []), to: { center: center.name } })),
    );
  }

  /** Lines that a supplier is to send, by the supplier that each product names; those that name none stay. */
  private async routed(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const first = await this.firstTime(tx, p, await this.notOfParents(tx, deedsOf(ran, 'supplier')));
    await this.dividing.want(
      tx,
      first.flatMap(d => {
        const named = (d.done.lines ?? []).flatMap(line => {
          const { supplier } = d.ground.lines[line]!;
          return typeof supplier === 'string' ? [{ supplier, line }] : [];
        });
        return [...group(named, n => n.supplier)].map(([supplier, of]) => ({
          ...splitOf(
            p,
            d,
            of.map(n => n.line),
          ),
          to: { supplier },
        }));
      }),
    );
  }

  /** Deeds that were not done before to the order from which theirs was split off. */
  private async notOfParents(tx: Tx, deeds: readonly Deed[]): Promise<Deed[]> {
    const parents = deeds.flatMap(d => d.ground.head.splitOfId ?? []);
    const known = new Set((parents.length > 0 ? await alreadyDone(tx, parents) : []).map(keyOf));
    return deeds.filter(
      d => !known.has(keyOf({ orderId: d.ground.head.splitOfId ?? '', ruleId: d.done.by, what: d.what })),
    );
  }

  /** An order that a person freed is not parked again by the same rule for the same facts; by a button it is. */
  private async parked(tx: Tx, p: Prepared, ran: readonly Ran[]): Promise<void> {
    const wanted = ran.flatMap(({ ground, ruled }): Deed[] => {
      const park = ruled.fields.park;
      if (!park || ground.stage === 'Parked' || OVER.has(ground.stage)) return [];
      const done: Done = { by: park.by, action: { do: 'park', with: String(park.value) } };
      const what = `park ${factsRead(p.rules.get(park.by)!, ground)}`;
      return [{ orderId: ground.orderId, ground, done, what }];
    });
    // Who presses a button wants it now, whatever was before.
    const first = p.button === '' ? await this.firstTime(tx, p, wanted) : wanted;
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
  private async firstTime(tx: Tx, p: Prepared, deeds: readonly Deed[]): Promise<Deed[]> {
    if (deeds.length === 0) return [];
    const known = await alreadyDone(
      tx,
      deeds.map(d => d.orderId),
    );
    const done = new Set(known.map(keyOf));
    const first = deeds.filter(d => !done.has(keyOf({ ...d, ruleId: d.done.by })));
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

/** Lines of an order, by their places, that a rule wants apart. */
const splitOf = (p: Prepared, { orderId, done, ground }: Deed, lines: readonly number[]): WantedSplit => ({
  orderId,
  actor: actorOf(p, done.by),
  name: p.rules.get(done.by)!.name,
  lines: lines.map(i => ground.keys[i]!),
});

const OVER = new Set<string>(['Departed', 'Cancelled']);

const keyOf = ({ orderId, ruleId, what }: Pick<RuleDeed, 'orderId' | 'ruleId' | 'what'>): string =>
  `${orderId} ${ruleId} ${what}`;

const deedsOf = (ran: readonly Ran[], action: ActionName): Deed[] =>
  ran.flatMap(({ ground, ruled }) =>
    ruled.deeds
      .filter(d => d.action.do === action)
      .map(done => ({ orderId: ground.orderId, ground, done, what: deedOf(done) })),
  );

const mark = (of: unknown): string =>
  createHash('sha1').update(JSON.stringify(of)).digest('hex').slice(0, 40);
const deedOf = ({ action }: Done): string => `${action.do} ${mark(action.with ?? null)}`;

/** A mark of the facts that a rule looks at. */
const factsRead = (rule: NumberedRule, ground: RunGround): string =>
  mark(comparisonsOf(rule.when).map(c => [c.field, ground.facts[c.field as keyof RunGround['facts']]]));
