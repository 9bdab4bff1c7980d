import { type Mapping, readStockRows, STOCK_FIELDS, type StockRowRead } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { NONE, type Tx } from '../database/db.js';
import { OrderChecks } from '../orders/checks.service.js';
import { PROMISED_KINDS, StockService } from '../stock/stock.service.js';
import {
  dataRows,
  field,
  type Importer,
  type Outcome,
  oneByOne,
  type ReadFile,
  refused,
} from './importer.js';
import type { Table } from './table.js';

/** Counted stock: what a bin holds is set by a move with its reason. */
@Injectable()
export class StockImport implements Importer {
  readonly kind = 'stock';
  readonly fields = STOCK_FIELDS;
  readonly ofChannel = false;

  constructor(
    private readonly stock: StockService,
    private readonly checks: OrderChecks,
  ) {}

  read(table: Table, mapping: Mapping): ReadFile {
    return oneByOne(
      readStockRows(table, mapping),
      dataRows(table),
      async () => (item, row, tx, commit) => this.one(tx, item, row, commit),
    );
  }

  private async one(tx: Tx, item: StockRowRead, row: number, commit: boolean): Promise<Outcome> {
    const name = `${item.sku} in ${item.place}`;
    const product = await tx.one<{ id: string; name: string; kind: string; facts: string }>(
      'SELECT id, name, kind, facts FROM product WHERE sku = ?',
      [item.sku],
    );
    if (!product) return refused(row, name, `No product has the SKU ${item.sku}.`);
    if (product.kind === 'bundle')
      return refused(row, name, `${product.name} is a bundle and has no stock of its own. Count its parts.`);
    const place = await tx.one<{ id: string }>(
      `SELECT id FROM place WHERE code = ? AND kind IN (${PROMISED_KINDS})`,
      [item.place],
    );
    if (!place) return refused(row, name, `No place for stock has the code ${item.place}.`);
    if (commit) await this.stock.lockFree(tx, [product.id]);
    const held = await tx.rows<{ lotKey: string; onHand: number; listed: number }>(
      `SELECT lotKey, onHand, listed FROM stockBalance WHERE productId = ? AND placeId = ? AND onHand <> 0 ORDER BY lotKey ${commit ? 'FOR UPDATE' : ''}`,
      [product.id, place.id],
    );
    if (held.some(h => h.lotKey !== NONE))
      return refused(row, name, 'It lies there in lots. Count each lot by scan.');
    const [onHand, listed] = [held[0]?.onHand ?? 0, held[0]?.listed ?? 0];
    const free =
      (
        await tx.one<{ free: number }>(
          'SELECT onHand - reserved AS free FROM productStock WHERE productId = ?',
          [product.id],
        )
      )?.free ?? 0;
    const more = item.quantity - onHand;
    if (item.quantity < listed || free + more < 0)
      return refused(
        row,
        name,
        `${onHand} lie there, and orders are promised ${item.quantity < listed ? `${listed} of that place` : `all but ${free} of the product`}. Let those orders go first.`,
      );
    if (commit && more !== 0) await this.move(tx, product.id, place.id, more);
    return {
      row,
      name,
      about: product.name,
      state: onHand === 0 && more > 0 ? 'new' : more === 0 ? 'same' : 'changed',
      says: '',
      changes: more === 0 ? [] : [field('quantity', onHand, item.quantity)],
    };
  }

  private async move(tx: Tx, productId: string, placeId: string, more: number): Promise<void> {
    const { id: missing } = (await tx.one<{ id: string }>(
      "SELECT id FROM place WHERE kind = 'missing' LIMIT 1",
    ))!;
    const [from, to] = more > 0 ? [missing, placeId] : [placeId, missing];
    await this.stock.apply(tx, {
      moves: [{ productId, lotId: null, from, to, quantity: Math.abs(more), why: 'count', causeId: null }],
    });
    if (more > 0) await this.checks.reserveAgain(tx, [productId]);
    await tx.tell('stock', productId);
  }
}
