import type { Judged, ScanIn, SplitIn } from '@auk/contract';
import {
  type Address,
  type Answer,
  applied,
  canonicalCode,
  documentTotals,
  type OrderDocument,
  quoted,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { Db, type Doer, newId, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { DuplicateSearch, OrderChecks, OrderIntake } from '../intake/intake.module.js';
import { CatalogService } from '../products/products.module.js';
import {
  addressFields,
  BUILDS,
  event,
  freeSplitNumber,
  headColumns,
  INBOUND,
  insertTyped,
  isElsewhere,
  leaveWith,
  loadOrders,
  OrderWriter,
  refuseHouseOrder,
  rootOf,
  type StoredOrder,
  setHead,
  toHistory,
  weightOf,
} from '../records/records.module.js';
import { Reservations } from '../reservations/reservations.module.js';
import { ScansService } from '../scans/scans.module.js';
import { DeparturePlanner } from '../timetable/timetable.module.js';
import { OrderEditing } from './editing.service.js';
import { OrderNote } from './orderNote.entity.js';
import { OrdersService } from './orders.service.js';
import { channelByCode, openLines, wantsTogether } from './typed.queries.js';
import { divided, emptyDocument, lineOf, receivedOf } from './typedDocument.js';

/** An order of the house's own: its number, what it is for, and the day on which it is wanted. */
export interface HouseOrder {
  number: string;
  says: string;
  due: string | null;
}
/** What an order of the house's own wants. */
export interface HouseLine {
  sku: string;
  name: string;
  quantity: number;
}

/** Stages in which nothing of an order is on a list yet. */
const BEFORE_LISTS = ['Incoming', 'Stopped', 'Parked', 'Short', 'Clear'];

/** Orders that people make: typed in, copied, split off, put together. */
@Injectable()
export class TypedOrders {
  constructor(
    private readonly db: Db,
    private readonly catalog: CatalogService,
    private readonly editing: OrderEditing,
    private readonly orders: OrdersService,
    private readonly writer: OrderWriter,
    private readonly checks: OrderChecks,
    private readonly intake: OrderIntake,
    private readonly reservations: Reservations,
    private readonly duplicates: DuplicateSearch,
    private readonly planner: DeparturePlanner,
    private readonly house: HouseService,
    private readonly scans: ScansService,
  ) {}

  /** Begins a draft: an order that is kept, but neither checked nor reserved until it is finished. */
  create(channelCode: string, doer: Doer): Promise<string> {
    return this.db.tx(doer, async tx => {
      const order = await this.insertOrder(
        tx,
        await this.channel(tx, channelCode),
        emptyDocument(await this.home(tx)),
        { draftedAt: tx.at },
      );
      await toHistory(tx, [event(tx, order, 'drafted', 'Begun by hand.')]);
      return order;
    });
  }

  /** A new draft with the lines, prices and addresses of an order; or free of charge, where goods that did not come whole are sent again. */
  copy(id: string, free: boolean, doer: Doer): Promise<string> {
    return this.db.tx(doer, async tx => {
      const from = await this.editing.locked(tx, id);
      const document = applied(from.document, []);
      Object.assign(document.head, {
        payment: 'unpaid',
        paidMinor: 0,
        promised: null,
        shipBy: null,
        weightOverrideMg: null,
        ...(free && { payment: 'paid', shippingMinor: 0, discountMinor: 0 }),
      });
      if (free)
        for (const line of Object.values(document.lines))
          Object.assign(line, { priceMinor: 0, taxMinor: null });
      const made = await this.insertOrder(
        tx,
        { id: from.channelId, currency: from.currency },
        emptyDocument(''),
        { draftedAt: tx.at },
      );
      const order = await this.editing.locked(tx, made);
      await this.writer.write(tx, order, document, {
        kind: 'drafted',
        says: `Copied from ${from.channelNumber}${free ? ', free of charge' : ''}.`,
      });
      // Whoever copies an order means a second one.
      await this.checks.accept(tx, made, from.channelNumber);
      if (free)
        await toHistory(tx, [
          event(tx, id, 'sent again', `To be sent again, free of charge: ${order.channelNumber}.`),
        ]);
      return made;
    });
  }

  /** Adds what a scan means to a draft: three scans of one code are three units, a case code counts its pack. The same scan again changes nothing. */
  scan(id: string, scan: ScanIn, doer: Doer): Promise<Judged<object>> {
    return this.db.tx(doer, async tx => {
      const session = await this.scans.of(tx, { kind: 'draft', orderId: id }, scan.device);
      return this.scans.take<object>(tx, 'draft', session, scan, async ({ state }, kept) => ({
        answer: await this.judge(tx, await this.editing.locked(tx, id), kept.text),
        state,
      }));
    });
  }

  private async judge(tx: Tx, order: StoredOrder, text: string): Promise<Answer> {
    const refusal = (says: string, next: string): Answer => ({ kind: 'refused', tone: 'wrong', says, next });
    if (!order.draft) return refusal('The order is entered already.', 'Change its lines on its page.');
    const found = await this.catalog.byCode(tx, text);
    if (!found)
      return refusal(
        `Unknown code ${quoted(canonicalCode(text))}. No product has it.`,
        'Find the product by its name.',
      );
    const before = lineOf(order.document, found.sku);
    const after = await this.editing.withLine(tx, order, { sku: found.sku, quantity: found.units });
    await this.editing.put(tx, order, after, false, `Scanned ${found.units} × ${found.name}`);
    const quantity = lineOf(after, found.sku);
    return {
      kind: 'counted',
      tone: 'right',
      says: `${quantity} × ${found.name}.`,
      next:
        quantity > before + 1 && found.units > 1
          ? `That code counts ${found.units}.`
          : 'Scan the next piece.',
    };
  }

  /** Finishes a draft: it is an order like any other from now on. */
  finish(id: string, version: number, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const order = await this.editing.locked(tx, id);
      this.editing.sameVersion(order, version);
      if (!order.draft) throw new Forbidden('The order is entered already.', 'Look at its page.');
      if (order.lines.length === 0)
        throw new Forbidden('The order has no lines.', 'Scan something, or add it by its SKU.');
      const { payment, paidMinor } = order.document.head;
      await setHead(tx, id, {
        draftedAt: null,
        checkedAt: tx.at,
        placedAt: tx.at,
        receivedAt: tx.at,
        ...(payment === 'paid' && !paidMinor ? { paidMinor: documentTotals(order.document).total } : {}),
      });
      await toHistory(tx, [event(tx, id, 'entered', 'Entered by hand.')]);
      await this.plan(tx, order);
      const lines = await openLines(tx, id);
      await this.duplicates.store(
        tx,
        await this.duplicates.among(tx, [{ id, received: receivedOf(order), lines }]),
      );
      await this.checks.recheck(tx, [id]);
      await this.intake.arrived(tx, [id]);
      await tx.tell('orders', id);
    });
  }

  /** Splits lines (or part of their units) off into an order of its own, with its share of shipping, discount and payment to the cent. */
  split(id: string, input: z.infer<typeof SplitIn>, doer: Doer): Promise<string> {
    return this.db.tx(doer, async tx => {
      const order = await this.editing.locked(tx, id);
      this.editing.sameVersion(order, input.version);
      return this.splitLocked(tx, order, input.lines);
    });
  }

  /** Splits lines of an order off that the transaction has locked. */
  async splitLocked(
    tx: Tx,
    order: StoredOrder,
    lines: readonly { key: string; quantity: number }[],
  ): Promise<string> {
    await refuseHouseOrder(tx, order.id);
    await this.mustBeFree(tx, order);
    const { stay, go } = divided(order.document, lines);
    const root = await rootOf(tx, order.id);
    const number = await freeSplitNumber(tx, root);
    await this.writer.write(tx, order, stay, {
      kind: 'split',
      says: `Lines were split off into ${number}.`,
    });
    const made = await this.insertOrder(
      tx,
      { id: order.channelId, currency: order.currency },
      emptyDocument(''),
      { checkedAt: tx.at, splitOfId: root.id, number },
    );
    const part = await this.editing.locked(tx, made);
    await this.writer.write(tx, part, go, {
      kind: 'split',
      says: `Split off from ${order.channelNumber}.`,
    });
    await this.plan(tx, part);
    await this.checks.recheck(tx, [order.id, made].sort());
    await tx.tell('orders', '');
    return made;
  }

  /** Refuses what only orders can do of which nothing is on a list yet, and that the house sends itself. */
  async mustBeFree(tx: Tx, order: StoredOrder): Promise<void> {
    mustBeFree(order);
    if (await isElsewhere(tx, order.id))
      throw new Forbidden(
        `${order.channelNumber} is sent by somebody else.`,
        'Send it from here again first, on its page.',
      );
  }

  /** Puts orders of one buyer and address together into the oldest of them; the others are cancelled and name it. */
  merge(ids: readonly string[], doer: Doer): Promise<string> {
    return this.db.tx(doer, async tx => {
      const sorted = [...new Set(ids)].sort();
      const orders = [...(await loadOrders(tx, sorted, true)).values()].sort((a, b) => a.no - b.no);
      if (orders.length !== sorted.length || orders.length < 2) throw new NotHere('One of those orders');
      for (const o of orders) {
        await this.mustBeFree(tx, o);
        await refuseHouseOrder(tx, o.id);
      }
      const keys = await wantsTogether(tx, sorted);
      if (keys.length !== 1 || new Set(orders.map(o => o.currency)).size !== 1)
        throw new Forbidden(
          'Those orders go to different buyers or addresses, or are paid in different currencies.',
          'Only orders to one buyer at one address can be put together.',
        );
      const [first, ...rest] = orders as [StoredOrder, ...StoredOrder[]];
      const together = applied(first.document, []);
      const freed: string[] = [];
      for (const o of rest) {
        for (const [key, line] of Object.entries(o.document.lines))
          together.lines[`${o.channelNumber}|${key}`] = { ...line };
        for (const f of ['shippingMinor', 'discountMinor', 'paidMinor'])
          together.head[f] = Number(together.head[f] ?? 0) + Number(o.document.head[f] ?? 0);
        freed.push(
          ...(await this.orders.cancelLocked(
            tx,
            o.id,
            `Put together with ${first.channelNumber}; it travels there.`,
            first.id,
          )),
        );
        await tx.of(OrderNote).update({ orderId: o.id }, { orderId: first.id });
      }
      await this.writer.write(tx, first, together, {
        kind: 'merged',
        says: `${rest.map(o => o.channelNumber).join(', ')} travel with this order.`,
      });
      await this.checks.recheck(tx, [first.id]);
      await this.reservations.reserveAgain(tx, freed);
      await tx.tell('orders', '');
      return first.id;
    });
  }

  /** An order of the house's own for the parts of a build: reserved, listed and picked like any other. It leaves with no departure. */
  async ofBuild(tx: Tx, build: HouseOrder, parts: readonly HouseLine[]): Promise<string> {
    return this.ofHouse(tx, BUILDS, build, await this.house.sender(tx), parts);
  }

  /** An order of the house's own for what goes to a fulfillment center. */
  ofInbound(tx: Tx, shipment: HouseOrder, to: Address, lines: readonly HouseLine[]): Promise<string> {
    return this.ofHouse(tx, INBOUND, shipment, to, lines);
  }

  private async ofHouse(
    tx: Tx,
    channel: string,
    { number, says, due }: HouseOrder,
    to: Address,
    lines: readonly HouseLine[],
  ): Promise<string> {
    const document = emptyDocument(await this.home(tx));
    Object.assign(document.head, addressFields('shipTo', to), {
      'shipTo.name': says.slice(0, 80),
      promised: due,
    });
    const id = await this.insertOrder(tx, await this.channel(tx, channel), document, {
      checkedAt: tx.at,
      number,
    });
    const order = await this.editing.locked(tx, id);
    const after = applied(order.document, []);
    for (const p of lines)
      after.lines[`${p.sku}#1`] = {
        title: p.name,
        quantity: p.quantity,
        priceMinor: 0,
        taxMinor: null,
        taxPpm: null,
        weightMg: null,
        leaveOut: null,
      };
    await this.writer.write(tx, order, after, { kind: 'entered', says: `${says}.` });
    await this.checks.recheck(tx, [id]);
    await tx.tell('orders', id);
    return id;
  }

  private async insertOrder(
    tx: Tx,
    channel: { id: string; currency: string },
    document: OrderDocument,
    how: { draftedAt?: Date; checkedAt?: Date; splitOfId?: string; number?: string },
  ): Promise<string> {
    const id = newId();
    const { id: warehouseId } = await this.house.warehouse(tx);
    const { number, ...columns } = how;
    await insertTyped(
      tx,
      {
        id,
        warehouseId,
        channelId: channel.id,
        receivedAt: tx.at,
        currency: channel.currency,
        ...(headColumns(document) as Record<string, string>),
        digest: '',
        ...columns,
      },
      number ?? null,
    );
    return id;
  }

  /** Plans the next departure for an order by the weight of its parts. */
  private async plan(tx: Tx, order: StoredOrder): Promise<void> {
    await leaveWith(
      tx,
      [order.id],
      this.planner.plan(await this.planner.open(tx, tx.at), await weightOf(tx, order.id), tx.at),
    );
  }

  private async channel(tx: Tx, code: string): Promise<{ id: string; currency: string }> {
    const found = await channelByCode(tx, code);
    if (!found) throw new NotHere(`The channel ${quoted(code)}`, 'Choose one of the channels offered.');
    return found;
  }

  private async home(tx: Tx): Promise<string> {
    return (await this.house.warehouse(tx)).country;
  }
}

function mustBeFree(order: StoredOrder): void {
  if (order.draft) throw new Forbidden(`${order.channelNumber} is a draft.`, 'Enter it first.');
  if (order.underWay || !BEFORE_LISTS.includes(order.stage))
    throw new Forbidden(
      `${order.channelNumber} is ${order.stage}${order.underWay ? ', and its pieces are on their way' : ''}.`,
      'Only orders that are on no pick list yet can be split or put together.',
    );
}
