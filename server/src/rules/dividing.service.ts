import { Injectable } from '@nestjs/common';
import { Db, type Tx } from '../database/db.js';
import { Elsewhere, type Sender } from '../elsewhere/elsewhere.module.js';
import { Trouble } from '../http/problem.js';
import { JobsService, laneOf } from '../jobs/jobs.module.js';
import { TypedOrders } from '../orders/orders.module.js';
import { ruleEvent, toHistory } from '../records/records.module.js';
import { orderVersion } from './ground.queries.js';

/** A rule wants lines of an order to be an order of their own. */
export interface WantedSplit {
  orderId: string;
  /** "book 15, rule 4". */
  actor: string;
  name: string;
  lines: readonly { key: string; quantity: number }[];
  /** Who sends them; the house itself when nobody else is named. */
  to?: Sender;
}

const KIND = 'divide by rule';
const TRY_HOURS = 24;

/** Splits off what rules want apart, by a job. Whole lines go, so that a second trial finds none of them and changes nothing. */
@Injectable()
export class Dividing {
  constructor(
    private readonly db: Db,
    private readonly typed: TypedOrders,
    private readonly elsewhere: Elsewhere,
    private readonly jobs: JobsService,
  ) {
    jobs.register<WantedSplit>({
      kind: KIND,
      tryHours: TRY_HOURS,
      work: ({ payload }) => this.split(payload),
    });
  }

  async want(tx: Tx, wanted: readonly WantedSplit[]): Promise<void> {
    await this.jobs.add(
      tx,
      wanted.map(w => ({ kind: KIND, lane: laneOf('divide', w.orderId), payload: w, subjectId: w.orderId })),
    );
  }

  /** An order that is on a list by now, or has changed, stays whole and says why. */
  private async split({ orderId, actor, name, lines, to }: WantedSplit): Promise<void> {
    const doer = { personId: null, at: new Date() };
    let says = `${name}: split off.`;
    try {
      if (to) {
        const keys = lines.map(l => l.key);
        await this.elsewhere.send(orderId, keys, to, doer);
        says = `${name}: ${'supplier' in to ? to.supplier : to.center} sends it.`;
      } else {
        const version = await orderVersion(this.db, orderId);
        await this.typed.split(orderId, { version, lines: [...lines] }, doer);
      }
    } catch (error) {
      if (!(error instanceof Trouble)) throw error;
      says = `${name}: nothing was split off. ${error.problem.detail}`;
    }
    await this.db.tx(doer, tx => toHistory(tx, [ruleEvent(tx, orderId, actor, says)]));
  }
}
