import { type Change, group, type News, newsOf, type ReceivedOrder, type Stage } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { newId, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { LineMatching } from '../products/products.module.js';
import {
  countStages,
  event,
  insertOrders,
  loadOrders,
  makeWay,
  OrderWriter,
  passed,
  type StoredOrder,
  setFirstStage,
  setHead,
  toHistory,
} from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { OrderChecks, stopRow } from './checks.service.js';
import { DuplicateSearch, type Found } from './duplicates.js';
import { OrderDifference } from './orderDifference.entity.js';
import {
  checkPrepared,
  digestOf,
  type IntakeChannel,
  type Prepared,
  prepare,
  type Surroundings,
  stageOf,
} from './prepare.js';
import { StopReason as StopReasonEntity } from './stopReason.entity.js';

/** What became, or would become, of one received order. */
export interface Received {
  channelNumber: string;
  state: 'new' | 'changed' | 'same' | 'cannot change';
  stage: Stage | null;
  says: string;
  changes: Change[];
}

interface KnownOrder {
  id: string;
  channelNumber: string;
  digest: string;
  stage: Stage;
  revision: number | null;
}

/** Whether news are older than what is known already: channels repeat themselves, and not always in order. */
const isOlder = (known: { revision: number | null }, r: ReceivedOrder): boolean =>
  r.revision !== undefined && known.revision !== null && r.revision < known.revision;

/** Of several news of one order the one with the highest revision, else the last. */
function newest(received: readonly ReceivedOrder[]): ReceivedOrder[] {
  const by = new Map<string, ReceivedOrder>();
  for (const r of received) {
    const known = by.get(r.channelNumber);
    if (!known || !isOlder({ revision: known.revision ?? null }, r)) by.set(r.channelNumber, r);
  }
  return [...by.values()];
}

/** Numbers that a part split off may bear, though the channel gave them. */
const SPLIT_LIKE = /\/\d+$/;
const OVER = new Set<Stage>(['Departed', 'Cancelled']);

/** Takes orders in from any source: matched, broken into parts, checked and reserved, all in the caller's transaction. */
@Injectable()
export class OrderIntake {
  private readonly arrivals: ((tx: Tx, orderIds: readonly string[]) => Promise<void>)[] = [];

  constructor(
    private readonly matching: LineMatching,
    private readonly planner: DeparturePlanner,
    private readonly checks: OrderChecks,
    private readonly reservations: Reservations,
    private readonly writer: OrderWriter,
    private readonly duplicates: DuplicateSearch,
    private readonly house: HouseService,
    private readonly carriers: CarrierRegistry,
  ) {}

  /** Has something done about orders that come in, in the transaction in which they do. */
  onArrival(listener: (tx: Tx, orderIds: readonly string[]) => Promise<void>): void {
    this.arrivals.push(listener);
  }

  /** Tells of orders that are in the house from now on, however they came. */
  async arrived(tx: Tx, orderIds: readonly string[]): Promise<void> {
    for (const listener of this.arrivals) await listener(tx, orderIds);
  }

  /** Receives orders of one channel; what is known and the same is left alone, so a repeat changes nothing. Of a number given twice the last counts. */
  async receive(tx: Tx, channel: IntakeChannel, received: readonly ReceivedOrder[]): Promise<Received[]> {
    const last = newest(received);
    await this.makeWay(tx, channel, last);
    const known = await this.known(tx, channel, last);
    const stages = await this.add(
      tx,
      channel,
      last.filter(r => !known.has(r.channelNumber)),
    );
    const merged = await this.mergeAll(tx, known, last);
    const answers = last.map(
      r =>
        merged.get(r.channelNumber) ?? {
          channelNumber: r.channelNumber,
          state: 'new' as const,
          stage: stages.get(r.channelNumber)!,
          says: '',
          changes: [],
        },
    );
    if (answers.some(a => a.state === 'new' || a.state === 'changed')) await tx.tell('orders', '');
    return answers;
  }

  /** What receiving would do, without doing it. */
  async preview(tx: Tx, channel: IntakeChannel, received: readonly ReceivedOrder[]): Promise<Received[]> {
    const known = await this.known(tx, channel, received);
    const orders = await this.changedOrders(tx, known, received, false);
    return received.map(r => {
      const k = known.get(r.channelNumber);
      if (!k) return { channelNumber: r.channelNumber, state: 'new', stage: null, says: '', changes: [] };
      const order = orders.get(k.id);
      if (!order) return same(r, k.stage);
      return answerOf(r, order.stage, newsOf(order, r));
    });
  }

  private async makeWay(tx: Tx, channel: IntakeChannel, received: readonly ReceivedOrder[]): Promise<void> {
    const like = received.map(r => r.channelNumber).filter(n => SPLIT_LIKE.test(n));
    if (like.length > 0) await makeWay(tx, channel.id, like);
  }

  private async known(
    tx: Tx,
    channel: IntakeChannel,
    received: readonly ReceivedOrder[],
  ): Promise<Map<string, KnownOrder>> {
    const known = new Map<string, KnownOrder>();
    for (let i = 0; i < received.length; i += 1000) {
      const rows = await tx.rows<KnownOrder>(
        'SELECT id, channelNumber, digest, stage, revision FROM orders WHERE channelId = ? AND channelNumber IN (?) AND splitOfId IS NULL',
        [channel.id, received.slice(i, i + 1000).map(r => r.channelNumber)],
      );
      for (const r of rows) known.set(r.channelNumber, r);
    }
    return known;
  }

  private changedOrders(
    tx: Tx,
    known: Map<string, KnownOrder>,
    received: readonly ReceivedOrder[],
    lock: boolean,
  ): Promise<Map<string, StoredOrder>> {
    const changed = received.flatMap(r => {
      const k = known.get(r.channelNumber);
      return k && k.digest !== digestOf(r) && !isOlder(k, r) ? [k.id] : [];
    });
    return loadOrders(tx, changed.sort(), lock);
  }

  /** Merges what changed at the channel into the orders that are here; what both sides changed waits for a person. */
  private async mergeAll(
    tx: Tx,
    known: Map<string, KnownOrder>,
    received: readonly ReceivedOrder[],
  ): Promise<Map<string, Received>> {
    const orders = await this.changedOrders(tx, known, received, true);
    const answers = new Map<string, Received>();
    const touched: string[] = [];
    const freed: string[] = [];
    for (const r of received) {
      const k = known.get(r.channelNumber);
      if (!k) continue;
      const order = orders.get(k.id);
      if (!order) {
        answers.set(r.channelNumber, same(r, k.stage));
        continue;
      }
      const news = newsOf(order, r);
      freed.push(...(await this.mergeOne(tx, order, r, news)));
      answers.set(r.channelNumber, answerOf(r, order.stage, news));
      if (news.taken.length + news.conflicts.length > 0) touched.push(order.id);
    }
    if (touched.length > 0) {
      const stages = await this.checks.recheck(tx, touched);
      await this.reservations.reserveAgain(tx, freed);
      for (const [, a] of answers) {
        const id = known.get(a.channelNumber)!.id;
        a.stage = stages.get(id) ?? a.stage;
      }
    }
    return answers;
  }

  private async mergeOne(tx: Tx, order: StoredOrder, r: ReceivedOrder, news: News): Promise<string[]> {
    const base = {
      base: JSON.stringify(news.theirs),
      digest: digestOf(r),
      revision: r.revision === undefined ? null : String(r.revision),
    };
    if (OVER.has(order.stage)) {
      await setHead(
        tx,
        order.id,
        { base: news.theirs, digest: base.digest, revision: r.revision ?? null },
        'quietly',
      );
      if (news.taken.length > 0)
        await toHistory(tx, [
          event(
            tx,
            order.id,
            'told late',
            `The channel changed the order after it was ${order.stage}; nothing was changed here.`,
            news.taken,
          ),
        ]);
      return [];
    }
    await this.missingListings(tx, order, news);
    const { freed } = await this.writer.write(
      tx,
      order,
      news.after,
      { kind: 'changed', says: 'The channel changed the order; this was taken over.' },
      base,
    );
    for (const c of news.conflicts)
      await tx.run(
        'UPDATE orderDifference SET decidedAt = ?, taken = FALSE WHERE orderId = ? AND decidedAt IS NULL AND field = ? AND lineKey <=> ?',
        [tx.at, order.id, c.field, c.line],
      );
    await tx.insert(
      OrderDifference,
      news.conflicts.map(c => ({
        id: newId(),
        orderId: order.id,
        lineKey: c.line,
        field: c.field,
        ours: JSON.stringify({ v: c.ours }),
        theirs: JSON.stringify({ v: c.theirs }),
        theirLine: c.line === null ? null : JSON.stringify(news.theirs.lines[c.line] ?? null),
        raisedAt: tx.at,
      })),
    );
    return freed;
  }

  /** SKUs that a known order newly sells become listings too. */
  private async missingListings(tx: Tx, order: StoredOrder, news: News): Promise<void> {
    const added = news.taken.filter(c => c.field === '' && c.before === null && c.line !== null);
    if (added.length === 0) return;
    const lines = added.map(c => ({
      channelSku: c.line!.replace(/#\d+$/, ''),
      title: String(news.after.lines[c.line!]!.title),
      priceMinor: Number(news.after.lines[c.line!]!.priceMinor),
    }));
    await this.matching.open(tx, order.channelId, lines, true);
  }

  private async add(
    tx: Tx,
    channel: IntakeChannel,
    received: readonly ReceivedOrder[],
  ): Promise<Map<string, Stage>> {
    const stages = new Map<string, Stage>();
    if (received.length === 0) return stages;
    const around: Surroundings = {
      channel,
      matches: await this.matching.open(
        tx,
        channel.id,
        received.flatMap(r => r.lines),
        true,
      ),
      open: await this.planner.open(tx, tx.at),
      planner: this.planner,
      letUncodedThrough: await this.house.setting(tx, 'letUncodedThrough', false),
      latinWanted: await this.carriers.plansLatin(tx),
    };
    const prepared = received.map((r, i) => prepare(tx, r, i, around));
    const suspicions = await this.duplicates.among(
      tx,
      prepared.map(p => ({ id: p.id, received: p.received, lines: p.rows.lines })),
    );
    const suspected = group(suspicions, s => s.orderId);
    for (const p of prepared) p.stops = checkPrepared(p, around, suspected.get(p.id) ?? []);
    await this.insert(tx, channel, prepared, suspicions);
    const { served, holds } = await this.reservations.reserveWants(
      tx,
      prepared.flatMap(p => p.wants),
    );
    const promised = new Map(holds.map(h => [h.partId, h.change]));
    for (const p of prepared)
      stages.set(p.received.channelNumber, stageOf(p, served.get(p.id) ?? 0, promised));
    await this.storeStages(tx, prepared, stages);
    await this.arrived(
      tx,
      prepared.map(p => p.id),
    );
    return stages;
  }

  private async insert(
    tx: Tx,
    channel: IntakeChannel,
    prepared: readonly Prepared[],
    suspicions: readonly Found[],
  ): Promise<void> {
    await Promise.all([
      insertOrders(tx, {
        orders: prepared.map(p => p.rows.order),
        shipments: prepared.map(p => ({
          id: p.shipmentId,
          orderId: p.id,
          seq: 1,
          departureId: p.departureId,
        })),
        lines: prepared.flatMap(p => p.rows.lines),
        parts: prepared.flatMap(p => p.rows.parts),
      }),
      tx.insert(
        StopReasonEntity,
        prepared.flatMap(p => p.stops.map(s => stopRow(tx, p.id, s))),
      ),
      this.duplicates.store(tx, suspicions),
      toHistory(
        tx,
        prepared.map(p => event(tx, p.id, 'received', `Received from ${channel.name}.`)),
      ),
    ]);
  }

  private async storeStages(
    tx: Tx,
    prepared: readonly Prepared[],
    stages: Map<string, Stage>,
  ): Promise<void> {
    const by = group(prepared, p => stages.get(p.received.channelNumber)!) as Map<Stage, Prepared[]>;
    for (const [stage, list] of by)
      if (stage !== 'Clear')
        await setFirstStage(
          tx,
          list.map(p => p.id),
          stage,
        );
    await countStages(tx, new Map([...by].map(([stage, list]) => [stage, list.length])));
    await passed(tx, new Map([...by].map(([stage, list]) => [stage, list.map(p => p.id)])));
  }
}

const same = (r: ReceivedOrder, stage: Stage): Received => ({
  channelNumber: r.channelNumber,
  state: 'same',
  stage,
  says: '',
  changes: [],
});

function answerOf(r: ReceivedOrder, stage: Stage, news: News): Received {
  const common = { channelNumber: r.channelNumber, stage, changes: news.taken };
  if (news.taken.length + news.conflicts.length === 0) return same(r, stage);
  if (OVER.has(stage))
    return { ...common, state: 'cannot change', says: `It is ${stage}; look at it by hand.` };
  const waits =
    news.conflicts.length > 0
      ? `${news.conflicts.length} of it was changed here too and waits for a person.`
      : '';
  return { ...common, state: 'changed', says: waits };
}
