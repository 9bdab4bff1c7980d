import { createHash } from 'node:crypto';
import {
  type CheckedLine,
  checkOrder,
  documentOf,
  lineKeys,
  orderStage,
  type ReceivedOrder,
  type Stage,
  type StopReason,
  type Suspicion,
} from '@auk/core';
import { newId, type Row, type Tx } from '../database/db.js';
import type { Matches } from '../products/products.module.js';
import { addressFields, emptyHolds, headColumns, lineRows } from '../records/records.module.js';
import { ADDRESS_TABLES } from '../reference/addressTables.js';
import type { PartWant } from '../reservations/reservations.module.js';
import type { DeparturePlanner, OpenDeparture } from '../timetable/timetable.module.js';
import { toChecked } from './checked.js';

/** A channel as intake needs it. `home` is the country its orders ship from. */
export interface IntakeChannel {
  id: string;
  name: string;
  currency: string;
  warehouseId: string;
  home: string;
}

/** An order that came in, with its rows as they are to be stored. */
export interface Prepared {
  id: string;
  received: ReceivedOrder;
  shipmentId: string;
  departureId: string | null;
  stops: StopReason[];
  wants: PartWant[];
  rows: { order: Row; lines: Row[]; parts: Row[] };
}

/** What an order says; its revision and the order of its fields do not count. */
export const digestOf = ({ revision: _, ...r }: ReceivedOrder): string =>
  createHash('sha256').update(JSON.stringify(r)).digest('hex');

/** What orders are prepared with. */
export interface Surroundings {
  channel: IntakeChannel;
  matches: Matches;
  open: OpenDeparture[];
  planner: DeparturePlanner;
  letUncodedThrough: boolean;
  latinWanted: boolean;
}

/** What stops an order that came in. */
export function checkPrepared(
  p: Prepared,
  around: Surroundings,
  suspicions: readonly Suspicion[],
): StopReason[] {
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
      latinWanted: around.latinWanted,
    },
    ADDRESS_TABLES,
  );
}

/** An order's rows and wants; it leaves with the departure that is planned for it. */
export function prepare(tx: Tx, r: ReceivedOrder, age: number, around: Surroundings): Prepared {
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

/** The stage of an order that has just come in. What may be left out is wanted as far as it was promised. */
export function stageOf(p: Prepared, held: number, promised: ReadonlyMap<string, number>): Stage {
  const optional = new Set(p.rows.parts.filter(x => x.optional === true).map(x => x.id));
  return orderStage({
    checked: true,
    cancelled: false,
    parked: false,
    elsewhere: 'no',
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
