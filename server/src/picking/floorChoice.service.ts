import { FIRST_FLOOR_CHOICES, FloorChoices } from '@auk/contract';
import type { PickStop } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, type Sql } from '../database/db.js';
import { HouseService } from '../house/house.module.js';

const SETTING = 'floorChoices';

/** What the lead has chosen for all walks. A walk that is under way keeps what it began with. */
@Injectable()
export class FloorChoice {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  async of(sql: Sql = this.db): Promise<FloorChoices> {
    // What was chosen before a further choice was made possible is eked out.
    return { ...FIRST_FLOOR_CHOICES, ...(await this.house.setting<Partial<FloorChoices>>(sql, SETTING, {})) };
  }

  set(choices: FloorChoices, doer: Doer): Promise<void> {
    return this.db.tx(doer, tx => this.house.set(tx, SETTING, choices));
  }
}

/** Stops in the order that the lead wants; they come in walking order. */
export function sorted(stops: PickStop[], by: FloorChoices['sorting']): PickStop[] {
  if (by === 'walk') return stops;
  const key = (s: PickStop) => (by === 'place' ? s.placeCode : by === 'SKU' ? s.product.sku : s.product.name);
  return stops.toSorted((a, b) => key(a).localeCompare(key(b), 'en', { numeric: true }));
}
