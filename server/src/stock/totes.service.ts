import type { MakeTotes, ToteRow } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, newId } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { Place } from './place.entity.js';
import { lockToteNames, totesByCode } from './totes.queries.js';

const DIGITS = 3;
const PREFIX = { tote: 'TO', trolley: 'TR' } as const;

/** Totes and trolleys: numbering further ones, and seeing what was left in which. */
@Injectable()
export class Totes {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  async list(now: Date): Promise<ToteRow[]> {
    const [rows, days] = await Promise.all([totesByCode(this.db), this.house.days(this.db, now)]);
    const [midnight] = days.span(0, 1);
    return rows.map(({ no, list, since, ...t }) => ({
      ...t,
      order: no === null ? null : `OR-${no}`,
      list: list === null ? null : `PL-${list}`,
      since: t.units > 0 && since ? since.toISOString() : null,
      left: t.units > 0 && ((no === null && list === null) || (since !== null && since < midnight)),
    }));
  }

  /** Makes further totes or trolleys: codes go on after the highest number, marks after the highest of the letter. Gives their codes. */
  make(input: MakeTotes, doer: Doer): Promise<string[]> {
    return this.db.tx(doer, async tx => {
      const { id: warehouseId } = await this.house.warehouse(tx);
      const prefix = PREFIX[input.kind];
      const known = await lockToteNames(tx);
      const after = (names: (string | null)[], form: RegExp) =>
        Math.max(0, ...names.map(n => Number(form.exec(n ?? '')?.[1] ?? 0))) + 1;
      const code = after(
        known.map(t => t.code),
        new RegExp(`^${prefix}-(\\d+)$`),
      );
      const mark = after(
        known.map(t => t.mark),
        new RegExp(`^${input.letter}(\\d+)$`),
      );
      const totes = Array.from({ length: input.count }, (_, i) => ({
        id: newId(),
        warehouseId,
        code: `${prefix}-${String(code + i).padStart(DIGITS, '0')}`,
        kind: input.kind,
        mark: `${input.letter}${mark + i}`,
        colour: input.colour,
        capacity: input.kind === 'trolley' ? input.capacity : null,
      }));
      await tx.insert(Place, totes);
      await tx.tell('stock', 'totes');
      return totes.map(t => t.code);
    });
  }
}
