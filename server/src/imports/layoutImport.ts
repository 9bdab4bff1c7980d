import { LAYOUT_FIELDS, type Layout, type LayoutThing, type Mapping, readLayoutFile } from '@auk/core';
import { Injectable } from '@nestjs/common';
import type { Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import type { Table } from '../reference/table.js';
import { FloorService, Places, type Standing } from '../stock/stock.module.js';
import {
  dataRows,
  field,
  type Importer,
  type Outcome,
  oneByOne,
  type ReadFile,
  refused,
  stateOf,
} from './importer.js';

/** The floor of the house, and where its places stand on it. */
@Injectable()
export class LayoutImport implements Importer {
  readonly kind = 'layout';
  readonly fields = LAYOUT_FIELDS;
  readonly ofChannel = false;

  constructor(
    private readonly floor: FloorService,
    private readonly places: Places,
    private readonly house: HouseService,
  ) {}

  read(table: Table, mapping: Mapping): ReadFile {
    const read = readLayoutFile(table, mapping);
    const first = read.items[0]?.item;
    const own = first?.type === 'floor' ? first.layout : null;
    return oneByOne(read, dataRows(table), async tx => {
      // Places of the file stand on the floor of the file, which comes first.
      const layout = own ?? (await this.house.layout(tx));
      return (item, row, within, commit) =>
        item.type === 'floor'
          ? this.lay(within, item.layout, row, commit)
          : this.stand(within, item, layout, row, commit);
    });
  }

  private async lay(tx: Tx, layout: Layout, row: number, commit: boolean): Promise<Outcome> {
    const before = await this.house.layout(tx);
    const codes = (l: Layout) => [...l.aisles, ...l.crossAisles].map(w => w.code).join(', ');
    const same = JSON.stringify(before) === JSON.stringify(layout);
    const changes = same ? [] : [field('floor', codes(before), codes(layout))];
    if (commit && !same) await this.floor.lay(tx, layout);
    const about = `${layout.aisles.length} aisles, ${layout.crossAisles.length} cross aisles`;
    return { row, name: 'The floor', about, state: stateOf(false, changes), says: '', changes };
  }

  private async stand(
    tx: Tx,
    at: Extract<LayoutThing, { type: 'place' }>,
    layout: Layout,
    row: number,
    commit: boolean,
  ): Promise<Outcome> {
    const standing: Standing = at;
    const known = await this.floor.standing(tx, at.code);
    const why =
      this.floor.refusal(layout, standing, known?.kind ?? null) ??
      (known
        ? null
        : await this.places.refusal(tx, { code: at.code, kind: 'bin', zone: '', capacity: null }, null));
    if (why) return refused(row, at.code, why);
    const changes = known
      ? (['aisle', 'along', 'side', 'area'] as const)
          .filter(f => at[f] !== null && known[f] !== at[f])
          .map(f => field(f, known[f], at[f]))
      : [];
    if (commit) await this.floor.place(tx, standing);
    return {
      row,
      name: at.code,
      about: `aisle ${at.aisle}`,
      state: stateOf(!known, changes),
      says: '',
      changes,
    };
  }
}
