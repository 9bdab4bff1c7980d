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
import { In } from 'typeorm';
import { newId, type Row, type Tx } from '../database/db.js';
import { lockAll } from '../database/locks.js';
import { Forbidden } from '../http/problem.js';
import type { Product } from '../products/products.module.js';
import { LineMatching, type Matches } from '../products/products.module.js';
import { type HoldChange, StockService } from '../stock/stock.module.js';
import { addressOf, HEAD_COLUMNS, LINE_COLUMNS, type StoredOrder } from './documents.js';
import { elsewhereOf } from './elsewhere.js';
import { event, toHistory } from './events.js';
import { GivingUp } from './givingUp.service.js';
import { LinePart } from './linePart.entity.js';
import { OrderLine } from './orderLine.entity.js';
import { productsOf } from './parts.js';
import {
  bumpVersion,
  firstShipment,
  fitOptional,
  heldOfParts,
  lastPosition,
  linesToLink,
  lockOpenWithListing,
  removeLines,
  setWanted,
  updateHead,
} from './writer.queries.js';

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
 * that parts no longer want, and the history. Parts on a list or further are taken back before (see undoing), or, of an order at the
 * bench, given up unit by unit.
 */
@Injectable()
export class OrderWriter {
  constructor(
    private readonly stock: StockService,
    private readonly matching: LineMatching,
    private readonly givingUp: GivingUp,
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
    await updateHead(tx, order.id, columns);
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
    // Nobody may promise anything to the parts while they change.
    await lockAll(tx, { productStock: await productsOf(tx, order.id) });
    for (const l of order.lines) {
      const now = after.lines[l.key];
      const quantity = now ? Number(now.quantity) : 0;
      if (quantity !== l.quantity) freed.push(...(await this.resize(tx, order, l.id, l.quantity, quantity)));
      if (now)
        await tx.of(OrderLine).update(l.id, Object.fromEntries(LINE_COLUMNS.map(c => [c, now[c] ?? null])));
    }
    if (gone.length > 0)
      await removeLines(
        tx,
        tx.at,
        gone.map(l => l.id),
      );
    if (added.length > 0) await this.addLines(tx, order, after, added);
    const leaveOut = (d: OrderDocument, key: string) => d.lines[key]?.leaveOut;
    if (
      order.lines.some(l => after.lines[l.key] && leaveOut(after, l.key) !== leaveOut(order.document, l.key))
    )
      await fitOptional(tx, [order.id]);
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
    const parts = await tx.of(LinePart).find({
      where: { lineId },
      select: { id: true, lineId: true, productId: true, quantity: true, made: true, kitId: true },
      order: { id: 'ASC' },
    });
    await lockAll(tx, { productStock: parts.map(p => p.productId) });
    const rows = await heldOfParts(
      tx,
      parts.map(p => p.id),
    );
    const held = new Map(rows.map(r => [r.partId, r]));
    if (parts.some(p => p.kitId && held.get(p.id)?.further)) throw eked();
    const holds: HoldChange[] = [];
    const further = new Map<string, number>();
    // A kit that was eked out with parts is whole again; reserving decides anew.
    const wanted = (p: PartRow) => (p.kitId ? 0 : ((p.quantity + p.made) / before) * after);
    for (const p of parts) {
      const wants = wanted(p);
      const has = held.get(p.id) ?? { soft: 0, further: 0 };
      const surplus = has.soft + has.further - wants;
      const soft = Math.min(surplus, has.soft);
      if (surplus > soft) further.set(p.id, surplus - soft);
      if (soft > 0)
        holds.push({
          partId: p.id,
          orderId: order.id,
          productId: p.productId,
          hold: 'soft',
          stopId: null,
          parcelId: null,
          change: -soft,
          why: 'edit',
        });
    }
    await this.stock.apply(tx, { holds });
    await this.givingUp.giveUp(tx, order.id, further);
    for (const p of parts) await setWanted(tx, wanted(p), p.id);
    return parts.filter(p => further.has(p.id) || holds.some(h => h.partId === p.id)).map(p => p.productId);
  }

  /** Gives a line the parts of a newer recipe; what its old parts were promised is given back. Gives the products that became free. */
  async newRecipe(
    tx: Tx,
    order: { id: string },
    line: { id: string; quantity: number },
    recipe: { id: string; parts: readonly { productId: string; quantity: number }[] },
  ): Promise<string[]> {
    const freed = await this.resize(tx, order, line.id, line.quantity, 0);
    const { shipmentId } = (await firstShipment(tx, order.id))!;
    await this.insertParts(
      tx,
      recipe.parts.map(p => ({
        id: newId(),
        lineId: line.id,
        orderId: order.id,
        shipmentId,
        productId: p.productId,
        quantity: p.quantity * line.quantity,
      })),
    );
    await tx.of(OrderLine).update({ id: line.id }, { recipeId: recipe.id });
    await fitOptional(tx, [order.id]);
    await bumpVersion(tx, order.id);
    return freed;
  }

  /** An order wants nothing of the house any more: somebody else sends it. Gives the products that became free. */
  async wantNothing(tx: Tx, order: StoredOrder): Promise<string[]> {
    await lockAll(tx, { productStock: await productsOf(tx, order.id) });
    const freed: string[] = [];
    for (const l of order.lines) freed.push(...(await this.resize(tx, order, l.id, l.quantity, 0)));
    await bumpVersion(tx, order.id);
    return freed;
  }

  /** An order that wanted nothing of the house wants all of its lines again, by the products' recipes of now. */
  async wantAgain(tx: Tx, order: StoredOrder, products: ReadonlyMap<string, Product>): Promise<void> {
    const { shipmentId } = (await firstShipment(tx, order.id))!;
    for (const l of order.lines) {
      const product = l.productId === null ? undefined : products.get(l.productId);
      if (!product) continue;
      const parts = await this.matching.partsOf(tx, product, l.units);
      await this.insertParts(
        tx,
        parts.map(p => ({
          id: newId(),
          lineId: l.id,
          orderId: order.id,
          shipmentId,
          productId: p.productId,
          quantity: p.quantity * l.quantity,
        })),
      );
    }
    await fitOptional(tx, [order.id]);
    await bumpVersion(tx, order.id);
  }

  /** Locks the open orders with lines of a listing that has no product yet; gives their ids. */
  async waitingFor(tx: Tx, listingId: string): Promise<string[]> {
    const rows = await lockOpenWithListing(tx, listingId);
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
    const lines = await linesToLink(tx, listing.id, orderIds);
    if (lines.length === 0) return;
    await tx
      .of(OrderLine)
      .update(
        { id: In(lines.map(l => l.id)) },
        { productId: product.id, recipeId: product.recipe.recipeId, units },
      );
    const parts = await this.matching.partsOf(tx, product, units);
    await this.insertParts(
      tx,
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
    await fitOptional(tx, orderIds);
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
    const { last } = (await lastPosition(tx, order.id))!;
    const { shipmentId } = (await firstShipment(tx, order.id))!;
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
      OrderLine,
      made.map(m => m.line),
    );
    await this.insertParts(
      tx,
      made.flatMap(m => m.parts),
    );
  }

  /** Parts that lines want of the house. What somebody else sends takes nothing from here, whoever adds to it. */
  private async insertParts(tx: Tx, parts: readonly Row[]): Promise<void> {
    const elsewhere = await elsewhereOf(
      tx,
      parts.map(p => String(p.orderId)),
    );
    await tx.insert(
      LinePart,
      parts.filter(p => !elsewhere.has(String(p.orderId))),
    );
  }
}

/** A kit that is packed from its parts stays as it is: nobody could say which parts of it are one kit less. */
const eked = () =>
  new Forbidden(
    'This line is packed from the parts of its kit, and they are picked already.',
    'Take everything out at the bench with Undo and let it be put back, or leave the line as it is.',
  );

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
      optional: line.fields.leaveOut
        ? line.fields.leaveOut === 'yes'
        : matches.products.get(p.productId)?.facts.optional === true,
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
