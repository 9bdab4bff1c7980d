import { PurchaseLine } from './purchaseLine.entity.js';
import {
  addSupplier,
  lockPurchaseOrder,
  openFirst,
  orderedBefore,
  type PurchaseOrderRecord,
  productsBySku,
  receivedUnits,
} from './purchaseOrders.queries.js';

export type { PurchaseOrderRecord } from './purchaseOrders.queries.js';

import type { PurchaseOrderIn, PurchaseOrderRow, SupplierView } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, newId, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';
import { PurchaseOrder } from './purchaseOrder.entity.js';
import { Supplier } from './supplier.entity.js';

/** Orders to suppliers: what is awaited, by when, and how much of it came. */
@Injectable()
export class PurchaseOrders {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  create(input: PurchaseOrderIn, doer: Doer): Promise<string> {
    return this.db.tx(doer, tx => once(tx, input.key, 'purchase order', () => this.put(tx, input)));
  }

  /** Refuses a purchase order that cannot be, without writing anything; gives its products by SKU. One supplier's reference is given once. */
  async judge(sql: Sql, input: Omit<PurchaseOrderIn, 'key' | 'note'>): Promise<Map<string, string>> {
    const skus = [...new Set(input.lines.map(l => l.sku))];
    if (skus.length < input.lines.length)
      throw new Forbidden('A product stands on two lines.', 'Put its quantities together on one line.');
    const products = await productsBySku(sql, skus);
    const bySku = new Map(products.map(p => [p.sku, p]));
    for (const sku of skus) {
      const p = bySku.get(sku);
      if (!p) throw new NotHere(`The product ${sku}`, 'Make the product first.');
      if (p.kind === 'bundle') throw new Forbidden(`${p.name} is a bundle.`, 'Order its parts.');
      if (p.stage === 'Retired')
        throw new Forbidden(`${p.name} is retired.`, 'Make it live again first, or leave it out.');
    }
    if (input.reference !== '') {
      const same = await orderedBefore(sql, input.supplier, input.reference);
      if (same)
        throw new TooLate(
          `PO-${same.no} is the order ${input.reference} to ${input.supplier} already.`,
          'Look at that one, or give this one another reference.',
        );
    }
    return new Map(products.map(p => [p.sku, p.id]));
  }

  /** Makes a purchase order. */
  async put(tx: Tx, input: PurchaseOrderIn): Promise<string> {
    const supplier = await this.supplier(tx, input.supplier);
    const products = await this.judge(tx, input);
    const house = await this.house.warehouse(tx);
    await tx.insert(PurchaseOrder, [
      {
        id: input.key,
        warehouseId: house.id,
        supplierId: supplier.id,
        reference: input.reference,
        expected: input.expected,
        note: input.note,
        createdAt: tx.at,
        personId: tx.personId,
      },
    ]);
    await tx.insert(
      PurchaseLine,
      input.lines.map((l, position) => ({
        id: newId(),
        orderId: input.key,
        position,
        productId: products.get(l.sku)!,
        quantity: l.quantity,
      })),
    );
    const { no } = (await tx.of(PurchaseOrder).findOne({ where: { id: input.key }, select: { no: true } }))!;
    await tx.tell('purchases', `PO-${no}`);
    return `PO-${no}`;
  }

  /** Orders from a supplier what they send to a buyer: it is never received here. Gives its number, and where the supplier reads mail. */
  async toBuyer(
    tx: Tx,
    supplierId: string,
    note: string,
    lines: readonly { productId: string; quantity: number; priceMinor: number | null }[],
  ): Promise<{ id: string; no: number; supplier: string; mail: string }> {
    const { name: supplier, mail } = (await tx.of(Supplier).findOneByOrFail({ id: supplierId }))!;
    const house = await this.house.warehouse(tx);
    const id = newId();
    await tx.insert(PurchaseOrder, [
      {
        id,
        warehouseId: house.id,
        supplierId,
        reference: '',
        expected: null,
        state: 'to buyer',
        note,
        createdAt: tx.at,
        personId: tx.personId,
      },
    ]);
    await tx.insert(
      PurchaseLine,
      lines.map((l, position) => ({ id: newId(), orderId: id, position, ...l })),
    );
    const { no } = await tx.of(PurchaseOrder).findOneByOrFail({ id });
    await tx.tell('purchases', `PO-${no}`);
    return { id, no, supplier, mail };
  }

  /** What was ordered to a buyer left, or is called off. */
  async endToBuyer(tx: Tx, id: string, state: 'done' | 'cancelled'): Promise<void> {
    await tx.of(PurchaseOrder).update({ id, state: 'to buyer' }, { state, doneAt: tx.at });
    await tx.tell('purchases', '');
  }

  /** The supplier of a name, made when it is new. */
  async supplierNamed(tx: Tx, name: string): Promise<string> {
    return (await this.supplier(tx, name)).id;
  }

  /** All suppliers, with where they read mail. */
  suppliers(): Promise<SupplierView[]> {
    return this.db
      .of(Supplier)
      .find({ select: { id: true, name: true, mail: true }, order: { name: 'ASC' } });
  }

  async setMail(id: string, mail: string, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const { affected } = await tx.of(Supplier).update({ id }, { mail });
      if (!affected) throw new NotHere('That supplier', 'Look at the list again.');
      await tx.tell('purchases', '');
    });
  }

  /** Locks the supplier of a name, made when it is new, so that two cannot give one reference at once. Its row is locked by its key alone: many orders to one supplier come one after another. */
  private async supplier(tx: Tx, name: string): Promise<{ id: string }> {
    const find = () => tx.of(Supplier).findOne({ where: { name }, select: { id: true } });
    if (!(await find())) await addSupplier(tx, newId(), name);
    const { id } = (await find())!;
    return (await tx
      .of(Supplier)
      .findOne({ where: { id }, select: { id: true }, lock: { mode: 'pessimistic_write' } }))!;
  }

  /** Open orders by the day they are expected, then the newest that are done. */
  async list(at: Date): Promise<PurchaseOrderRow[]> {
    const today = await this.house.today(this.db, at);
    const rows = await openFirst(this.db);
    return rows.map(({ id: _, no, ...r }) => ({
      ...r,
      no: `PO-${no}`,
      late: r.state === 'open' && r.expected !== null && r.expected < today,
      frees: r.state === 'open' ? r.frees : 0,
    }));
  }

  async found(tx: Tx, no: string): Promise<PurchaseOrderRecord> {
    const number = /^PO-(\d{1,9})$/i.exec(no.trim())?.[1] ?? -1;
    const order = await lockPurchaseOrder(tx, number);
    if (!order) throw new NotHere(`The purchase order ${no.slice(0, 20)}`);
    return order;
  }

  /** Says that the rest is not coming. What was received stays. */
  end(no: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const order = await this.found(tx, no);
      if (order.state === 'to buyer')
        throw new Forbidden(
          `PO-${order.no} goes to a buyer.`,
          'Cancel that order, or send it from here, on its page.',
        );
      if (order.state !== 'open')
        throw new Forbidden(`PO-${order.no} is ${order.state} already.`, 'Look at the list again.');
      const got = await receivedUnits(tx, order.id);
      await tx
        .of(PurchaseOrder)
        .update({ id: order.id }, { state: (got?.n ?? 0) > 0 ? 'done' : 'cancelled', doneAt: tx.at });
      await tx.tell('purchases', `PO-${order.no}`);
    });
  }
}
