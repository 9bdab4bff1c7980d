import type { DryRunAsk, DryRunView } from '@auk/contract';
import {
  DECIDED_WORDS,
  did,
  EMPTY_BOOK,
  type FieldDifference,
  laterWins,
  type Moment,
  type NumberedRule,
  outcomeDifference,
  type RuleBook,
  type Ruled,
  type RuledTemplate,
  rulesOf,
  runBook,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, fromJson, isDuplicate, type Sql } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { JobsService, type JobTurn } from '../jobs/jobs.module.js';
import { lastOrders, openOrders } from './books.queries.js';
import { RuleBooks } from './books.service.js';
import { DryRun } from './dryRun.entity.js';
import { forgetDryRuns } from './dryRuns.queries.js';
import { type OrderGround, RuleGrounds } from './grounds.service.js';
import { momentsBefore } from './moments.service.js';
import { RuleNames } from './names.service.js';
import { prepared } from './prepared.js';
import { valueWords } from './words.js';

const KIND = 'dry run';
const PORTION = 500;
/** Orders that are tried at most, and of those that change how many are listed one by one. */
const MOST = 10_000;
const LISTED = 300;
const KEPT_HOURS = 48;

type Result = NonNullable<DryRunView['result']>;
type ResultRow = Result['rows'][number];

/** Tries a book on real orders. It reads and computes and writes only how far it is: no order, no carrier and nobody else hears of it. */
@Injectable()
export class DryRuns {
  constructor(
    private readonly db: Db,
    private readonly books: RuleBooks,
    private readonly grounds: RuleGrounds,
    private readonly names: RuleNames,
    private readonly jobs: JobsService,
  ) {
    jobs.register({
      kind: KIND,
      tryHours: 1,
      work: async (job, turn) => {
        await this.work(job.subjectId!, turn);
      },
    });
  }

  /** Has a book tried; asked twice under one id it is one dry run. */
  async ask({ id, ...question }: DryRunAsk, doer: Doer): Promise<DryRunView> {
    try {
      await this.db.tx(doer, async tx => {
        await forgetDryRuns(tx, KEPT_HOURS);
        await tx.insert(DryRun, [
          { id, question: JSON.stringify(question), at: tx.at, personId: tx.personId },
        ]);
        await this.jobs.add(tx, [{ kind: KIND, lane: `dry run ${id}`, payload: {}, subjectId: id }]);
      });
    } catch (error) {
      if (!isDuplicate(error)) throw error;
    }
    this.jobs.soon();
    return this.view(id);
  }

  async view(id: string): Promise<DryRunView> {
    const row = await this.db.of(DryRun).findOneBy({ id });
    if (!row) throw new NotHere('That dry run', 'Try the book again.');
    const { state, done, total, says } = row;
    return { id, state, done, total, says, result: row.result ? fromJson<Result>(row.result) : null };
  }

  /** Ends a dry run where it is; what was found so far is shown. */
  async stop(id: string): Promise<DryRunView> {
    await this.db.of(DryRun).update({ id }, { stopAsked: true });
    return this.view(id);
  }

  private async work(id: string, turn: JobTurn): Promise<void> {
    const row = await this.db.of(DryRun).findOneBy({ id });
    if (!row || row.state === 'done' || row.state === 'stopped') return;
    const question = fromJson<Omit<DryRunAsk, 'id'>>(row.question);
    const ids = await this.orders(this.db, question.on);
    await this.db.of(DryRun).update(id, { state: 'running', total: ids.length, done: 0 });
    const trial = await this.trial(question);
    for (let i = 0; i < ids.length; i += PORTION) {
      if (turn.stopped()) turn.later();
      if (await this.db.of(DryRun).existsBy({ id, stopAsked: true })) break;
      const grounds = await this.grounds.of(this.db, ids.slice(i, i + PORTION), row.at, true);
      for (const ground of grounds) trial.of(ground);
      await this.db.of(DryRun).update(id, { done: Math.min(i + PORTION, ids.length) });
    }
    const { stopAsked } = await this.db.of(DryRun).findOneByOrFail({ id });
    const result = trial.result();
    await this.db.tx({ personId: row.personId, at: new Date() }, async tx => {
      await turn.within(tx);
      await tx.of(DryRun).update(id, { state: stopAsked ? 'stopped' : 'done', result: result as never });
      await tx.tell('rules', id);
    });
  }

  private async orders(sql: Sql, on: DryRunAsk['on']): Promise<string[]> {
    if ('ids' in on) return on.ids;
    const rows = 'open' in on ? await openOrders(sql, MOST) : await lastOrders(sql, on.last);
    return rows.map(r => r.id);
  }

  private async trial(question: Omit<DryRunAsk, 'id'>): Promise<Trial> {
    const { book: now } = await this.books.running(this.db);
    const currency = await this.grounds.currency(this.db);
    const templates = await this.grounds.templatesByName(this.db);
    const { book: asked, rule } = question;
    if (rule !== null && !rulesOf(asked).some(r => r.id === rule))
      throw new Forbidden('The rule that is to be tried is not in the book.', 'Choose one of its rules.');
    const [before, after] = rule === null ? [now, asked] : [EMPTY_BOOK, only(asked, rule)];
    const called = new Map((await this.names.services(this.db)).map(s => [s.code, s.name]));
    return new Trial(before, after, currency, templates, called);
  }
}

/** A book with one rule alone. */
const only = (book: RuleBook, id: string): RuleBook => ({
  rows: rulesOf(book)
    .filter(r => r.id === id)
    .map(({ no: _, runs: __, group: ___, ...rule }) => ({ ...rule, on: true })),
});

/** Counts what two books make of orders, one order after another. */
class Trial {
  private readonly rows: ResultRow[] = [];
  private readonly acted = new Map<string, { acted: number; decided: number }>();
  private readonly numbers: ReadonlyMap<string, string>;
  private readonly rules: ReadonlyMap<string, NumberedRule>;
  private readonly sums = { before: 0, after: 0, unpriced: 0, orders: 0, changed: 0 };
  private readonly runs = new Map<Moment, (g: OrderGround) => { before: Ruled; after: Ruled }>();

  constructor(
    private readonly before: RuleBook,
    private readonly after: RuleBook,
    private readonly currency: string,
    private readonly templates: ReadonlyMap<string, RuledTemplate>,
    private readonly called: ReadonlyMap<string, string>,
  ) {
    this.rules = new Map(rulesOf(after).map(r => [r.id, r]));
    this.numbers = new Map(rulesOf(after).map(r => [r.id, `rule ${r.no} “${r.name}”`]));
    for (const r of rulesOf(after)) if (r.runs) this.acted.set(r.id, { acted: 0, decided: 0 });
  }

  of(ground: OrderGround): void {
    const outcomes = momentsBefore(ground.stage).map(m => this.runner(m)(ground));
    const [before, after] = [outcomes.map(o => o.before), outcomes.map(o => o.after)];
    for (const o of after)
      for (const id of o.acted) {
        const n = this.acted.get(id);
        if (n && did(this.rules.get(id)!, o)) n.acted++;
      }
    const [was, is] = [merged(before), merged(after)];
    for (const d of Object.values(is.fields)) {
      const n = this.acted.get(d.by);
      if (n) n.decided++;
    }
    this.count(ground, was, is);
  }

  private runner(moment: Moment) {
    const known = this.runs.get(moment);
    if (known) return known;
    const [a, b] = [this.before, this.after].map(
      book =>
        prepared({ no: 0, book }, moment, { currency: this.currency, templates: this.templates }).compiled,
    );
    const run = (g: OrderGround) => ({ before: runBook(a!, g), after: runBook(b!, g) });
    this.runs.set(moment, run);
    return run;
  }

  private count(ground: OrderGround, was: Ruled, is: Ruled): void {
    const { fields, more, less } = outcomeDifference(was, is);
    const cost = (r: Ruled) => costOf(ground, r);
    const [costBeforeMinor, costAfterMinor] = [cost(was), cost(is)];
    const { sums } = this;
    sums.orders++;
    if (costBeforeMinor === null || costAfterMinor === null) sums.unpriced++;
    else {
      sums.before += costBeforeMinor;
      sums.after += costAfterMinor;
    }
    if (fields.length + more.length + less.length === 0) return;
    sums.changed++;
    this.rows.push({
      id: ground.orderId,
      number: ground.number,
      buyer: ground.buyer,
      fields: fields.map(f => this.fieldRow(f)),
      more,
      less,
      costBeforeMinor,
      costAfterMinor,
    });
  }

  private fieldRow({ field, before, after }: FieldDifference): ResultRow['fields'][number] {
    return {
      field,
      words: DECIDED_WORDS[field],
      before: before && valueWords(field, before.value, this.currency, this.called),
      after: after && valueWords(field, after.value, this.currency, this.called),
      rule: after && (this.numbers.get(after.by) ?? after.by),
    };
  }

  result(): Result {
    const { orders, changed, before, after, unpriced } = this.sums;
    return {
      orders,
      changed,
      costBeforeMinor: before,
      costAfterMinor: after,
      unpriced,
      currency: this.currency,
      rules: [...this.acted].map(([rule, n]) => ({ rule, ...n })),
      rows: [...this.rows].sort((a, b) => moreMoney(b) - moreMoney(a)).slice(0, LISTED),
    };
  }
}

/** How much a row's cost changes, whichever way; what costs most is looked at first. */
const moreMoney = ({ costBeforeMinor: before, costAfterMinor: after }: ResultRow): number =>
  before === null || after === null ? 0 : Math.abs(after - before);

/** Outcomes of all moments as one. */
const merged = (outcomes: readonly Ruled[]): Ruled => ({
  fields: laterWins(outcomes),
  added: outcomes.flatMap(o => o.added),
  deeds: outcomes.flatMap(o => o.deeds),
  acted: outcomes.flatMap(o => o.acted),
  stoppedBy: null,
  waiting: [],
});

/** What the label of an order costs with what was decided: the service's price, or that of the cheapest in time where none was. */
function costOf({ offers, promised, head }: OrderGround, ruled: Ruled): number | null {
  if (head.chosen || !offers) return null;
  const service = ruled.fields.service?.value;
  if (service !== undefined) return offers.find(o => o.service === service)?.minor ?? null;
  const inTime = offers.filter(o => promised === null || o.arrives <= promised);
  const all = inTime.length > 0 ? inTime : offers;
  return all.length > 0 ? Math.min(...all.map(o => o.minor)) : null;
}
