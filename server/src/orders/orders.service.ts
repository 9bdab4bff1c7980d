import { checkOrder, explode, type Stage } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { CatalogService } from '../catalog/catalog.service.js';
import { Db, type Doer, fromJson, NONE, newId, type Tx } from '../database/db.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { type HoldChange, type PartWant, StockService } from '../stock/stock.service.js';
import { ADDRESS_TABLES } from './addressTables.js';
import { toChecked } from './checked.js';
import { event } from './events.js';
import { refreshStages } from './stages.js';

/** What a person may do to an order: park, free, cancel; and what the house does: reserve again. */
@Injectable()
export class OrdersService {
  constructor(
    private readonly db: Db,
    private readonly stock: StockService,
    private readonly catalog: CatalogService,
  ) {}

  park(id: string, reason: string, doer: Doer): Promise<void> {
    return this.change(id, doer, async (tx, stage) => {
      if (['Departed', 'Cancelled'].includes(stage))
        throw new Forbidden(
          `The order is ${stage}.`,
          'Only an order that is still in the house can be parked.',
        );
      await tx.run('UPDATE orders SET parkedAt = ?, parkedReason = ?, version = version + 1 WHERE id = ?', [
        tx.at,
        reason,
        id,
      ]);
      await tx.insert('orderEvent', [event(tx, id, 'parked', `Parked: ${reason}`)]);
    });
  }

  unpark(id: string, doer: Doer): Promise<void> {
    return this.change(id, doer, async tx => {
      await tx.run(
        'UPDATE orders SET parkedAt = NULL, parkedReason = NULL, version = version + 1 WHERE id = ?',
        [id],
      );
      await tx.insert('orderEvent', [event(tx, id, 'freed', 'No longer parked.')]);
    });
  }

  /** Cancels an order that is not on a list yet; its reservations go back and are promised to others at once. */
  cancel(id: string, reason: string, doer: Doer): Promise<void> {
    return this.change(id, doer, async (tx, stage) => {
      if (
        !['Incoming', 'Stopped', 'Parked', 'Short', 'Clear'].includes(stage) ||
        (await holdsBeyondSoft(tx, id))
      )
        throw new Forbidden(
          `The order is ${stage}, its pieces are on their way.`,
          'Finish its list first, then cancel it; the pieces must be put back.',
        );
      const soft = await tx.rows<{ partId: string; productId: string; quantity: number }>(
        "SELECT partId, productId, quantity FROM allocation WHERE orderId = ? AND hold = 'soft' AND quantity > 0",
        [id],
      );
      await this.stock.apply(tx, {
        holds: soft.map(
          s =>
            ({
              ...s,
              orderId: id,
              hold: 'soft',
              stopId: null,
              parcelId: null,
              change: -s.quantity,
              why: 'cancel',
            }) satisfies HoldChange & { quantity: number },
        ),
      });
      await tx.run('UPDATE orders SET cancelledAt = ?, version = version + 1 WHERE id = ?', [tx.at, id]);
      await tx.insert('orderEvent', [event(tx, id, 'cancelled', `Cancelled: ${reason}`)]);
      await this.reserveAgain(
        tx,
        soft.map(s => s.productId),
      );
    });
  }

  async star(id: string, starred: boolean, doer: Doer): Promise<void> {
    await this.change(id, doer, async tx => {
      await tx.run('UPDATE orders SET starred = ? WHERE id = ?', [starred, id]);
    });
  }

  /** Links a listing to a product and checks every order that waited for it again. Returns how many were freed of this reason. */
  async link(channelSku: string, sku: string, doer: Doer): Promise<number> {
    return this.db.tx(doer, async tx => {
      const listing = await tx.one<{ id: string }>(
        'SELECT id FROM listing WHERE channelSku = ? AND productId IS NULL LIMIT 1',
        [channelSku],
      );
      if (!listing) throw new NotHere(`The unlinked listing ${channelSku}`);
      const product = await tx.one<{ id: string; name: string }>(
        "SELECT id, name FROM product WHERE sku = ? AND stage = 'Live'",
        [sku],
      );
      if (!product) throw new NotHere(`A live product ${sku}`);
      const orders = await tx.rows<{ id: string }>(
        'SELECT DISTINCT o.id FROM orders o JOIN orderLine l ON l.orderId = o.id WHERE l.listingId = ? AND o.cancelledAt IS NULL ORDER BY o.id FOR UPDATE',
        [listing.id],
      );
      await tx.run('UPDATE listing SET productId = ? WHERE id = ?', [product.id, listing.id]);
      await this.matchLines(tx, listing.id, product.id);
      for (const o of orders)
        await tx.insert('orderEvent', [
          event(tx, o.id, 'linked', `Listing ${channelSku} was linked to ${product.name}.`),
        ]);
      await this.recheck(
        tx,
        orders.map(o => o.id),
      );
      return orders.length;
    });
  }

  /** Gives waiting lines of a listing their product and parts. */
  private async matchLines(tx: Tx, listingId: string, productId: string): Promise<void> {
    const products = await this.catalog.products(tx);
    const recipe = products.get(productId)!.recipe;
    const lines = await tx.rows<{ id: string; orderId: string; quantity: number; shipmentId: string }>(
      'SELECT l.id, l.orderId, l.quantity, s.id AS shipmentId FROM orderLine l JOIN shipment s ON s.orderId = l.orderId AND s.seq = 1 WHERE l.listingId = ? AND l.productId IS NULL',
      [listingId],
    );
    const exploded = explode(productId, 1, id => products.get(id)?.recipe);
    await tx.run(
      'UPDATE orderLine SET productId = ?, recipeId = ? WHERE listingId = ? AND productId IS NULL',
      [productId, recipe.recipeId, listingId],
    );
    if (!exploded.ok) return;
    await tx.insert(
      'linePart',
      lines.flatMap(l =>
        exploded.value.map(p => ({
          id: newId(),
          lineId: l.id,
          orderId: l.orderId,
          shipmentId: l.shipmentId,
          productId: p.productId,
          quantity: p.quantity * l.quantity,
        })),
      ),
    );
  }

  /** Checks orders again: lifts reasons that no longer hold, raises new ones, reserves what is free, and derives stages. */
  async recheck(tx: Tx, orderIds: readonly string[]): Promise<Map<string, Stage>> {
    const products = await this.catalog.products(tx);
    for (const id of orderIds) {
      const order = (await tx.one<{ payment: 'paid'; shipTo: string; channelName: string }>(
        'SELECT o.payment, o.shipTo, c.name AS channelName FROM orders o JOIN channel c ON c.id = o.channelId WHERE o.id = ?',
        [id],
      ))!;
      const lines = await tx.rows<{
        id: string;
        channelSku: string;
        title: string;
        productId: string | null;
      }>('SELECT id, channelSku, title, productId FROM orderLine WHERE orderId = ?', [id]);
      const parts = await tx.rows<{ lineId: string; productId: string }>(
        'SELECT lineId, productId FROM linePart WHERE orderId = ?',
        [id],
      );
      const reasons = checkOrder(
        {
          payment: order.payment,
          shipTo: fromJson(order.shipTo),
          lines: lines.map(l => ({
            channelName: order.channelName,
            channelSku: l.channelSku,
            title: l.title,
            product: l.productId ? toChecked(products.get(l.productId)!) : null,
            parts:
              l.productId && parts.some(p => p.lineId === l.id)
                ? parts.filter(p => p.lineId === l.id).map(p => toChecked(products.get(p.productId)!))
                : null,
          })),
        },
        ADDRESS_TABLES,
      );
      const open = await tx.rows<{ id: string; code: string; subject: string }>(
        'SELECT id, code, subject FROM stopReason WHERE orderId = ? AND liftedAt IS NULL',
        [id],
      );
      const same = (a: { code: string; subject: string }, b: { code: string; subject: string }) =>
        a.code === b.code && a.subject === b.subject;
      for (const o of open)
        if (!reasons.some(r => same(r, o)))
          await tx.run('UPDATE stopReason SET liftedAt = ? WHERE id = ?', [tx.at, o.id]);
      await tx.insert(
        'stopReason',
        reasons
          .filter(r => !open.some(o => same(r, o)))
          .map(r => ({ id: newId(), orderId: id, ...r, raisedAt: tx.at, liftedAt: null })),
      );
    }
    const wants = await this.openWants(tx, 'p.orderId IN (?)', [[...orderIds, NONE]]);
    await this.stock.reserve(tx, wants, 'reserve');
    return refreshStages(tx, orderIds);
  }

  /** Promises what has become free of some products to the parts that still want it, most urgent first. */
  async reserveAgain(tx: Tx, productIds: readonly string[]): Promise<void> {
    if (productIds.length === 0) return;
    const wants = await this.openWants(tx, 'p.productId IN (?)', [[...new Set(productIds)]]);
    if (wants.length === 0) return;
    const holds = await this.stock.reserve(tx, wants, 'reserve');
    if (holds.length > 0)
      await refreshStages(
        tx,
        holds.map(h => h.orderId),
      );
  }

  private openWants(tx: Tx, where: string, params: unknown[]): Promise<PartWant[]> {
    return tx.rows<PartWant>(
      `SELECT p.id AS partId, p.orderId, p.productId, p.quantity - COALESCE(SUM(a.quantity), 0) AS quantity,
         COALESCE(FLOOR(UNIX_TIMESTAMP(d.cutOff) / 60), 68374080) AS priority, o.no AS age
       FROM linePart p JOIN orders o ON o.id = p.orderId LEFT JOIN departure d ON d.id = o.departureId LEFT JOIN allocation a ON a.partId = p.id
       WHERE ${where} AND o.cancelledAt IS NULL AND o.stage NOT IN ('Departed', 'Cancelled')
       GROUP BY p.id HAVING quantity > 0`,
      params,
    );
  }

  private change(id: string, doer: Doer, work: (tx: Tx, stage: Stage) => Promise<void>): Promise<void> {
    return this.db.tx(doer, async tx => {
      const order = await tx.one<{ stage: Stage }>('SELECT stage FROM orders WHERE id = ? FOR UPDATE', [id]);
      if (!order) throw new NotHere('That order');
      await work(tx, order.stage);
      await refreshStages(tx, [id]);
      await tx.tell('orders', id);
    });
  }
}

async function holdsBeyondSoft(tx: Tx, orderId: string): Promise<boolean> {
  return (
    (await tx.one("SELECT 1 FROM allocation WHERE orderId = ? AND hold <> 'soft' AND quantity > 0 LIMIT 1", [
      orderId,
    ])) !== null
  );
}
