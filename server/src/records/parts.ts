import type { RecipePart } from '@auk/core';
import { newId, type Tx } from '../database/db.js';

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
  await tx.run('UPDATE linePart SET quantity = quantity - ?, made = made + ? WHERE id = ?', [
    units,
    units,
    kitPartId,
  ]);
  const parts = instead.map(p => ({
    partId: newId(),
    productId: p.productId,
    quantity: p.quantity * units,
  }));
  for (const p of parts)
    await tx.run(
      'INSERT INTO linePart (id, lineId, orderId, shipmentId, productId, quantity, kitId) SELECT ?, lineId, orderId, shipmentId, ?, ?, productId FROM linePart WHERE id = ?',
      [p.partId, p.productId, p.quantity, kitPartId],
    );
  return parts;
}
