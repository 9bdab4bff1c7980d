import { type Mapping, readStockRows, STOCK_FIELDS, type StockRowRead } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { StockDesk } from '../corrections/corrections.module.js';
import { NONE, newId, type Tx } from '../database/db.js';
import type { Table } from '../reference/table.js';
import {
  dataRows,
  field,
  type Importer,
  type Outcome,
  oneByOne,
  type ReadFile,
  refused,
  sentenceOf,
} from './importer.js';
import { freeOf, lotsThere, productFacts, promisedPlace } from './stockImport.queries.js';

/** Counted stock: what a place holds is set as a count on the page sets it. */
@Injectable()
export class StockImport implements Importer {
  readonly kind = 'stock';
  readonly fields = STOCK_FIELDS;
  readonly ofChannel = false;

  constructor(private readonly desk: StockDesk) {}

  read(table: Table, mapping: Mapping): ReadFile {
    return oneByOne(
      readStockRows(table, mapping),
      dataRows(table),
      async () => (item, row, tx, commit) => this.one(tx, item, row, commit),
    );
  }

  private async one(tx: Tx, item: StockRowRead, row: number, commit: boolean): Promise<Outcome> {
    const name = `${item.sku} in ${item.place}`;
    const product = await productFacts(tx, item.sku);
    if (!product) return refused(row, name, `No product has the SKU ${item.sku}.`);
    if (product.kind === 'bundle')
      return refused(row, name, `${product.name} is a bundle and has no stock of its own. Count its parts.`);
    const place = await promisedPlace(tx, item.place);
    if (!place) return refused(row, name, `No place for stock has the code ${item.place}.`);
    const held = await lotsThere(tx, product.id, place.id);
    if (held.some(h => h.lotKey !== NONE))
      return refused(row, name, 'It lies there in lots. Count each lot by scan.');
    const onHand = held[0]?.onHand ?? 0;
    const free = (await freeOf(tx, product.id))?.free ?? 0;
    const more = item.quantity - onHand;
    if (commit) {
      const line = { sku: item.sku, lot: null, counted: item.quantity };
      try {
        await tx.attempt(() => this.desk.countLine(tx, newId(), item.place, line, 'from a file'));
      } catch (error) {
        return refused(row, name, sentenceOf(error));
      }
    }
    const short = Math.max(0, -(free + more));
    return {
      row,
      name,
      about: product.name,
      state: onHand === 0 && more > 0 ? 'new' : more === 0 ? 'same' : 'changed',
      says:
        short > 0 ? `${short} that orders were promised are not there: the newest promise goes first` : '',
      changes: more === 0 ? [] : [field('quantity', onHand, item.quantity)],
    };
  }
}
