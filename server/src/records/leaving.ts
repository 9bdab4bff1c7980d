import type { ChosenService } from '@auk/contract';
import { In } from 'typeorm';
import { fromJson, type Sql, type Tx } from '../database/db.js';
import { setDeparture } from './leaving.queries.js';
import { Shipment } from './shipment.entity.js';

/** Plans orders, and their shipments, for a departure (null: none is known yet). */
export async function leaveWith(
  tx: Tx,
  orderIds: readonly string[],
  departureId: string | null,
): Promise<void> {
  if (orderIds.length === 0) return;
  await setDeparture(tx, departureId, orderIds);
  await tx.of(Shipment).update({ orderId: In(orderIds) }, { departureId });
}

/** The service that a person chose for an order; null when nobody did. */
export async function chosenFor(sql: Sql, orderId: string): Promise<ChosenService | null> {
  const shipment = await sql.of(Shipment).findOneBy({ orderId, seq: 1 });
  return shipment?.chosen ? fromJson<ChosenService>(shipment.chosen) : null;
}

/** Notes the service that a person chose for an order; null frees it. */
export async function chooseFor(tx: Tx, orderId: string, chosen: ChosenService | null): Promise<void> {
  await tx.of(Shipment).update({ orderId }, { chosen: chosen as never });
}
