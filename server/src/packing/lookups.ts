import { type KnownThing, looksLike, type PackState, packSerial, type Scan } from '@auk/core';
import type { Tx } from '../database/db.js';
import { orderOfSession, orderWanting, serialHolder } from './packing.queries.js';

/** A serial number that left with another order and did not come back. */
export async function serialElsewhere(
  tx: Tx,
  sessionId: string,
  state: PackState,
  scan: Scan,
): Promise<KnownThing | null> {
  const told = packSerial(state, scan);
  if (!told) return null;
  const { orderId } = (await orderOfSession(tx, sessionId))!;
  const holder = await serialHolder(tx, told.productId, told.serial, orderId);
  return holder && { kind: 'serial', name: `OR-${holder.no}` };
}

/** Whose a product is that this order does not want, and what of this order it is easily taken for. */
export async function whose(
  tx: Tx,
  sessionId: string,
  state: PackState,
  known: KnownThing,
): Promise<KnownThing> {
  if (known.kind !== 'product' || !known.sku) return known;
  const { orderId } = (await orderOfSession(tx, sessionId))!;
  const other = await orderWanting(tx, known.sku, orderId);
  const alike = looksLike(
    known.name,
    state.lines.map(l => l.product.name),
  );
  return {
    ...known,
    ...(other && { wantedBy: { order: `OR-${other.no}`, lies: other.lies ?? '' } }),
    ...(alike && { looksLike: alike }),
  };
}
