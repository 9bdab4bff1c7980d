import type { PurchaseOrderIn, PurchaseOrderRow } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { once } from '../acts/once.js';
import { Db, type Doer, newId, type Sql, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Forbidden, NotHere, TooLate } from '../http/problem.js';

export interface PurchaseOrderRecord {
  id: string;
  no: number;
  reference: string;
  expected: string | null;
  state: 'open' | 'done' | 'cancelled';
  supplier: string;
}

/** Purchase orders on the page. */
const SHOWN = 200;

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
    const products = await sql.rows<{ id: string; sku: string; name: string; kind: string; stage: string }>(
      'SELECT id, sku, name, kind, stage FROM product WHERE sku IN (?)',
      [skus],
    );
    const bySku = new Map(products.map(p => [p.sku, p]));
    for (const sku of skus) {
      const p = bySku.get(sku);
      if (!p) throw new NotHere(`The product ${sku}`, 'Make the product first.');
      if (p.kind === 'bundle') throw new Forbidden(`${p.name} is a bundle.`, 'Order its parts.');
      if (p.stage === 'Retired')
        throw new Forbidden(`${p.name} is retired.`, 'Make it live again first, or leave it out.');
    }
    if (input.reference !== '') {
      const same = await sql.one<{ no: number }>(
        'SELECT o.no FROM purchaseOrder o JOIN supplier s ON s.id = o.supplierId WHERE s.name = ? AND o.reference = ?',
        [input.supplier, input.reference],
      );
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
    await tx.insert('purchaseOrder', [
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
      'purchaseLine',
      input.lines.map((l, position) => ({
        id: newId(),
        orderId: input.key,
        position,
        productId: products.get(l.sku)!,
        quantity: l.quantity,
      })),
    );
    const { no } = (await tx.one<{ no: number }>('SELECT no FROM purchaseOrder WHERE id = ?', [input.key]))!;
    await tx.tell('purchases', `PO-${no}`);
    return `PO-${no}`;
  }

  /** Locks the supplier of a name, made when it is new, so that two cannot give one reference at once. Its row is locked by its key alone: many orders to one supplier come one after another. */
  private async supplier(tx: Tx, name: string): Promise<{ id: string }> {
    const find = () => tx.one<{ id: string }>('SELECT id FROM supplier WHERE name = ?', [name]);
    if (!(await find()))
      await tx.run('INSERT IGNORE INTO supplier (id, name) VALUES (?, ?)', [newId(), name]);
    const { id } = (await find())!;
    return (await tx.one<{ id: string }>('SELECT id FROM supplier WHERE id = ? FOR UPDATE', [id]))!;
  }

  /** Open orders by the day they are expected, then the newest that are done. */
  async list(at: Date): Promise<PurchaseOrderRow[]> {
    const today = await this.house.today(this.db, at);
    const rows = await this.db.rows<
      Omit<PurchaseOrderRow, 'no' | 'late' | 'frees'> & { id: string; no: number; frees: number }
    >(
      `SELECT o.id, o.no, s.name AS supplier, o.reference, CAST(o.expected AS CHAR) AS expected, o.state, COUNT(l.id) AS \`lines\`, CAST(SUM(l.quantity) AS INT) AS ordered, CAST(SUM(l.received) AS INT) AS received,
         (SELECT COUNT(DISTINCT p.orderId) FROM linePart p JOIN orders x ON x.id = p.orderId AND x.stage = 'Short' JOIN purchaseLine w ON w.productId = p.productId AND w.orderId = o.id AND w.received < w.quantity
           WHERE p.quantity > (SELECT COALESCE(SUM(a.quantity), 0) FROM allocation a WHERE a.partId = p.id)) AS frees
       FROM ((SELECT id FROM purchaseOrder WHERE state = 'open' ORDER BY expected LIMIT ${SHOWN}) UNION (SELECT id FROM purchaseOrder ORDER BY no DESC LIMIT ${SHOWN})) w
         JOIN purchaseOrder o ON o.id = w.id JOIN supplier s ON s.id = o.supplierId JOIN purchaseLine l ON l.orderId = o.id GROUP BY o.id ORDER BY o.state <> 'open', IF(o.state = 'open', o.expected IS NULL, 0), IF(o.state = 'open', o.expected, NULL), o.no DESC LIMIT ${SHOWN}`,
    );
    return rows.map(({ id: _, no, ...r }) => ({
      ...r,
      no: `PO-${no}`,
      late: r.state === 'open' && r.expected !== null && r.expected < today,
      frees: r.state === 'open' ? r.frees : 0,
    }));
  }

  async found(tx: Tx, no: string): Promise<PurchaseOrderRecord> {
    const number = /^PO-(\d{1,9})$/i.exec(no.trim())?.[1] ?? -1;
    const order = await tx.one<PurchaseOrderRecord>(
      'SELECT o.id, o.no, o.reference, CAST(o.expected AS CHAR) AS expected, o.state, s.name AS supplier FROM purchaseOrder o JOIN supplier s ON s.id = o.supplierId WHERE o.no = ? FOR UPDATE',
      [number],
    );
    if (!order) throw new NotHere(`The purchase order ${no.slice(0, 20)}`);
    return order;
  }

  /** Says that the rest is not coming. What was received stays. */
  end(no: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const order = await this.found(tx, no);
      if (order.state !== 'open')
        throw new Forbidden(`PO-${order.no} is ${order.state} already.`, 'Look at the list again.');
      const got = await tx.one<{ n: number }>(
        'SELECT CAST(SUM(received) AS INT) AS n FROM purchaseLine WHERE orderId = ?',
        [order.id],
      );
      await tx.run('UPDATE purchaseOrder SET state = ?, doneAt = ? WHERE id = ?', [
        (got?.n ?? 0) > 0 ? 'done' : 'cancelled',
        tx.at,
        order.id,
      ]);
      await tx.tell('purchases', `PO-${order.no}`);
    });
  }
}
