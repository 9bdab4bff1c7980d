import type { Stage } from '@auk/core';
import type { QueryDeepPartialEntity } from 'typeorm';
import { In } from 'typeorm';
import { newId, type Row, type Tx } from '../database/db.js';
import { addWanted, wantUsedOnly } from './heads.queries.js';
import { LinePart } from './linePart.entity.js';
import { Order } from './order.entity.js';
import { OrderLine } from './orderLine.entity.js';
import { Shipment } from './shipment.entity.js';
import { countStages } from './stages.js';

/** Facts of an order that its document does not say. */
export type HeadFacts = Pick<
  Order,
  | 'parkedAt'
  | 'parkedReason'
  | 'parkWord'
  | 'cancelledAt'
  | 'mergedIntoId'
  | 'starred'
  | 'payment'
  | 'paidMinor'
  | 'draftedAt'
  | 'checkedAt'
  | 'placedAt'
  | 'receivedAt'
  | 'base'
  | 'digest'
  | 'revision'
>;

/** Sets facts of a locked order. Its version counts on, so that whoever looks at it meanwhile is told; `quietly` it does not. */
export async function setHead(
  tx: Tx,
  id: string,
  facts: Partial<HeadFacts>,
  quietly: 'quietly' | '' = '',
): Promise<void> {
  await tx.of(Order).update(id, facts as QueryDeepPartialEntity<Order>);
  if (!quietly) await tx.of(Order).increment({ id }, 'version', 1);
}

/** An order that people make: its row and its shipment, Incoming. Without a number it is given one of our own. */
export async function insertTyped(tx: Tx, order: Row & { id: string }, number: string | null): Promise<void> {
  await tx.insert(Order, [{ ...order, channelNumber: number ?? order.id, stage: 'Incoming' }]);
  tx.hold('orders', [order.id]);
  if (!number) {
    const { no } = await tx.of(Order).findOneOrFail({ where: { id: order.id }, select: { no: true } });
    await tx.of(Order).update(order.id, { channelNumber: `TY-${no}` });
  }
  await tx.insert(Shipment, [{ id: newId(), orderId: order.id, seq: 1, departureId: null }]);
  await countStages(tx, new Map([['Incoming', 1]]));
}

/** Rows of orders that came in together. */
export interface EntryRows {
  orders: readonly Row[];
  shipments: readonly Row[];
  lines: readonly Row[];
  parts: readonly Row[];
}

/** Inserts orders that came in, with as few statements as possible. */
export async function insertOrders(tx: Tx, rows: EntryRows): Promise<void> {
  tx.holding('orders', rows.orders as (Row & { id: string })[]);
  // In this order on the connection; each is written while the database is at the one before.
  await Promise.all([
    tx.insert(Order, rows.orders),
    tx.insert(Shipment, rows.shipments),
    tx.insert(OrderLine, rows.lines),
    tx.insert(LinePart, rows.parts),
  ]);
}

/** More of a product is wanted by an order: the first of its parts of that product grows. */
export async function wantMore(tx: Tx, orderId: string, productId: string, units: number): Promise<void> {
  await addWanted(tx, units, orderId, productId);
}

/** What was not used is not wanted any more, so that the order is done with what was. */
export async function wantOnlyUsed(tx: Tx, orderId: string): Promise<void> {
  await wantUsedOnly(tx, orderId);
}

/** Stores the stage of orders that have just been inserted. */
export async function setFirstStage(tx: Tx, ids: readonly string[], stage: Stage): Promise<void> {
  await tx.of(Order).update({ id: In([...ids]) }, { stage });
}
