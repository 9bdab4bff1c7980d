import { type BulkAnswer, mayNotPress, type Person, type RuleButtonView } from '@auk/contract';
import {
  actionWords,
  count,
  did,
  type NumberedRule,
  rulesOf,
  sentenceOf,
  tooLate,
  wantsPrices,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer } from '../database/db.js';
import { NotAllowed, NotHere } from '../http/problem.js';
import { lockOrders } from '../records/records.module.js';
import { RuleActing } from './acting.service.js';
import { RuleBooks } from './books.service.js';
import { orderIdsOf } from './buttons.queries.js';
import { RuleGrounds } from './grounds.service.js';
import { type Prepared, type Ran } from './prepared.js';
import { Preparing } from './preparing.service.js';

/** The buttons of the book: where they are shown, and what a press does to each order. */
@Injectable()
export class RuleButtons {
  constructor(
    private readonly db: Db,
    private readonly books: RuleBooks,
    private readonly grounds: RuleGrounds,
    private readonly preparing: Preparing,
    private readonly acting: RuleActing,
  ) {}

  /** All buttons of the book that runs, as one person sees them. */
  async list(me: Person): Promise<RuleButtonView[]> {
    const { book } = await this.books.running(this.db);
    return rulesOf(book)
      .filter(r => r.runs && r.button)
      .map(r => ({
        code: r.button!.code,
        words: r.button!.words,
        places: [...r.button!.places],
        says: r.note || r.do.map(a => actionWords(a)).join(', '),
        refused: mayNotPress(me, r),
      }));
  }

  /** Presses a button for orders, each in its own transaction, each with its answer. Pressed twice it decides the same again. */
  async press(code: string, orders: readonly string[], me: Person, doer: Doer): Promise<BulkAnswer[]> {
    const { book } = await this.books.running(this.db);
    mustMay(me, buttonOf(book, code));
    const ids = await orderIdsOf(this.db, orders);
    const missing = new Set(orders).size - ids.length;
    if (missing > 0) throw new NotHere(count(missing, 'order'), 'Read the list anew and press again.');
    const answers: BulkAnswer[] = [];
    for (const id of ids) answers.push(await this.one(code, id, me, doer));
    return answers;
  }

  private one(code: string, id: string, me: Person, doer: Doer): Promise<BulkAnswer> {
    return this.db.tx(doer, async tx => {
      await lockOrders(tx, [id]);
      // The book of now: it may have been saved anew since the button was shown.
      const running = await this.books.running(tx);
      const rule = buttonOf(running.book, code);
      mustMay(me, rule);
      const [ground] = await this.grounds.of(tx, [id], tx.at, wantsPrices(rule));
      if (!ground) return { id, number: '', done: false, says: 'It is a draft still.' };
      const { number } = ground;
      const late = tooLate(rule, ground.stage);
      if (late) return { id, number, done: false, says: late };
      const p = await this.preparing.of(tx, running, 'button', rule.button!.code);
      const [ran] = await this.acting.run(tx, p, [ground]);
      await tx.tell('orders', id);
      return { id, number, ...said(p, rule, ran!) };
    });
  }
}

/** The rule behind a button's code. */
function buttonOf(book: Parameters<typeof rulesOf>[0], code: string): NumberedRule {
  const rule = rulesOf(book).find(r => r.runs && r.button?.code.toUpperCase() === code.toUpperCase());
  if (!rule)
    throw new NotHere(
      `The button ${code.toUpperCase()}`,
      'See Rules for the buttons of now; print their codes there.',
    );
  return rule;
}

/** Refuses who has no right to something that a button does. */
function mustMay(me: Person, rule: NumberedRule): void {
  const refused = mayNotPress(me, rule);
  if (refused)
    throw new NotAllowed(refused, `Ask the lead to press “${rule.button!.words}”, or for that right.`);
}

/** What became of a press, in words. */
function said(p: Prepared, rule: NumberedRule, { ruled, ground }: Ran): Pick<BulkAnswer, 'done' | 'says'> {
  if (!did(rule, ruled))
    return { done: false, says: `“${rule.button!.words}” is not for it: ${sentenceOf(rule)}.` };
  const hand = ground.head.chosen && ruled.fields.service ? ' What was chosen by hand stays.' : '';
  return {
    done: true,
    says: `${rule.button!.words}: ${rule.do.map(a => actionWords(a, p.calls)).join(', ')}.${hand}`,
  };
}
