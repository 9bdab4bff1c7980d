import { createHash } from 'node:crypto';
import {
  type Change,
  type CheckedLine,
  checkOrder,
  documentOf,
  group,
  lineKeys,
  type News,
  newsOf,
  orderStage,
  type ReceivedOrder,
  type Stage,
  type StopReason,
  type Suspicion,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { newId, type Row, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { LineMatching, type Matches } from '../products/products.module.js';
import {
  addressFields,
  countStages,
  emptyHolds,
  event,
  headColumns,
  insertOrders,
  lineRows,
  loadOrders,
  makeWay,
  OrderWriter,
  type StoredOrder,
  setFirstStage,
  setHead,
  toHistory,
} from '../records/records.module.js';
import { ADDRESS_TABLES } from '../reference/addressTables.js';
import type { PartWant } from '../reservations/reservations.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { DeparturePlanner, type OpenDeparture } from '../timetable/timetable.module.js';
import { toChecked } from './checked.js';
import { OrderChecks, stopRow } from './checks.service.js';
import { DuplicateSearch, type Found } from './duplicates.js';
import { OrderDifference } from './orderDifference.entity.js';
import { StopReason as StopReasonEntity } from './stopReason.entity.js';

/** A channel as intake needs it. `home` is the country its orders ship from. */
export interface IntakeChannel {
  id: string;
  name: string;
  currency: string;
  warehouseId: string;
  home: string;
}

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

interface Prepared {
  id: string;
  received: ReceivedOrder;
  shipmentId: string;
  departureId: string | null;
  stops: StopReason[];
  wants: PartWant[];
  rows: { order: Row; lines: Row[]; parts: Row[] };
}

/** What an order says; its revision and the order of its fields do not count. */
const digestOf = ({ revision: _, ...r }: ReceivedOrder): string =>
  createHash('sha256').update(JSON.stringify(r)).digest('hex');
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
  constructor(
    private readonly matching: LineMatching,
    private readonly planner: DeparturePlanner,
    private readonly checks: OrderChecks,
    private readonly reservations: Reservations,
    private readonly writer: OrderWriter,
    private readonly duplicates: DuplicateSearch,
    private readonly house: HouseService,
  ) {}

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

/** The stage of an order that has just come in. What may be left out is wanted as far as it was promised. */
function stageOf(p: Prepared, held: number, promised: ReadonlyMap<string, number>): Stage {
  const optional = new Set(p.rows.parts.filter(x => x.optional === true).map(x => x.id));
  return orderStage({
    checked: true,
    cancelled: false,
    parked: false,
    stopReasons: p.stops.length,
    wanted: p.wants.reduce(
      (n, w) => n + (optional.has(w.partId) ? (promised.get(w.partId) ?? 0) : w.quantity),
      0,
    ),
    held: { ...emptyHolds(), soft: held },
    closed: 0,
    labelled: 0,
  });
}

interface Surroundings {
  channel: IntakeChannel;
  matches: Matches;
  open: OpenDeparture[];
  planner: DeparturePlanner;
  letUncodedThrough: boolean;
}

function checkPrepared(p: Prepared, around: Surroundings, suspicions: readonly Suspicion[]): StopReason[] {
  const lines = p.received.lines.map((line): CheckedLine => {
    const match = around.matches.of(line.channelSku);
    return {
      channelName: around.channel.name,
      channelSku: line.channelSku,
      title: line.title,
      product: match.product && toChecked(match.product),
      parts: match.parts?.map(x => toChecked(around.matches.products.get(x.productId)!)) ?? null,
    };
  });
  return checkOrder(
    {
      payment: p.received.payment,
      shipTo: p.received.shipTo,
      home: around.channel.home,
      lines,
      suspicions: [...suspicions],
      differences: [],
      letUncodedThrough: around.letUncodedThrough,
    },
    ADDRESS_TABLES,
  );
}

function prepare(tx: Tx, r: ReceivedOrder, age: number, around: Surroundings): Prepared {
  const id = newId();
  const shipmentId = newId();
  const document = documentOf(r);
  const keys = lineKeys(r.lines);
  const made = r.lines.map((line, position) =>
    lineRows(
      around.matches,
      { orderId: id, shipmentId, position },
      { key: keys[position]!, channelSku: line.channelSku, fields: document.lines[keys[position]!]! },
    ),
  );
  const parts = made.flatMap(m => m.parts);
  const weightMg = parts.reduce(
    (n, p) => n + (around.matches.products.get(String(p.productId))!.weightMg ?? 0) * Number(p.quantity),
    0,
  );
  const departureId = around.planner.plan(around.open, weightMg, tx.at);
  const departure = around.open.find(d => d.id === departureId);
  const priority = urgency(departure);
  return {
    id,
    received: r,
    shipmentId,
    departureId,
    stops: [],
    wants: parts.map(p => ({
      partId: String(p.id),
      orderId: id,
      productId: String(p.productId),
      quantity: Number(p.quantity),
      priority,
      promised: r.promised,
      age,
    })),
    rows: {
      order: {
        id,
        warehouseId: around.channel.warehouseId,
        channelId: around.channel.id,
        channelNumber: r.channelNumber,
        placedAt: r.placedAt ? new Date(r.placedAt) : null,
        receivedAt: tx.at,
        currency: r.currency,
        ...(headColumns({
          head: { ...document.head, ...addressFields('shipTo', r.shipTo) },
          lines: document.lines,
        }) as Row),
        base: JSON.stringify(document),
        digest: digestOf(r),
        revision: r.revision ?? null,
        checkedAt: tx.at,
        departureId,
        leavesAt: departure ? new Date(departure.cutOff) : null,
        stage: 'Clear',
      },
      lines: made.map(m => m.line),
      parts,
    },
  };
}

/** Minutes since 1970 of the cut-off, far ahead when no departure is planned: smaller is more urgent. */
function urgency(departure: OpenDeparture | undefined): number {
  return Math.floor(Date.parse(departure?.cutOff ?? '2100-01-01T00:00:00Z') / 60_000);
}
