import type { OrderWhyView } from '@auk/contract';
import {
  actionWords,
  DECIDED,
  DECIDED_WORDS,
  type DecidedField,
  did,
  type LayerSays,
  MOMENTS,
  type NumberedRule,
  outcomeDifference,
  type Ruled,
  rulesOf,
  runBook,
  whatCounts,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { ruledOf, wantedOf } from '../records/records.module.js';
import { outcomesOf } from './acting.queries.js';
import { RuleBooks } from './books.service.js';
import { type OrderGround, RuleGrounds } from './grounds.service.js';
import { momentsBefore } from './moments.service.js';
import { RuleNames } from './names.service.js';
import { prepared } from './prepared.js';
import { valueWords } from './words.js';

/** Why an order has its service, box and the rest: whose word counts, what it went over, and what the book of now would do. */
@Injectable()
export class RuleWhy {
  constructor(
    private readonly db: Db,
    private readonly books: RuleBooks,
    private readonly grounds: RuleGrounds,
    private readonly names: RuleNames,
  ) {}

  async of(orderId: string, now: Date): Promise<OrderWhyView> {
    const [ground] = await this.grounds.of(this.db, [orderId], now, true);
    if (!ground) throw new NotHere('This order');
    const currency = await this.grounds.currency(this.db);
    const called = new Map((await this.names.services(this.db)).map(s => [s.code, s.name]));
    const runs = await this.runs(orderId);
    const names = new Map(runs.flatMap(r => r.acted.map(a => [a.rule, `rule ${a.no} “${a.name}”`] as const)));
    return {
      fields: DECIDED.flatMap(field => this.field(field, ground, currency, called, names) ?? []),
      runs,
      now: await this.otherwise(orderId, ground, currency, called),
      book: (await this.books.running(this.db)).no,
    };
  }

  /** Everybody who says something of a field, and who counts. */
  private field(
    field: DecidedField,
    { head, prefers }: OrderGround,
    currency: string,
    called: ReadonlyMap<string, string>,
    names: ReadonlyMap<string, string>,
  ): OrderWhyView['fields'][number] | null {
    const ruled = ruledOf(head.ruled);
    const rule = ruled?.fields[field];
    const hand = wantedOf({ chosen: head.chosen, ruled: null });
    const says: LayerSays<string>[] = [];
    const words = (value: string | number | boolean) => valueWords(field, value, currency, called);
    // Products that prefer two things prefer none, as at the bench.
    const [preferred, other] = prefers.filter(p => p.field === field);
    if (preferred && !other)
      says.push({ layer: 'product', value: words(preferred.value), by: `${preferred.by} prefers it` });
    if (rule)
      says.push({
        layer: 'rule',
        value: words(rule.value),
        by: `book ${ruled!.book}, rule ${rule.no} “${rule.name}”`,
      });
    const byHand = handSays(field, hand, words);
    if (byHand !== null) says.push({ layer: 'hand', value: byHand, by: 'chosen by hand' });
    const counts = whatCounts(says);
    return (
      counts && {
        field,
        words: DECIDED_WORDS[field],
        value: counts.value,
        from: counts.layer,
        by: counts.by,
        over: [
          ...counts.over.map(({ value, by }) => ({ value, by })),
          ...(rule?.over ?? []).map(id => ({ value: '', by: names.get(id) ?? id })).reverse(),
        ],
      }
    );
  }

  /** What the book decided at each moment, by the rules of the version that ran. */
  private async runs(orderId: string): Promise<OrderWhyView['runs']> {
    const rows = await outcomesOf(this.db, [orderId]);
    const inOrder = rows.sort((a, b) => MOMENTS.indexOf(a.moment) - MOMENTS.indexOf(b.moment));
    const runs: OrderWhyView['runs'] = [];
    for (const row of inOrder) {
      const { book } = await this.books.version(this.db, row.bookNo);
      const ruled = fromJson<Ruled>(row.ruled);
      runs.push({
        moment: row.moment,
        book: row.bookNo,
        at: row.at.toISOString(),
        acted: rulesOf(book)
          .filter(r => did(r, ruled))
          .map(actedRow),
        stoppedBy: ruled.stoppedBy,
        waiting: [...ruled.waiting],
      });
    }
    return runs;
  }

  /** What the book that runs now would decide otherwise for the order as it is now. */
  private async otherwise(
    orderId: string,
    ground: OrderGround,
    currency: string,
    called: ReadonlyMap<string, string>,
  ): Promise<string[]> {
    const running = await this.books.running(this.db);
    const templates = await this.grounds.templatesByName(this.db);
    const stored = new Map(
      (await outcomesOf(this.db, [orderId])).map(o => [o.moment, fromJson<Ruled>(o.ruled)]),
    );
    return momentsBefore(ground.stage).flatMap(moment => {
      const ran = runBook(prepared(running, moment, { currency, templates }).compiled, ground);
      // What was split off, or is sent elsewhere, is not divided again.
      const whole = ground.head.splitOfId === null && ground.stage !== 'Elsewhere';
      const now = whole ? ran : { ...ran, deeds: ran.deeds.filter(d => d.lines === undefined) };
      const before = stored.get(moment) ?? NOTHING;
      const { fields, more } = outcomeDifference(before, now);
      return [
        ...fields.map(f =>
          f.after
            ? `${DECIDED_WORDS[f.field]}: ${valueWords(f.field, f.after.value, currency, called)}`
            : `${DECIDED_WORDS[f.field]}: nothing any more`,
        ),
        ...more,
      ];
    });
  }
}

const NOTHING: Ruled = { fields: {}, added: [], deeds: [], acted: [], stoppedBy: null, waiting: [] };

const actedRow = ({ id, no, name, do: does }: NumberedRule) => ({
  rule: id,
  no,
  name,
  does: does.map(a => actionWords(a)),
});

/** What a hand says of a field, in words; null when nothing. */
function handSays(
  field: DecidedField,
  { service, boxes, options }: ReturnType<typeof wantedOf>,
  words: (value: string) => string,
): string | null {
  if (field === 'service' && service)
    return words([service.carrier, service.service, ...(service.account ? [service.account] : [])].join(' '));
  if (field === 'box' && boxes.length > 0) return boxes.join(', ');
  if (field === 'signature' && options.signature !== undefined) return options.signature ? 'yes' : 'no';
  return null;
}
