import { INBOUND_STAGES, type InboundStage, leastAdvanced } from '@auk/core';
import type { Tx } from '../database/db.js';
import { stageOfOrder } from './inbound.queries.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';

const BOXED = new Set(['Packed', 'Labelled', 'Departed']);
const at = (stage: InboundStage): number => INBOUND_STAGES.indexOf(stage);

/** Brings a part to a stage, and its shipment to that of its least advanced part. */
export async function bringTo(tx: Tx, part: InboundPart, stage: InboundStage): Promise<void> {
  if (part.stage !== stage) await tx.of(InboundPart).update(part.id, { stage });
  await refreshShipment(tx, part.shipmentId);
}

/** The stage of a part that has not left follows from its order and its booking; what its network tells brings it further. */
export async function refreshPart(tx: Tx, partId: string): Promise<void> {
  const part = (await tx.of(InboundPart).findOneBy({ id: partId }))!;
  if (part.stage === 'Cancelled' || at(part.stage) > at('Travelling')) return;
  const order = part.orderId ? await stageOfOrder(tx, part.orderId) : null;
  const left = part.leftAt !== null || order?.stage === 'Departed';
  const boxed = order !== null && BOXED.has(order.stage);
  await bringTo(
    tx,
    part,
    left ? 'Travelling' : part.bookState === 'booked' ? 'Booked' : boxed ? 'Boxed' : 'Draft',
  );
}

export async function refreshShipment(tx: Tx, shipmentId: string): Promise<void> {
  const parts = await tx.of(InboundPart).findBy({ shipmentId });
  const stage = leastAdvanced(parts.map(p => p.stage));
  const done = stage === 'Closed' || stage === 'Cancelled';
  const shipment = (await tx.of(InboundShipment).findOneBy({ id: shipmentId }))!;
  if (shipment.stage === stage) return;
  await tx.of(InboundShipment).update(shipmentId, { stage, doneAt: done ? tx.at : null });
  await tx.tell('inbound', `IN-${shipment.no}`);
}
