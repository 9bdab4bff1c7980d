import { type Mapping, PLACE_FIELDS, type PlaceRowRead, readPlaceRows } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import type { Table } from '../reference/table.js';
import { Places } from '../stock/stock.module.js';
import {
  dataRows,
  field,
  type Importer,
  type Outcome,
  oneByOne,
  type ReadFile,
  refused,
} from './importer.js';
import { placeFacts } from './placesImport.queries.js';

/** Places of the house. */
@Injectable()
export class PlacesImport implements Importer {
  readonly kind = 'places';
  readonly fields = PLACE_FIELDS;
  readonly ofChannel = false;

  constructor(private readonly places: Places) {}

  read(table: Table, mapping: Mapping): ReadFile {
    return oneByOne(
      readPlaceRows(table, mapping),
      dataRows(table),
      async () => (item, row, tx, commit) => this.one(tx, item, row, commit),
    );
  }

  private async one(tx: Tx, item: PlaceRowRead, row: number, commit: boolean): Promise<Outcome> {
    const known = await placeFacts(tx, item.code);
    const why = await this.places.refusal(tx, item, known);
    if (why) return refused(row, item.code, why);
    const changes = known
      ? (['kind', 'zone', 'capacity'] as const)
          .filter(f => known[f] !== item[f])
          .map(f => field(f, known[f], item[f]))
      : [];
    if (commit) await this.places.put(tx, item);
    return {
      row,
      name: item.code,
      about: item.zone,
      state: !known ? 'new' : changes.length > 0 ? 'changed' : 'same',
      says: '',
      changes,
    };
  }
}
