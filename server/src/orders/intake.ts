import { createHash } from 'node:crypto';
import {
  type CheckedLine,
  checkOrder,
  explode,
  orderStage,
  type ReceivedOrder,
  type RecipePart,
  type Stage,
  type StopReason,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CatalogService, type Product } from '../catalog/catalog.service.js';
import { newId, type Row, type Tx } from '../database/db.js';
import { DeparturePlanner, type OpenDeparture } from '../departures/planner.js';
import { type PartWant, StockService } from '../stock/stock.service.js';
import { ADDRESS_TABLES } from './addressTables.js';
import { toChecked } from './checked.js';
import { event } from './events.js';
import { OrdersService } from './orders.service.js';
import { emptyHolds } from './stages.js';

/** A channel as intake needs it. */
export interface IntakeChannel {
  id: string;
  name: string;
  warehouseId: string;
}

/** What became of one received order. */
export interface Received {
  channelNumber: string;
  state: 'new' | 'changed' | 'same' | 'cannot change';
  stage: Stage | null;
}

interface Listing {
  id: string;
  channelSku: string;
  productId: string | null;
}

interface KnownOrder {
  id: string;
  channelNumber: string;
  digest: string;
  stage: Stage;
  version: number;
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

const half = (value: unknown): string =>
  createHash('sha256').update(JSON.stringify(value)).digest('hex').slice(0, 32);
/** Which order this is: the first half changes with its head, the second with its lines. */
const digestOf = ({ lines, ...head }: ReceivedOrder): string => half(head) + half(lines);

/** Takes orders in from any source: matched, broken into parts, checked and reserved, all in the caller's transaction. */
@Injectable()
export class OrderIntake {
  constructor(
    private readonly catalog: CatalogService,
    private readonly planner: DeparturePlanner,
    private readonly stock: StockService,
    private readonly orders: OrdersService,
  ) {}

  /** Receives orders of one channel; what is known and the same is left alone, so a repeat changes nothing. */
  async receive(tx: Tx, channel: IntakeChannel, received: readonly ReceivedOrder[]): Promise<Received[]> {
    const known = await this.known(tx, channel, received);
    const fresh = received.filter(r => !known.has(r.channelNumber));
    const stages = await this.add(tx, channel, fresh);
    const answers: Received[] = [];
    for (const r of received) {
      const k = known.get(r.channelNumber);
      answers.push(
        k
          ? await this.merge(tx, k, r)
          : { channelNumber: r.channelNumber, state: 'new', stage: stages.get(r.channelNumber)! },
      );
    }
    if (answers.some(a => a.state === 'new' || a.state === 'changed')) await tx.tell('orders', '');
    return answers;
  }

  /** Which of the orders are here already. */
  async known(
    tx: Pick<Tx, 'rows'>,
    channel: IntakeChannel,
    received: readonly ReceivedOrder[],
  ): Promise<Map<string, KnownOrder>> {
    const known = new Map<string, KnownOrder>();
    for (let i = 0; i < received.length; i += 1000) {
      const numbers = received.slice(i, i + 1000).map(r => r.channelNumber);
      const rows = await tx.rows<KnownOrder>(
        'SELECT id, channelNumber, digest, stage, version FROM orders WHERE channelId = ? AND channelNumber IN (?)',
        [channel.id, numbers],
      );
      for (const r of rows) known.set(r.channelNumber, r);
    }
    return known;
  }

  /** What a received order would be against a known one. */
  compare(known: KnownOrder | undefined, received: ReceivedOrder): Received['state'] {
    if (!known) return 'new';
    const digest = digestOf(received);
    if (known.digest === digest) return 'same';
    const beyond = ['Listed', 'Picked', 'Packed', 'Labelled', 'Departed', 'Cancelled'].includes(known.stage);
    return beyond || known.digest.slice(32) !== digest.slice(32) ? 'cannot change' : 'changed';
  }

  /** Takes over a changed head (address, payment, note) and checks the order again; changed lines and orders already on a list are left to a person. */
  private async merge(tx: Tx, known: KnownOrder, r: ReceivedOrder): Promise<Received> {
    const state = this.compare(known, r);
    if (state !== 'changed') return { channelNumber: r.channelNumber, state, stage: known.stage };
    await tx.one('SELECT id FROM orders WHERE id = ? FOR UPDATE', [known.id]);
    await tx.run(
      'UPDATE orders SET buyer = ?, mail = ?, shipTo = ?, payment = ?, shippingMinor = ?, promised = ?, note = ?, digest = ?, version = version + 1 WHERE id = ?',
      [
        r.shipTo.name,
        r.mail,
        JSON.stringify(r.shipTo),
        r.payment,
        r.shippingMinor,
        r.promised,
        r.note,
        digestOf(r),
        known.id,
      ],
    );
    await tx.insert('orderEvent', [
      event(tx, known.id, 'changed', 'The channel sent the order again with changes; they were taken over.'),
    ]);
    const stages = await this.orders.recheck(tx, [known.id]);
    return { channelNumber: r.channelNumber, state, stage: stages.get(known.id) ?? null };
  }

  private async add(
    tx: Tx,
    channel: IntakeChannel,
    received: readonly ReceivedOrder[],
  ): Promise<Map<string, Stage>> {
    const stages = new Map<string, Stage>();
    if (received.length === 0) return stages;
    const products = await this.catalog.products(tx);
    const listings = await this.listings(tx, channel, received);
    const open = await this.planner.open(tx, tx.at);
    const explosions = new Map<string, RecipePart[] | null>();
    const prepared = received.map((r, i) =>
      prepare(tx, channel, r, i, { products, listings, open, planner: this.planner, explosions }),
    );
    await tx.insert(
      'orders',
      prepared.map(p => p.rows.order),
    );
    await tx.insert(
      'shipment',
      prepared.map(p => ({ id: p.shipmentId, orderId: p.id, seq: 1, departureId: p.departureId })),
    );
    await tx.insert(
      'orderLine',
      prepared.flatMap(p => p.rows.lines),
    );
    await tx.insert(
      'linePart',
      prepared.flatMap(p => p.rows.parts),
    );
    await tx.insert(
      'stopReason',
      prepared.flatMap(p =>
        p.stops.map(s => ({ id: newId(), orderId: p.id, ...s, raisedAt: tx.at, liftedAt: null })),
      ),
    );
    await tx.insert(
      'orderEvent',
      prepared.map(p => event(tx, p.id, 'received', `Received from ${channel.name}.`)),
    );
    const holds = await this.stock.reserve(
      tx,
      prepared.flatMap(p => p.wants),
      'reserve',
    );
    const held = new Map<string, number>();
    for (const h of holds) held.set(h.orderId, (held.get(h.orderId) ?? 0) + h.change);
    for (const p of prepared) stages.set(p.received.channelNumber, stageOf(p, held.get(p.id) ?? 0));
    await this.storeStages(tx, prepared, stages);
    return stages;
  }

  private async storeStages(
    tx: Tx,
    prepared: readonly Prepared[],
    stages: Map<string, Stage>,
  ): Promise<void> {
    const by = new Map<Stage, string[]>();
    for (const p of prepared) {
      const stage = stages.get(p.received.channelNumber)!;
      if (stage !== 'Clear') by.set(stage, [...(by.get(stage) ?? []), p.id]);
    }
    for (const [stage, ids] of by) await tx.run('UPDATE orders SET stage = ? WHERE id IN (?)', [stage, ids]);
  }

  /** Listings of the channel for the SKUs sold; unknown ones are made, unlinked. */
  private async listings(
    tx: Tx,
    channel: IntakeChannel,
    received: readonly ReceivedOrder[],
  ): Promise<Map<string, Listing>> {
    const titles = new Map(received.flatMap(r => r.lines.map(l => [l.channelSku, l] as const)));
    const rows = await tx.rows<Listing>('SELECT id, channelSku, productId FROM listing WHERE channelId = ?', [
      channel.id,
    ]);
    const found = new Map(rows.map(r => [r.channelSku, r]));
    const missing = [...titles.values()]
      .filter(l => !found.has(l.channelSku))
      .map(l => ({
        id: newId(),
        channelId: channel.id,
        channelSku: l.channelSku,
        title: l.title,
        priceMinor: l.priceMinor,
        productId: null,
      }));
    await tx.insert('listing', missing);
    for (const m of missing) found.set(m.channelSku, m);
    return found;
  }
}

function stageOf(p: Prepared, held: number): Stage {
  const wanted = p.wants.reduce((n, w) => n + w.quantity, 0);
  return orderStage({
    checked: true,
    cancelled: false,
    parked: false,
    stopReasons: p.stops.length,
    wanted,
    held: { ...emptyHolds(), soft: held },
    closed: 0,
    labelled: 0,
  });
}

interface Surroundings {
  products: Map<string, Product>;
  listings: Map<string, Listing>;
  open: OpenDeparture[];
  planner: DeparturePlanner;
  explosions: Map<string, RecipePart[] | null>;
}

/** Breaks one unit of a sellable into parts, remembering the answer; null when its recipe is broken. */
function partsOf(id: string, around: Surroundings): RecipePart[] | null {
  if (!around.explosions.has(id)) {
    const exploded = explode(id, 1, x => around.products.get(x)?.recipe);
    around.explosions.set(id, exploded.ok ? exploded.value : null);
  }
  return around.explosions.get(id)!;
}

function prepare(
  tx: Tx,
  channel: IntakeChannel,
  r: ReceivedOrder,
  age: number,
  around: Surroundings,
): Prepared {
  const id = newId();
  const shipmentId = newId();
  const sold = r.lines.map((line, position) => {
    const listing = around.listings.get(line.channelSku)!;
    const product = listing.productId ? around.products.get(listing.productId)! : null;
    return {
      line,
      position,
      listing,
      product,
      parts: product ? partsOf(product.id, around) : null,
      lineId: newId(),
    };
  });
  const weightMg = sold
    .flatMap(s =>
      (s.parts ?? []).map(
        p => (around.products.get(p.productId)!.weightMg ?? 0) * p.quantity * s.line.quantity,
      ),
    )
    .reduce((a, b) => a + b, 0);
  const departureId = around.planner.plan(around.open, weightMg, tx.at);
  const priority = urgency(around.open, departureId, r.promised);
  const parts = sold.flatMap(s =>
    (s.parts ?? []).map(p => ({
      id: newId(),
      lineId: s.lineId,
      orderId: id,
      shipmentId,
      productId: p.productId,
      quantity: p.quantity * s.line.quantity,
    })),
  );
  const checked: CheckedLine[] = sold.map(s => ({
    channelName: channel.name,
    channelSku: s.line.channelSku,
    title: s.line.title,
    product: s.product && toChecked(s.product),
    parts: s.parts?.map(p => toChecked(around.products.get(p.productId)!)) ?? null,
  }));
  return {
    id,
    received: r,
    shipmentId,
    departureId,
    stops: checkOrder({ payment: r.payment, shipTo: r.shipTo, lines: checked }, ADDRESS_TABLES),
    wants: parts.map(p => ({
      partId: p.id,
      orderId: id,
      productId: p.productId,
      quantity: p.quantity,
      priority,
      age,
    })),
    rows: {
      order: {
        id,
        warehouseId: channel.warehouseId,
        channelId: channel.id,
        channelNumber: r.channelNumber,
        placedAt: r.placedAt ? new Date(r.placedAt) : null,
        receivedAt: tx.at,
        buyer: r.shipTo.name,
        mail: r.mail,
        shipTo: JSON.stringify(r.shipTo),
        payment: r.payment,
        currency: r.currency,
        linesMinor: r.lines.reduce((n, l) => n + l.quantity * l.priceMinor, 0),
        shippingMinor: r.shippingMinor,
        promised: r.promised,
        note: r.note,
        digest: digestOf(r),
        checkedAt: tx.at,
        departureId,
        stage: 'Clear',
      },
      lines: sold.map(s => ({
        id: s.lineId,
        orderId: id,
        position: s.position,
        channelSku: s.line.channelSku,
        title: s.line.title,
        quantity: s.line.quantity,
        priceMinor: s.line.priceMinor,
        listingId: s.listing.id,
        productId: s.product?.id ?? null,
        recipeId: s.product?.recipe.recipeId ?? null,
      })),
      parts,
    },
  };
}

/** Minutes since 1970 of the cut-off, or of the promised day when no departure is planned: smaller is more urgent. */
function urgency(
  open: readonly OpenDeparture[],
  departureId: string | null,
  promised: string | null,
): number {
  const cutOff =
    open.find(d => d.id === departureId)?.cutOff ??
    (promised ? `${promised}T00:00:00Z` : '2100-01-01T00:00:00Z');
  return Math.floor(Date.parse(cutOff) / 60_000);
}
