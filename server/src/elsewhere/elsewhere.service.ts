import type { ElsewhereView, SentIn } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { CarrierRegistry } from '../carriers/carriers.module.js';
import { Db, type Doer, isDuplicate, newId, type Tx } from '../database/db.js';
import { HandoverService } from '../departures/departures.module.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { OrderChecks } from '../intake/intake.module.js';
import { ElsewhereLabels } from '../labels/labels.module.js';
import { TypedOrders } from '../orders/orders.module.js';
import { Parcels } from '../parcels/parcels.module.js';
import { CatalogService } from '../products/products.module.js';
import { PurchaseOrders } from '../receiving/receiving.module.js';
import {
  changeElsewhere,
  event,
  leaveWith,
  loadOrders,
  OrderWriter,
  type StoredOrder,
  sendElsewhere,
  sendFromHere,
  sentElsewhere,
  toHistory,
  weightOf,
} from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { Places } from '../stock/stock.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { elsewhereByNumber, labelElsewhere, shipmentOf, whoSends } from './elsewhere.queries.js';
import { Placing } from './placing.service.js';

/** Who is to send lines of an order: a supplier by name, or a fulfillment center by its code. */
export type Sender = { supplier: string } | { center: string };

/** Taking an order back from a center: it must have let it go, and is told again behind what may be on its way there. */
export interface AtCenter {
  letGo(orderId: string, center: string): Promise<void>;
  callOff(tx: Tx, orderId: string, center: string): Promise<void>;
}

/** Orders that a supplier or a fulfillment center sends to the buyer: they want nothing of the house. */
@Injectable()
export class Elsewhere {
  constructor(
    private readonly db: Db,
    private readonly typed: TypedOrders,
    private readonly writer: OrderWriter,
    private readonly checks: OrderChecks,
    private readonly reservations: Reservations,
    private readonly purchases: PurchaseOrders,
    private readonly placing: Placing,
    private readonly catalog: CatalogService,
    private readonly planner: DeparturePlanner,
    private readonly house: HouseService,
    private readonly places: Places,
    private readonly parcels: Parcels,
    private readonly labels: ElsewhereLabels,
    private readonly carriers: CarrierRegistry,
    private readonly handover: HandoverService,
  ) {}

  async view(orderId: string): Promise<ElsewhereView | null> {
    const row = await whoSends(this.db, orderId);
    return (
      row && {
        by: row.center === null ? 'supplier' : 'center',
        name: row.supplier ?? row.center!,
        purchase: row.purchaseNo === null ? null : `PO-${row.purchaseNo}`,
        mail: row.mail ?? '',
        placedAt: row.placedAt?.toISOString() ?? null,
        leftAt: row.leftAt?.toISOString() ?? null,
        why: row.why,
      }
    );
  }

  /**
   * Lets somebody else send lines of an order: they become an order of their own, or the whole order goes when nothing would stay. Whole
   * lines go, so that asked twice it finds none of them and does nothing more. Gives the order that goes.
   */
  send(orderId: string, keys: readonly string[], to: Sender, doer: Doer): Promise<string> {
    return this.db.tx(doer, async tx => {
      const order = await this.locked(tx, orderId);
      const lines = order.lines.filter(l => keys.includes(l.key));
      if (lines.length === 0)
        throw new Forbidden(
          `${order.channelNumber} has none of those lines any more.`,
          'Look at the order again.',
        );
      const whole = lines.length === order.lines.length;
      if (whole && (await sentElsewhere(tx, orderId))) return orderId;
      await this.typed.mustBeFree(tx, order);
      const goes = whole
        ? orderId
        : await this.typed.splitLocked(
            tx,
            order,
            lines.map(l => ({ key: l.key, quantity: l.quantity })),
          );
      await this.goes(tx, whole ? order : await this.locked(tx, goes), to);
      return goes;
    });
  }

  /** An order wants nothing of the house from now on, and leaves with none of its departures. */
  private async goes(tx: Tx, order: StoredOrder, to: Sender): Promise<void> {
    const freed = await this.writer.wantNothing(tx, order);
    const by =
      'center' in to
        ? { center: to.center }
        : { supplierId: await this.purchases.supplierNamed(tx, to.supplier) };
    await sendElsewhere(tx, order.id, by);
    await leaveWith(tx, [order.id], null);
    const name = 'center' in to ? to.center : to.supplier;
    await toHistory(tx, [event(tx, order.id, 'elsewhere', `${name} sends it to the buyer.`)]);
    await this.checks.recheck(tx, [order.id]);
    await this.reservations.reserveAgain(tx, freed);
    await tx.tell('orders', order.id);
  }

  /** What a center has to do with an order that is taken back. */
  private atCenter: AtCenter | null = null;
  onBack(atCenter: AtCenter): void {
    this.atCenter = atCenter;
  }

  /** The house sends it after all: what was ordered elsewhere is called off. */
  async back(orderId: string, doer: Doer): Promise<void> {
    const seen = await sentElsewhere(this.db, orderId);
    if (seen?.center && !seen.leftAt) await this.atCenter!.letGo(orderId, seen.center);
    await this.db.tx(doer, async tx => {
      const order = await this.locked(tx, orderId);
      const sent = await this.mustWait(tx, order);
      await this.placing.callOff(tx, sent, order.channelNumber);
      if (sent.center) await this.atCenter!.callOff(tx, orderId, sent.center);
      await sendFromHere(tx, orderId);
      const products = order.lines.flatMap(l => l.productId ?? []);
      await this.writer.wantAgain(tx, order, await this.catalog.withParts(tx, products));
      const open = await this.planner.open(tx, tx.at);
      await leaveWith(tx, [orderId], this.planner.plan(open, await weightOf(tx, orderId), tx.at));
      await toHistory(tx, [event(tx, orderId, 'elsewhere', 'The house sends it after all.')]);
      await this.checks.recheck(tx, [orderId]);
      await tx.tell('orders', orderId);
    });
  }

  /** It left there: the order departs, its channel and buyer are told once. The same told twice is once. */
  async left(orderId: string, { carrier, tracking }: SentIn, doer: Doer): Promise<void> {
    try {
      await this.db.tx(doer, tx => this.leftLocked(tx, orderId, carrier, tracking));
    } catch (error) {
      if (!isDuplicate(error)) throw error;
      throw new TooLate(
        `${tracking} is the number of another parcel.`,
        'Type the number that the supplier told.',
      );
    }
  }

  /** The order that somebody else sends, by its number or that of its purchase order; with what was told of it already. */
  async waiting(tx: Tx, number: string): Promise<{ orderId: string; tracking: string | null }> {
    const no = /^OR-(\d{1,9})$/i.exec(number)?.[1] ?? -1;
    const [found, other] = await elsewhereByNumber(tx, number.toUpperCase(), Number(no));
    if (!found || other)
      throw new NotHere(
        `${other ? 'One' : 'An'} order ${number} that somebody else sends`,
        'Name it by the number of its purchase order.',
      );
    return { orderId: found.orderId, tracking: (await labelElsewhere(tx, found.orderId))?.tracking ?? null };
  }

  /** As `left`, in a transaction. */
  async leftLocked(tx: Tx, orderId: string, carrier: string, tracking: string): Promise<void> {
    const order = await this.locked(tx, orderId);
    const known = await labelElsewhere(tx, orderId);
    if (known?.tracking === tracking && order.stage === 'Departed') return;
    const sent = await this.mustWait(tx, order);
    const own = await this.carriers.get(carrier.toLowerCase(), tx);
    const id = newId();
    const placeId = await this.places.makeForParcel(tx, order.warehouseId, id);
    const shipmentId = (await shipmentOf(tx, orderId))!.id;
    await this.parcels.open(tx, [{ id, orderId, shipmentId, placeId }]);
    await this.parcels.close(tx, id, { boxCode: null, weightMg: null });
    await this.labels.put(tx, {
      id: newId(),
      parcelId: id,
      carrier: own?.code ?? '',
      carrierName: own?.name ?? carrier,
      serviceName: 'sent elsewhere',
      minor: 0,
      arrives: await this.house.today(tx, tx.at),
      tracking,
    });
    await changeElsewhere(tx, orderId, { placedAt: sent.placedAt ?? tx.at, leftAt: tx.at });
    if (sent.purchaseOrderId) await this.purchases.endToBuyer(tx, sent.purchaseOrderId, 'done');
    await this.handover.leave(tx, [{ id, no: await this.parcels.noOf(tx, id), orderId }]);
    await tx.tell('orders', orderId);
  }

  /** What somebody else is to send, and has not sent yet. */
  private async mustWait(tx: Tx, order: StoredOrder) {
    const sent = await sentElsewhere(tx, order.id);
    if (!sent) throw new Forbidden(`${order.channelNumber} is sent from here.`, 'Look at the order again.');
    if (sent.leftAt)
      throw new TooLate(`${order.channelNumber} has left already.`, 'Look at its parcel on its page.');
    if (order.stage === 'Cancelled')
      throw new Forbidden(
        `${order.channelNumber} is cancelled.`,
        'Tell whoever sent it; it comes back as a return.',
      );
    return sent;
  }

  private async locked(tx: Tx, id: string): Promise<StoredOrder> {
    const order = (await loadOrders(tx, [id], true)).get(id);
    if (!order) throw new NotHere('That order');
    return order;
  }
}
