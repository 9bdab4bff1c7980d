import { type Address } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, type Tx } from '../database/db.js';
import { TooLate, Trouble } from '../http/problem.js';
import { JobsService, laneOf } from '../jobs/jobs.module.js';
import { Rounds } from '../leases/leases.module.js';
import {
  changeElsewhere,
  event,
  lockOrders,
  StageNews,
  type StagePassed,
  sentElsewhere,
  toHistory,
} from '../records/records.module.js';
import { Centers } from './centers.service.js';
import { centersToAsk, elsewhereAmong, linesToOrder, ordersAt, orderToSend } from './elsewhere.queries.js';
import { Elsewhere } from './elsewhere.service.js';

const ORDER = 'order at center';
const CANCEL = 'cancel at center';
const TRY_HOURS = 72;
const EVERY_MS = 30_000;
/** Before all ids. */
const FIRST = '00000000-0000-0000-0000-000000000000';

/** Orders at fulfillment centers: placed once by our own key, however often it is tried, and followed until they left. */
@Injectable()
export class CenterOrders {
  constructor(
    private readonly db: Db,
    private readonly centers: Centers,
    private readonly elsewhere: Elsewhere,
    private readonly jobs: JobsService,
    stages: StageNews,
    rounds: Rounds,
  ) {
    jobs.register<{ orderId: string }>({
      kind: ORDER,
      tryHours: TRY_HOURS,
      work: ({ payload }) => this.place(payload.orderId),
    });
    jobs.register<{ orderId: string; center: string }>({
      kind: CANCEL,
      tryHours: TRY_HOURS,
      work: ({ payload }) => this.cancel(payload.orderId, payload.center),
    });
    stages.listen((tx, rows) => this.ofStages(tx, rows));
    elsewhere.onBack(this);
    rounds.register({
      name: 'centers',
      everyMs: EVERY_MS,
      leaseMs: 60_000,
      lanes: async () => (await centersToAsk(this.db)).map(c => c.center!),
      work: (center, turn) => this.follow(center, turn.stopped),
    });
  }

  private async ofStages(tx: Tx, rows: readonly StagePassed[]): Promise<void> {
    const ids = rows.filter(r => r.stage === 'Elsewhere' || r.stage === 'Cancelled').map(r => r.orderId);
    if (ids.length === 0) return;
    for (const { orderId, center, stage, placedAt } of await elsewhereAmong(tx, ids)) {
      if (center === null) continue;
      if (stage === 'Elsewhere' && !placedAt) await this.soon(tx, ORDER, orderId, center);
      if (stage === 'Cancelled') await this.callOff(tx, orderId, center);
    }
  }

  /** Orders and cancels of one order go one after another: what is called off is called off behind what is on its way. */
  private soon(tx: Tx, kind: string, orderId: string, center: string): Promise<void> {
    const payload = { orderId, center };
    return this.jobs.add(tx, [
      { kind, lane: laneOf(`center ${center}`, orderId), payload, subjectId: orderId },
    ]);
  }

  callOff(tx: Tx, orderId: string, center: string): Promise<void> {
    return this.soon(tx, CANCEL, orderId, center);
  }

  /** Orders it there. A refusal is told where the order waits; silence is asked again, under the same key. */
  private async place(orderId: string): Promise<void> {
    const sent = await sentElsewhere(this.db, orderId);
    if (!sent?.center || sent.placedAt) return;
    const order = (await orderToSend(this.db, orderId))!;
    if (order.stage !== 'Elsewhere') return;
    const lines = await linesToOrder(this.db, orderId);
    const answer = await this.centers.order(sent.center, orderId, {
      number: order.channelNumber,
      lines: lines.map(l => ({ code: l.sku, quantity: l.quantity })),
      shipTo: { ...fromJson<Address>(order.shipTo) },
    });
    await this.note(orderId, answer.kind === 'answered' ? null : answer.why);
    if (answer.kind === 'silent') throw new Error(answer.why);
  }

  private async note(orderId: string, why: string | null): Promise<void> {
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await lockOrders(tx, [orderId]);
      const sent = await sentElsewhere(tx, orderId);
      if (!sent || (sent.placedAt && why === null) || sent.leftAt) return;
      await changeElsewhere(tx, orderId, why === null ? { placedAt: tx.at, why } : { why });
      const says = why ?? `Ordered at ${sent.center}, which sends it to the buyer.`;
      if (why !== sent.why || why === null)
        await toHistory(tx, [event(tx, orderId, 'elsewhere', says.slice(0, 300))]);
      await tx.tell('orders', orderId);
    });
  }

  /** Asks what became of what is ordered there, all of it. A center that is silent is asked again in the next round. */
  private async follow(center: string, stopped: () => boolean): Promise<void> {
    for (let after = FIRST; ; ) {
      const rows = await ordersAt(this.db, center, after);
      for (const { orderId } of rows) {
        if (stopped() || !(await this.followOne(center, orderId))) return;
        after = orderId;
      }
      if (rows.length === 0) return;
    }
  }

  /** False when the center did not answer. */
  private async followOne(center: string, orderId: string): Promise<boolean> {
    const answer = await this.centers.find(center, orderId);
    if (answer.kind !== 'answered') return answer.kind !== 'silent';
    const { state, carrier, tracking } = answer.value;
    if (state !== 'left') return true;
    if (tracking === null) {
      await this.note(orderId, `${center} says that it left, and tells no tracking number.`);
      return true;
    }
    try {
      const told = { carrier: carrier ?? center, tracking };
      await this.elsewhere.left(orderId, told, { personId: null, at: new Date() });
    } catch (error) {
      if (!(error instanceof Trouble)) throw error;
      await this.note(orderId, error.problem.detail);
    }
    return true;
  }

  /** Before the house sends it itself, the center must have let it go. */
  async letGo(orderId: string, center: string): Promise<void> {
    const answer = await this.centers.cancel(center, orderId);
    if (answer.kind === 'answered' || answer.kind === 'unknown') return;
    throw new TooLate(
      answer.why,
      answer.kind === 'silent'
        ? 'Try again; nothing was changed here.'
        : 'It comes with its tracking number.',
    );
  }

  private async cancel(orderId: string, center: string): Promise<void> {
    const answer = await this.centers.cancel(center, orderId);
    if (answer.kind === 'silent') throw new Error(answer.why);
    if (answer.kind === 'unknown') return;
    const says = answer.kind === 'answered' ? `${center} does not send it any more.` : answer.why;
    await this.db.tx({ personId: null, at: new Date() }, tx =>
      toHistory(tx, [event(tx, orderId, 'elsewhere', says.slice(0, 300))]),
    );
  }
}
