import type { BulkAnswer } from '@auk/contract';
import { MOMENTS, type Moment, type RuleBook, rulesOf, type Stage, wantsPrices } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, type Tx } from '../database/db.js';
import { OrderIntake } from '../intake/intake.module.js';
import { JobsService } from '../jobs/jobs.module.js';
import {
  buyersAmong,
  HOUSE_CHANNELS,
  lockOrders,
  StageNews,
  type StagePassed,
} from '../records/records.module.js';
import { RuleActing } from './acting.service.js';
import { RuleBooks, type RunningBook } from './books.service.js';
import { RuleGrounds } from './grounds.service.js';
import { momentsPassed } from './moments.queries.js';
import { Preparing } from './preparing.service.js';

const KIND = 'run rules';
const LANE = 'rules';
/** Orders in one transaction. */
const PORTION = 50;
/** Rules that fail for a day are told to a person. */
const TRY_HOURS = 24;

/** Which moment an order's coming to a stage is. */
const MOMENT_OF: Partial<Record<Stage, Moment>> = {
  Clear: 'clear',
  Picked: 'picked',
  Packed: 'packed',
  Labelled: 'labelled',
  Departed: 'departed',
};

interface Work {
  moment: Moment;
  orderIds: string[];
}

/**
 * Runs the book at its moments. What needs no price runs in the transaction in which orders come in; all else is a job, put down with
 * what caused it, so that a stage never waits for rules and none is lost.
 */
@Injectable()
export class RuleMoments {
  constructor(
    private readonly db: Db,
    private readonly books: RuleBooks,
    private readonly grounds: RuleGrounds,
    private readonly acting: RuleActing,
    private readonly preparing: Preparing,
    private readonly jobs: JobsService,
    stages: StageNews,
    intake: OrderIntake,
  ) {
    jobs.register<Work>({
      kind: KIND,
      tryHours: TRY_HOURS,
      work: async ({ payload }, turn) => {
        await this.inPortions(payload, turn.within);
      },
    });
    stages.listen((tx, rows) => this.ofStages(tx, rows));
    intake.onArrival((tx, orderIds) => this.arrived(tx, orderIds));
  }

  /** Orders came in: what needs no price is decided at once, the rest by a job with prices. */
  private async arrived(tx: Tx, orderIds: readonly string[]): Promise<void> {
    const running = await this.books.running(tx);
    const rules = runsAt(running.book, 'arrival');
    if (rules.length === 0) return;
    await this.run(tx, running, 'arrival', orderIds, false);
    if (rules.some(wantsPrices)) await this.later(tx, 'arrival', orderIds);
  }

  private async ofStages(tx: Tx, rows: readonly StagePassed[]): Promise<void> {
    const { book } = await this.books.running(tx);
    for (const moment of MOMENTS) {
      if (runsAt(book, moment).length === 0) continue;
      const ids = [...new Set(rows.filter(r => MOMENT_OF[r.stage] === moment).map(r => r.orderId))];
      if (ids.length === 0) continue;
      // Rules are for orders of buyers; builds and shipments to centers are the house's own.
      const ofBuyers = await buyersAmong(tx, ids, HOUSE_CHANNELS);
      await this.later(
        tx,
        moment,
        ofBuyers.map(o => o.id),
      );
    }
  }

  private async later(tx: Tx, moment: Moment, orderIds: readonly string[]): Promise<void> {
    const portions = Array.from({ length: Math.ceil(orderIds.length / PORTION) }, (_, i) =>
      orderIds.slice(i * PORTION, (i + 1) * PORTION),
    );
    await this.jobs.add(
      tx,
      portions.map(ids => ({ kind: KIND, lane: LANE, payload: { moment, orderIds: ids }, subjectId: null })),
    );
  }

  private async inPortions({ moment, orderIds }: Work, within: (tx: Tx) => Promise<void>): Promise<void> {
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await within(tx);
      await lockOrders(tx, orderIds);
      const running = await this.books.running(tx);
      await this.run(tx, running, moment, orderIds, true);
      for (const id of orderIds) await tx.tell('orders', id);
    });
  }

  private async run(
    tx: Tx,
    running: RunningBook,
    moment: Moment,
    orderIds: readonly string[],
    priced: boolean,
  ): Promise<void> {
    const p = await this.preparing.of(tx, running, moment);
    const wants = priced && runsAt(running.book, moment).some(wantsPrices);
    await this.acting.run(tx, p, await this.grounds.of(tx, orderIds, tx.at, wants));
  }

  /** Runs the book of now again on orders, at every moment that they have passed; each with its answer. */
  async again(orderIds: readonly string[], doer: Doer): Promise<BulkAnswer[]> {
    const answers: BulkAnswer[] = [];
    for (const id of orderIds) {
      answers.push(
        await this.db.tx(doer, async tx => {
          await lockOrders(tx, [id]);
          const running = await this.books.running(tx);
          const [ground] = await this.grounds.of(tx, [id], tx.at, false);
          if (!ground) return { id, number: '', done: false, says: 'It is not in Auk.' };
          const passed = new Set((await momentsPassed(tx, id)).map(m => m.moment));
          for (const moment of MOMENTS)
            if (passed.has(moment) || momentsBefore(ground.stage).includes(moment))
              await this.run(tx, running, moment, [id], true);
          await tx.tell('orders', id);
          return { id, number: ground.number, done: true, says: `book ${running.no} was run` };
        }),
      );
    }
    return answers;
  }
}

/** The rules of a book that run at a moment. */
export const runsAt = (book: RuleBook, moment: Moment) =>
  rulesOf(book).filter(r => r.runs && r.at === moment);

/** The moments that an order has passed, by where it stands now. */
export function momentsBefore(stage: Stage): Moment[] {
  const reached: Stage[] = ['Clear', 'Listed', 'Picked', 'Packed', 'Labelled', 'Departed'];
  const at = reached.indexOf(stage);
  return ['arrival', ...reached.slice(0, at + 1).flatMap(s => MOMENT_OF[s] ?? [])];
}
