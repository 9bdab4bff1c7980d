import { type Mapping, readSentRows, SENT_FIELDS, type SentRowRead } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import { Elsewhere } from '../elsewhere/elsewhere.module.js';
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

/** What suppliers tell of orders that left there. */
@Injectable()
export class SentImport implements Importer {
  readonly kind = 'sent';
  readonly fields = SENT_FIELDS;
  readonly ofChannel = false;

  constructor(private readonly elsewhere: Elsewhere) {}

  read(table: Table, mapping: Mapping): ReadFile {
    return oneByOne(
      readSentRows(table, mapping),
      dataRows(table),
      async () => (item, row, tx, commit) => this.one(tx, item, row, commit),
    );
  }

  private async one(tx: Tx, item: SentRowRead, row: number, commit: boolean): Promise<Outcome> {
    const name = item.order;
    const about = `${item.carrier} ${item.tracking}`;
    try {
      const found = await this.elsewhere.waiting(tx, item.order);
      if (found.tracking === item.tracking)
        return { row, name, about, state: 'same', says: 'It is told already.', changes: [] };
      if (commit)
        await tx.attempt(() => this.elsewhere.leftLocked(tx, found.orderId, item.carrier, item.tracking));
    } catch (error) {
      return refused(row, name, sentenceOf(error));
    }
    return { row, name, about, state: 'changed', says: '', changes: [] };
  }
}
