import { count, type Mapping, PURCHASE_FIELDS, type PurchaseRowRead, readPurchaseRows } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { newId, type Tx } from '../database/db.js';
import { orderedBefore, PurchaseOrders } from '../receiving/receiving.module.js';
import type { Table } from '../reference/table.js';
import {
  dataRows,
  type Importer,
  type Outcome,
  oneByOne,
  type ReadFile,
  refused,
  sentenceOf,
} from './importer.js';

/** Orders to suppliers. One that is here already is left as it is: what came for it would no longer fit. */
@Injectable()
export class PurchasesImport implements Importer {
  readonly kind = 'purchases';
  readonly fields = PURCHASE_FIELDS;
  readonly ofChannel = false;

  constructor(private readonly orders: PurchaseOrders) {}

  read(table: Table, mapping: Mapping): ReadFile {
    return oneByOne(
      readPurchaseRows(table, mapping),
      dataRows(table),
      async () => (item, row, tx, commit) => this.one(tx, item, row, commit),
    );
  }

  private async one(tx: Tx, item: PurchaseRowRead, row: number, commit: boolean): Promise<Outcome> {
    const name = `${item.supplier} ${item.reference}`;
    const about = count(item.lines.length, 'line');
    const known = await orderedBefore(tx, item.supplier, item.reference);
    if (known) return { row, name, about, state: 'same', says: `It is PO-${known.no} already.`, changes: [] };
    try {
      if (commit) await tx.attempt(() => this.orders.put(tx, { key: newId(), note: '', ...item }));
      else await this.orders.judge(tx, item);
    } catch (error) {
      return refused(row, name, sentenceOf(error));
    }
    return { row, name, about, state: 'new', says: '', changes: [] };
  }
}
