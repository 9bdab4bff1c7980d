import { type Address, count, type PlanChange, planChangeSays } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, fromJson, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden } from '../http/problem.js';
import { OrdersService, TypedOrders } from '../orders/orders.module.js';
import { PackPlans, Unpacking } from '../packing/packing.module.js';
import { Undoing } from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { Places } from '../stock/stock.module.js';
import { expectedOf } from './inbound.queries.js';
import { InboundPart } from './inboundPart.entity.js';
import { InboundPartLine } from './inboundPartLine.entity.js';
import { InboundShipment } from './inboundShipment.entity.js';
import { InboundLoading, type Loaded, mustBeAsLoaded } from './loading.service.js';
import { boxesHold } from './plannedBoxes.js';
import { InboundPlans } from './plans.service.js';
import { lockPart, lockShipment, mustBeDraft, tell } from './shipments.js';
import { refreshShipment } from './stages.js';

/** From reserve on the goods of a shipment are promised, listed, picked and packed as those of an order; each center's part is one. */
@Injectable()
export class InboundReserving {
  constructor(
    private readonly db: Db,
    private readonly loading: InboundLoading,
    private readonly typed: TypedOrders,
    private readonly orders: OrdersService,
    private readonly undoing: Undoing,
    private readonly unpacking: Unpacking,
    private readonly reservations: Reservations,
    private readonly network: InboundPlans,
    private readonly plans: PackPlans,
    private readonly places: Places,
    private readonly house: HouseService,
  ) {}

  async reserve(no: string, key: string, doer: Doer): Promise<void> {
    const changed = await this.network.look(no);
    const loaded = await this.loading.load(this.db, no);
    await this.db.tx(doer, async tx => {
      const shipment = await lockShipment(tx, no);
      await once(tx, key, 'reserve inbound', () => this.reserveIn(tx, shipment, loaded, changed));
    });
  }

  private async reserveIn(
    tx: Tx,
    shipment: InboundShipment,
    loaded: Loaded,
    changed: readonly PlanChange[],
  ): Promise<void> {
    const parts = await tx
      .of(InboundPart)
      .find({ where: { shipmentId: shipment.id }, order: { seq: 'ASC' } });
    mustBeDraft(shipment, parts);
    if (parts.length === 0)
      throw new Forbidden(
        'No way was chosen yet, so nobody knows which center gets what.',
        'Choose a way first; then it is reserved.',
      );
    if (changed.length > 0)
      throw new Forbidden(
        `${shipment.network} has changed its plan since the way was chosen: ${changed.map(planChangeSays).join('; ')}.`,
        'Choose the way again; its boxes are planned anew.',
      );
    await mustBeAsLoaded(tx, shipment, loaded);
    await this.mustBeHere(tx, loaded);
    for (const part of parts) {
      const number = parts.length === 1 ? `IN-${shipment.no}` : `IN-${shipment.no}-${part.seq}`;
      await this.reservePart(tx, { shipment, part, number }, loaded);
    }
    const units = loaded.lines.reduce((n, l) => n + l.line.units, 0);
    await tell(tx, shipment.id, `Reserved: ${count(units, 'unit')} are promised and can be picked.`);
    await tx.tell('inbound', `IN-${shipment.no}`);
    await tx.tell('orders', '');
  }

  /** What goes to one center becomes an order of the house's own. */
  async reservePart(
    tx: Tx,
    { shipment, part, number }: { shipment: InboundShipment; part: InboundPart; number: string },
    loaded: Loaded,
  ): Promise<void> {
    const lines = await tx.of(InboundPartLine).findBy({ partId: part.id });
    const orderId = await this.typed.ofInbound(
      tx,
      { number, says: `${shipment.name} to ${part.center}`, due: shipment.shipDay },
      fromJson<Address>(part.address),
      lines.map(l => {
        const { sku, name } = loaded.lines.find(x => x.product.id === l.productId)!.product;
        return { sku, name, quantity: l.units };
      }),
    );
    const { id: warehouseId } = await this.house.warehouse(tx);
    const placeId = await this.places.makeAway(tx, warehouseId, number);
    await this.plans.set(tx, orderId, boxesHold(part, loaded));
    await tx.of(InboundPart).update(part.id, { orderId, placeId });
  }

  /** All of it must be free and last long enough; what is not is named, with what can go and when the rest comes. */
  private async mustBeHere(tx: Tx, { lines, rules }: Loaded): Promise<void> {
    for (const { product, line, free, soon } of lines) {
      if (line.units <= free) continue;
      if (soon > 0)
        throw new Forbidden(
          `${free} of ${line.units} ${product.name} can go; ${soon} more expire within ${rules?.leastShelfDays ?? 0} days of arriving, which the network does not take.`,
          `Send ${free}, or wait for fresh ones.`,
        );
      const more = await expectedOf(tx, product.id);
      const when = more
        ? ` ${more.units} more come with PO-${more.no}${more.expected ? ` on ${more.expected}` : ''}.`
        : '';
      throw new Forbidden(
        `${free} of ${line.units} ${product.name} are free to go.${when}`,
        `Send ${free} now, or wait until more is here.`,
      );
    }
  }

  /** Gives a shipment up: what was picked or packed is laid on the staging place, to be put back. What is booked is called off first. */
  async cancel(no: string, key: string, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const shipment = await lockShipment(tx, no);
      await once(tx, key, 'cancel inbound', async () => {
        const parts = await tx.of(InboundPart).findBy({ shipmentId: shipment.id });
        if (shipment.stage === 'Cancelled' || shipment.stage === 'Closed')
          throw new Forbidden(`${shipment.name} is ${shipment.stage}.`, 'Begin another shipment.');
        for (const part of parts) if (part.stage !== 'Cancelled') await this.cancelPart(tx, shipment, part);
        if (parts.length === 0)
          await tx.of(InboundShipment).update(shipment.id, { stage: 'Cancelled', doneAt: tx.at });
        else await refreshShipment(tx, shipment.id);
        await tell(tx, shipment.id, 'Cancelled.');
        await tx.tell('inbound', `IN-${shipment.no}`);
      });
    });
  }

  /** The same for what goes to one center. */
  cancelOne(partId: string, key: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const { shipment, part } = await lockPart(tx, partId);
      await once(tx, key, 'cancel inbound', async () => {
        if (part.stage === 'Cancelled' || part.stage === 'Closed')
          throw new Forbidden(`What goes to ${part.center} is ${part.stage}.`, 'Begin another shipment.');
        await this.cancelPart(tx, shipment, part);
        await refreshShipment(tx, shipment.id);
        await tell(tx, shipment.id, `Nothing goes to ${part.center} any more.`, { partId });
        await tx.tell('inbound', `IN-${shipment.no}`);
      });
    });
  }

  /** Gives one part up. */
  async cancelPart(tx: Tx, shipment: InboundShipment, part: InboundPart): Promise<void> {
    if (part.leftAt)
      throw new Forbidden(
        `What goes to ${part.center} has left.`,
        'It is counted there; what is missing then is claimed.',
      );
    if (['asked', 'unknown', 'booked'].includes(part.bookState))
      throw new Forbidden(
        `${shipment.name} is booked for ${part.center}${part.bookState === 'booked' ? '' : ', as far as anybody knows'}.`,
        'Call its booking off first.',
      );
    if (part.orderId)
      await this.reservations.reserveAgain(tx, await this.giveBack(tx, shipment, part.orderId));
    await tx.of(InboundPart).update(part.id, { stage: 'Cancelled' });
  }

  /** Gives the products whose goods are free again. */
  async giveBack(tx: Tx, shipment: InboundShipment, orderId: string): Promise<string[]> {
    await this.unpacking.unpack(tx, orderId);
    const held = await this.undoing.listed(tx, orderId);
    if (held === 'picking')
      throw new Forbidden(
        `Somebody is picking ${shipment.name} right now.`,
        'Wait until that list is picked; what was picked is put back then.',
      );
    await this.undoing.takeBack(tx, orderId);
    const freed = await this.orders.cancelLocked(tx, orderId, `IN-${shipment.no} was cancelled.`, null);
    await tx.tell('orders', orderId);
    return freed;
  }
}
