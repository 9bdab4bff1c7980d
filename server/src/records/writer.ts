import { createHash } from 'node:crypto';
import {
  type Address,
  type Change,
  diffDocuments,
  documentTotals,
  type OrderDocument,
  togetherKey,
} from '@auk/core';
import { Injectable } from '@nestjs/common';
import { NONE, newId, type Row, type Tx } from '../database/db.js';
import type { Product } from '../products/products.module.js';
import { LineMatching, type Matches } from '../products/products.module.js';
import { type HoldChange, StockService } from '../stock/stock.module.js';
import { addressOf, HEAD_COLUMNS, LINE_COLUMNS, type StoredOrder } from './documents.js';
import { event, toHistory } from './events.js';

/** How a write appears in the history. */
export interface Told {
  kind: string;
  says: string;
}

interface PartRow {
  id: string;
  lineId: string;
  productId: string;
  quantity: number;
  made: number;
  kitId: string | null;
}

/**
 * The one writer of what an order says after its entry. It stores the difference of two documents: head, lines, parts, the promises
 * that parts no longer want, and the history. Parts on a list or further must be taken back before (see undoing.ts).
 */
@Injectable()
export class OrderWriter {
  constructor(
    private readonly stock: StockService,
    private readonly matching: LineMatching,
  ) {}

  /** Writes `after` over a locked order. Returns the changes and the products of which something became free. `more` sets further columns. */
  async write(
    tx: Tx,
    order: StoredOrder,
    after: OrderDocument,
    told: Told,
    more: Record<string, string | null> = {},
  ): Promise<{ changes: Change[]; freed: string[] }> {
    const changes = diffDocuments(order.document, after);
    if (changes.length === 0 && Object.keys(more).length === 0) return { changes, freed: [] };
    const freed = await this.writeLines(tx, order, after);
    const columns = { ...headColumns(after), ...more };
    await tx.run(
      `UPDATE orders SET ${Object.keys(columns)
        .map(c => `${c} = ?`)
        .join(', ')}, version = version + 1 WHERE id = ?`,
      [...Object.values(columns), order.id],
    );
    if (changes.length > 0)
      await toHistory(tx, [event(tx, order.id, told.kind, told.says, changes, order.version + 1)]);
    order.document = after;
    order.version += 1;
    return { changes, freed };
  }

  private async writeLines(tx: Tx, order: StoredOrder, after: OrderDocument): Promise<string[]> {
    const gone = order.lines.filter(l => !after.lines[l.key]);
    const added = Object.keys(after.lines).filter(key => !order.document.lines[key]);
    const freed: string[] = [];
    for (const l of order.lines) {
      const now = after.lines[l.key];
      const quantity = now ? Number(now.quantity) : 0;
      if (quantity !== l.quantity) freed.push(...(await this.resize(tx, order, l.id, l.quantity, quantity)));
      if (now)
        await tx.run(`UPDATE orderLine SET ${LINE_COLUMNS.map(c => `${c} = ?`).join(', ')} WHERE id = ?`, [
          ...LINE_COLUMNS.map(c => now[c] ?? null),
          l.id,
        ]);
    }
    if (gone.length > 0)
      await tx.run("UPDATE orderLine SET removedAt = ?, lineKey = CONCAT('gone ', id) WHERE id IN (?)", [
        tx.at,
        gone.map(l => l.id),
      ]);
    if (added.length > 0) await this.addLines(tx, order, after, added);
    return freed;
  }

  /** Makes the parts of a line fit another quantity; what is promised beyond it becomes free. */
  private async resize(
    tx: Tx,
    order: { id: string },
    lineId: string,
    before: number,
    after: number,
  ): Promise<string[]> {
    const parts = await tx.rows<PartRow>(
      'SELECT id, lineId, productId, quantity, made, kitId FROM linePart WHERE lineId = ? ORDER BY id',
      [lineId],
    );
    // Nobody may promise anything to these parts while they change.
    await this.stock.lockFree(
      tx,
      parts.map(p => p.productId),
    );
    const soft = await tx.rows<{ partId: string; quantity: number }>(
      "SELECT partId, quantity FROM allocation WHERE partId IN (?) AND hold = 'soft' AND quantity > 0",
      [[...parts.map(p => p.id), NONE]],
    );
    const holds: HoldChange[] = [];
    // A kit that was eked out with parts is whole again; reserving decides anew.
    const wanted = (p: PartRow) => (p.kitId ? 0 : ((p.quantity + p.made) / before) * after);
    for (const p of parts) {
      const wants = wanted(p);
      const surplus = (soft.find(s => s.partId === p.id)?.quantity ?? 0) - wants;
      if (surplus > 0)
        holds.push({
          partId: p.id,
          orderId: order.id,
          productId: p.productId,
          hold: 'soft',
          stopId: null,
          parcelId: null,
          change: -surplus,
          why: 'edit',
        });
    }
    await this.stock.apply(tx, { holds });
    for (const p of parts)
      await tx.run('UPDATE linePart SET quantity = ?, made = 0 WHERE id = ?', [wanted(p), p.id]);
    return holds.map(h => h.productId);
  }

  /** Gives a line the parts of a newer recipe; what its old parts were promised is given back. Gives the products that became free. */
  async newRecipe(
    tx: Tx,
    order: { id: string },
    line: { id: string; quantity: number },
    recipe: { id: string; parts: readonly { productId: string; quantity: number }[] },
  ): Promise<string[]> {
    const freed = await this.resize(tx, order, line.id, line.quantity, 0);
    const { shipmentId } = (await tx.one<{ shipmentId: string }>(
      'SELECT id AS shipmentId FROM shipment WHERE orderId = ? AND seq = 1',
      [order.id],
    ))!;
    await tx.insert(
      'linePart',
      recipe.parts.map(p => ({
        id: newId(),
        lineId: line.id,
        orderId: order.id,
        shipmentId,
        productId: p.productId,
        quantity: p.quantity * line.quantity,
      })),
    );
    await tx.run('UPDATE orderLine SET recipeId = ? WHERE id = ?', [recipe.id, line.id]);
    await tx.run('UPDATE orders SET version = version + 1 WHERE id = ?', [order.id]);
    return freed;
  }

  /** Locks the open orders with lines of a listing that has no product yet; gives their ids. */
  async waitingFor(tx: Tx, listingId: string): Promise<string[]> {
    const rows = await tx.rows<{ id: string }>(
      'SELECT DISTINCT o.id FROM orders o JOIN orderLine l ON l.orderId = o.id WHERE l.listingId = ? AND l.productId IS NULL AND l.removedAt IS NULL AND o.isOpen ORDER BY o.id FOR UPDATE',
      [listingId],
    );
    return rows.map(r => r.id);
  }

  /** Gives waiting lines of a listing their product and parts. The orders are locked. */
  async linkLines(
    tx: Tx,
    listing: { id: string; channelSku: string },
    product: Product,
    units: number,
    orderIds: readonly string[],
  ): Promise<void> {
    const lines = await tx.rows<{ id: string; orderId: string; quantity: number; shipmentId: string }>(
      `SELECT l.id, l.orderId, l.quantity, s.id AS shipmentId FROM orderLine l JOIN shipment s ON s.orderId = l.orderId AND s.seq = 1
       WHERE l.listingId = ? AND l.orderId IN (?) AND l.productId IS NULL AND l.removedAt IS NULL`,
      [listing.id, [...orderIds, NONE]],
    );
    if (lines.length === 0) return;
    await tx.run('UPDATE orderLine SET productId = ?, recipeId = ?, units = ? WHERE id IN (?)', [
      product.id,
      product.recipe.recipeId,
      units,
      lines.map(l => l.id),
    ]);
    const parts = await this.matching.partsOf(tx, product, units);
    await tx.insert(
      'linePart',
      lines.flatMap(l =>
        parts.map(p => ({
          id: newId(),
          lineId: l.id,
          orderId: l.orderId,
          shipmentId: l.shipmentId,
          productId: p.productId,
          quantity: p.quantity * l.quantity,
        })),
      ),
    );
    await toHistory(
      tx,
      orderIds.map(id =>
        event(tx, id, 'linked', `Listing ${listing.channelSku} was linked to ${product.name}.`),
      ),
    );
  }

  private async addLines(
    tx: Tx,
    order: StoredOrder,
    after: OrderDocument,
    keys: readonly string[],
  ): Promise<void> {
    const { last } = (await tx.one<{ last: number | null }>(
      'SELECT MAX(position) AS last FROM orderLine WHERE orderId = ?',
      [order.id],
    ))!;
    const { shipmentId } = (await tx.one<{ shipmentId: string }>(
      'SELECT id AS shipmentId FROM shipment WHERE orderId = ? AND seq = 1',
      [order.id],
    ))!;
    const sold = keys.map(key => ({
      key,
      channelSku: skuOfKey(key),
      fields: after.lines[key]!,
    }));
    const matches = await this.matching.open(
      tx,
      order.channelId,
      sold.map(s => ({
        channelSku: s.channelSku,
        title: String(s.fields.title),
        priceMinor: Number(s.fields.priceMinor),
      })),
      false,
    );
    const made = sold.map((s, i) =>
      lineRows(matches, { orderId: order.id, shipmentId, position: (last ?? -1) + 1 + i }, s),
    );
    await tx.insert(
      'orderLine',
      made.map(m => m.line),
    );
    await tx.insert(
      'linePart',
      made.flatMap(m => m.parts),
    );
  }
}

/** The SKU in a line's key; a line that came from a merged order has that order's number before it. */
export const skuOfKey = (key: string): string => key.slice(key.indexOf('|') + 1).replace(/#\d+$/, '');

/** A line's row and its parts' rows. */
export function lineRows(
  matches: Matches,
  at: { orderId: string; shipmentId: string; position: number },
  line: { key: string; channelSku: string; fields: OrderDocument['lines'][string] },
): { line: Row; parts: Row[] } {
  const match = matches.of(line.channelSku);
  const id = newId();
  const quantity = Number(line.fields.quantity);
  return {
    line: {
      id,
      orderId: at.orderId,
      position: at.position,
      lineKey: line.key,
      channelSku: line.channelSku,
      ...(Object.fromEntries(LINE_COLUMNS.map(c => [c, line.fields[c] ?? null])) as Row),
      listingId: match.listingId,
      productId: match.product?.id ?? null,
      recipeId: match.product?.recipe.recipeId ?? null,
      units: match.units,
    },
    parts: (match.parts ?? []).map(p => ({
      id: newId(),
      lineId: id,
      orderId: at.orderId,
      shipmentId: at.shipmentId,
      productId: p.productId,
      quantity: p.quantity * quantity,
    })),
  };
}

/** The columns that follow from a document's head and money. */
export function headColumns(d: OrderDocument): Record<string, string | number | null | Buffer> {
  const shipTo = addressOf('shipTo', d.head);
  const billTo = addressOf('billTo', d.head);
  const totals = documentTotals(d);
  return {
    ...Object.fromEntries(HEAD_COLUMNS.map(c => [c, d.head[c] ?? defaults[c] ?? null])),
    buyer: shipTo?.name ?? '',
    country: (shipTo?.country ?? '').slice(0, 2),
    shipTo: JSON.stringify(shipTo ?? {}),
    billTo: billTo && JSON.stringify(billTo),
    together: shipTo && togetherHash(String(d.head.mail ?? ''), shipTo),
    linesMinor: totals.goods,
    taxMinor: totals.tax,
    totalMinor: totals.total,
  };
}

const defaults: Record<string, string> = { serviceAsked: '', pickUpPoint: '', note: '', mail: '' };

/** A short key that two orders share when they may travel as one. */
export function togetherHash(mail: string, a: Address): Buffer {
  const key = togetherKey({
    mail,
    name: a.name,
    street: a.line1,
    street2: a.line2,
    postcode: a.postcode,
    country: a.country,
  });
  return createHash('sha256').update(key).digest().subarray(0, 16);
}
