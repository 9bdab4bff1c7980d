import { NetworkPlan } from '@auk/contract';
import { type PlanChange, type PlanPart, planChangeSays, planChanges } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, fromJson, type Sql, type Tx } from '../database/db.js';
import { Centers } from '../elsewhere/elsewhere.module.js';
import { planned } from './inbound.queries.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { lockShipment, shipmentBy, tell } from './shipments.js';

/** Most changes that are told in one sentence. */
const TOLD = 3;

/** A part with what is to go to its center. */
export interface PlannedPart extends PlanPart {
  part: InboundPart;
}

/** The network's plan of a shipment, which it may change until what goes by it is booked: what became of it is asked for and kept. */
@Injectable()
export class InboundPlans {
  constructor(
    private readonly db: Db,
    private readonly centers: Centers,
  ) {}

  /** Asks the network for its plan now, and keeps it where it is not what was made ready. While it is silent what is known stays. */
  async look(no: string): Promise<PlanChange[]> {
    const seen = await shipmentBy(this.db, no);
    if (seen.planCode === null || seen.doneAt) return [];
    const answer = await this.centers.planNow(seen.network, seen.planCode);
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      const shipment = await lockShipment(tx, no);
      if (answer.kind === 'answered' && shipment.planCode === answer.value.plan)
        await this.keep(tx, shipment, answer.value);
      return this.changes(tx, (await tx.of(InboundShipment).findOneBy({ id: shipment.id }))!);
    });
  }

  private async keep(tx: Tx, shipment: InboundShipment, plan: NetworkPlan): Promise<void> {
    const parts = await this.parts(tx, shipment.id);
    const changes = planChanges(parts, partsOf(plan));
    const before = shipment.planNow ? fromJson(shipment.planNow) : null;
    const now = changes.length > 0 ? plan : null;
    if (JSON.stringify(before) === JSON.stringify(now)) return;
    await tx.of(InboundShipment).update(shipment.id, { planNow: (now && JSON.stringify(now)) as never });
    const says = now
      ? `${shipment.network} has changed its plan: ${listed(changes)}.`
      : `${shipment.network} has its plan again as it was.`;
    await tell(tx, shipment.id, says);
    for (const { part, center } of parts) {
      const its = changes.filter(c => c.center === center);
      const why = its.length > 0 ? `${shipment.network} has changed its plan: ${listed(its)}.` : null;
      if (part.orderId && isOpen(part))
        await tx.of(InboundPart).update(part.id, { why: why?.slice(0, 300) ?? null });
    }
    await tx.tell('inbound', `IN-${shipment.no}`);
  }

  /** What the network has changed since the parts were made ready, as far as it is known. */
  async changes(sql: Sql, shipment: InboundShipment): Promise<PlanChange[]> {
    if (!shipment.planNow) return [];
    const plan = NetworkPlan.parse(fromJson(shipment.planNow));
    return planChanges(await this.parts(sql, shipment.id), partsOf(plan));
  }

  /** Parts with what is to go to each, by product code. */
  async parts(sql: Sql, shipmentId: string): Promise<PlannedPart[]> {
    const parts = await sql.of(InboundPart).find({ where: { shipmentId }, order: { seq: 'ASC' } });
    const lines = await planned(sql, shipmentId);
    return parts.map(part => ({
      part,
      center: part.center,
      lines: lines.filter(l => l.partId === part.id),
    }));
  }
}

/** A network's plan as the core compares it. */
export const partsOf = ({ parts }: NetworkPlan): PlanPart[] =>
  parts.map(p => ({
    center: p.site.center,
    lines: p.lines.map(l => ({ sku: l.code, units: l.units })),
  }));

/** A part that is neither booked nor given up. */
export const isOpen = (part: InboundPart): boolean =>
  part.stage !== 'Cancelled' &&
  part.leftAt === null &&
  !['asked', 'unknown', 'booked'].includes(part.bookState);

const listed = (changes: readonly PlanChange[]): string =>
  changes.slice(0, TOLD).map(planChangeSays).join('; ') +
  (changes.length > TOLD ? `; and ${changes.length - TOLD} more` : '');
