import type { RecipePart } from '@auk/core';
import { newId, type Tx } from '../database/db.js';
import { LinePart } from './linePart.entity.js';
import { insertPartOf, partToMade } from './parts.queries.js';

/** A part that stands in for units of a kit. */
export interface StandIn {
  partId: string;
  productId: string;
  quantity: number;
}

/** Turns units of a line's kit into its parts, written as parts of the line; gives them. */
export async function ekeOut(
  tx: Tx,
  kitPartId: string,
  units: number,
  instead: readonly RecipePart[],
): Promise<StandIn[]> {
  await partToMade(tx, units, kitPartId);
  const parts = instead.map(p => ({
    partId: newId(),
    productId: p.productId,
    quantity: p.quantity * units,
  }));
  for (const p of parts) await insertPartOf(tx, p.partId, p.productId, p.quantity, kitPartId);
  return parts;
}

/** Units of a part are left out at the bench, or (negative) wanted again. */
export async function leaveOut(tx: Tx, partId: string, units: number): Promise<void> {
  await tx.of(LinePart).increment({ id: partId }, 'leftOut', units);
}

/** The products of an order's parts. */
export async function productsOf(tx: Tx, orderId: string): Promise<string[]> {
  const parts = await tx.of(LinePart).find({ where: { orderId }, select: { productId: true } });
  return [...new Set(parts.map(p => p.productId))];
}
