import { NetworkPlan } from '@auk/contract';
import { planBeyond, planChangeSays } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, fromJson, type Tx } from '../database/db.js';
import { Forbidden, TooLate } from '../http/problem.js';
import { Reservations } from '../reservations/reservations.module.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundPartLine } from './inboundPartLine.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { InboundLoading, type Loaded, mustBeKnown } from './loading.service.js';
import { InboundPlans, isOpen, type PlannedPart, partsOf } from './plans.service.js';
import { InboundReserving } from './reserving.service.js';
import { lockShipment, shipmentBy, tell } from './shipments.js';
import { refreshShipment } from './stages.js';
import { InboundWaysService, type PlacedPart } from './ways.service.js';

/** Which parts a changed plan takes the place of, and what is made ready instead. */
interface Instead {
  replaced: PlannedPart[];
  fresh: { site: NetworkPlan['parts'][number]['site']; placed: PlacedPart }[];
}

/** Takes in what a network has changed of its plan: parts that stand as they were stay, the others are put back and made ready anew. */
@Injectable()
export class InboundReplanning {
  constructor(
    private readonly db: Db,
    private readonly loading: InboundLoading,
    private readonly plans: InboundPlans,
    private readonly ways: InboundWaysService,
    private readonly reserving: InboundReserving,
    private readonly reservations: Reservations,
  ) {}

  async take(no: string, key: string, doer: Doer): Promise<void> {
    const loaded = await this.loading.load(this.db, no);
    const seen = JSON.stringify(loaded.shipment.planNow);
    const instead = loaded.shipment.planNow ? await this.instead(loaded) : null;
    await this.db.tx(doer, async tx => {
      await lockShipment(tx, no);
      await once(tx, key, 'replan inbound', async () => {
        const shipment = await shipmentBy(tx, no);
        if (!instead)
          throw new Forbidden(
            `${shipment.network} has not changed its plan, as far as is known.`,
            'Go on with what is made ready.',
          );
        if (JSON.stringify(shipment.planNow) !== seen)
          throw new TooLate('The plan was changed again meanwhile.', 'Look at it again, then repeat it.');
        await this.replace(tx, shipment, instead, loaded);
      });
    });
  }

  /** Parts that the change concerns go; booked ones stay as they are, so what their center gets must not become less. */
  private async instead(loaded: Loaded): Promise<Instead> {
    const { shipment } = loaded;
    const plan = NetworkPlan.parse(fromJson(shipment.planNow));
    const changes = await this.plans.changes(this.db, shipment);
    const parts = await this.plans.parts(this.db, shipment.id);
    const concerned = (p: PlannedPart): boolean => changes.some(c => c.center === p.center);
    const bound = parts.find(
      p =>
        concerned(p) &&
        !isOpen(p.part) &&
        p.part.stage !== 'Cancelled' &&
        changes.some(c => c.center === p.center && c.now < c.before),
    );
    if (bound)
      throw new Forbidden(
        `What goes to ${bound.center} is booked already, and the network wants other units there: ${changes
          .filter(c => c.center === bound.center)
          .map(planChangeSays)
          .join('; ')}.`,
        'Call its booking off first, or ask the network to leave it.',
      );
    const replaced = parts.filter(p => concerned(p) && isOpen(p.part));
    const left = planBeyond(
      partsOf(plan),
      parts.filter(p => !replaced.includes(p)),
    );
    const placed = await this.ways.boxesOf(loaded, left, mustBeKnown(loaded));
    const siteOf = (center: string) => plan.parts.find(p => p.site.center === center)!.site;
    return { replaced, fresh: left.map((l, i) => ({ site: siteOf(l.center), placed: placed[i]! })) };
  }

  private async replace(
    tx: Tx,
    shipment: InboundShipment,
    { replaced, fresh }: Instead,
    loaded: Loaded,
  ): Promise<void> {
    const parts = await tx.of(InboundPart).findBy({ shipmentId: shipment.id });
    const freed: string[] = [];
    for (const { part } of replaced) {
      const now = parts.find(p => p.id === part.id)!;
      if (!isOpen(now))
        throw new TooLate(
          `What goes to ${now.center} was booked or given up meanwhile.`,
          'Look at it again, then repeat it.',
        );
      if (now.orderId) freed.push(...(await this.reserving.giveBack(tx, shipment, now.orderId)));
      await tx.of(InboundPart).update(now.id, { stage: 'Cancelled', why: null });
      // Nothing goes by it any more.
      await tx.of(InboundPartLine).delete({ partId: now.id });
    }
    const reserved = parts.some(p => p.orderId !== null);
    let seq = Math.max(...parts.map(p => p.seq));
    for (const { site, placed } of fresh) {
      seq += 1;
      const id = await this.ways.insertPart(tx, { shipmentId: shipment.id, seq, site }, placed);
      if (!reserved) continue;
      const part = (await tx.of(InboundPart).findOneBy({ id }))!;
      await this.reserving.reservePart(tx, { shipment, part, number: `IN-${shipment.no}-${seq}` }, loaded);
    }
    // The new parts come before others who wait for the same goods.
    await this.reservations.reserveAgain(tx, freed);
    await tx.of(InboundShipment).update(shipment.id, { planNow: null as never });
    await refreshShipment(tx, shipment.id);
    const centers = fresh.map(f => f.site.center).join(', ');
    await tell(
      tx,
      shipment.id,
      `The changed plan is taken: ${replaced.map(r => r.center).join(', ') || 'nothing'} is put back${centers ? `, and ${centers} is made ready anew` : ''}.`,
    );
    await tx.tell('inbound', `IN-${shipment.no}`);
    await tx.tell('orders', '');
  }
}
