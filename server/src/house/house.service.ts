import {
  beginSetting,
  firstPlace,
  firstWarehouse,
  setSetting,
  settingText,
  type Warehouse,
} from './house.queries.js';

export type { Warehouse } from './house.queries.js';

import { type Address, type ExchangeRates, evenLayout, type Layout } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { LessThanOrEqual } from 'typeorm';
import { fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { type Days, daysAround } from './days.js';
import { ExchangeRate } from './exchangeRate.entity.js';
import { Setting } from './setting.entity.js';
import { Warehouse as WarehouseEntity } from './warehouse.entity.js';

/** Places that a house has one of, by their kind; of docks and staging places the first by code. */
export type SpecialKind = 'missing' | 'gone' | 'outside' | 'made' | 'dock' | 'staging' | 'quarantine';

/** What a house begins with: six aisles of twelve bays, in tenths of a millimetre. */
const FIRST_LAYOUT = evenLayout({ aisles: 6, length: 164_000, pitch: 40_000 });

/** The warehouse: its zone and days, its currency and address, its special places, its settings. */
@Injectable()
export class HouseService {
  async warehouse(sql: Sql): Promise<Warehouse> {
    const found = await this.known(sql);
    if (!found) throw new NotHere('The warehouse', 'Finish the first page of Auk: name the house there.');
    return found;
  }

  /** The warehouse, or null in a house that nobody has set up yet. */
  known(sql: Sql): Promise<Warehouse | null> {
    return firstWarehouse(sql);
  }

  /** The days around a moment as the warehouse counts them. */
  async days(sql: Sql, at: Date): Promise<Days> {
    return daysAround(at, (await this.warehouse(sql)).zone);
  }

  /** The warehouse's day of a moment, ISO. */
  async today(sql: Sql, at: Date): Promise<string> {
    return (await this.days(sql, at)).today;
  }

  async sender(sql: Sql): Promise<Address> {
    return (await this.first(sql))!.sender as Address;
  }

  /** The floor: its aisles, and where walks begin and end. */
  async layout(sql: Sql): Promise<Layout> {
    return (await this.first(sql))!.layout as Layout;
  }

  /** The same with the floor locked until the transaction ends: nobody lays another meanwhile. */
  async lockedLayout(tx: Tx): Promise<Layout> {
    const [first] = await tx
      .of(WarehouseEntity)
      .find({ order: { code: 'ASC' }, take: 1, lock: { mode: 'pessimistic_write' } });
    return first!.layout as Layout;
  }

  /** Writes the floor; the caller has made sure that it can be walked. */
  async setLayout(tx: Tx, layout: Layout): Promise<void> {
    const { id } = (await this.first(tx))!;
    await tx.of(WarehouseEntity).update(id, { layout: layout as never });
  }

  /** What one unit of each other currency is worth in the house's own on a day: the last rate that was entered until then. */
  async exchangeRates(sql: Sql, day: string): Promise<ExchangeRates> {
    const rows = await sql
      .of(ExchangeRate)
      .find({ where: { day: LessThanOrEqual(day) }, order: { day: 'ASC' } });
    return new Map(rows.map(r => [r.currency, r.perHouse]));
  }

  /** All rates that were entered, the latest first. */
  async ratesEntered(sql: Sql): Promise<{ currency: string; day: string; perHouse: number }[]> {
    return sql.of(ExchangeRate).find({ order: { currency: 'ASC', day: 'DESC' } });
  }

  /** Enters what a currency is worth from a day on; the same day again corrects it. */
  async enterRate(tx: Tx, rate: { currency: string; day: string; perHouse: number }): Promise<void> {
    await tx.upsert(ExchangeRate, [rate], ['perHouse']);
  }

  private async first(sql: Sql): Promise<WarehouseEntity | undefined> {
    return (await sql.of(WarehouseEntity).find({ order: { code: 'ASC' }, take: 1 }))[0];
  }

  /** The id of a special place. Refused with the cure when the house lacks it. */
  async place(sql: Sql, kind: SpecialKind): Promise<string> {
    return (await this.placeNamed(sql, kind)).id;
  }

  async placeNamed(sql: Sql, kind: SpecialKind): Promise<{ id: string; code: string }> {
    const found = await firstPlace(sql, kind);
    if (!found) throw new NotHere(`A place of the kind ${kind}`, 'Make one under Stock > Places.');
    return found;
  }

  /** A setting of the house, or what counts while nobody has set it. */
  async setting<T>(sql: Sql, name: string, otherwise: T): Promise<T> {
    const row = await settingText(sql, name);
    return row ? fromJson<T>(row.value) : otherwise;
  }

  /** The same, with the setting locked until the transaction ends. */
  async lockedSetting<T>(tx: Tx, name: string, otherwise: T): Promise<T> {
    await beginSetting(tx, name, JSON.stringify(otherwise));
    await tx
      .of(Setting)
      .findOne({ where: { name }, select: { name: true }, lock: { mode: 'pessimistic_write' } });
    return this.setting(tx, name, otherwise);
  }

  /** Makes the warehouse of a new house, with a layout to begin with; gives its id. */
  async make(
    tx: Tx,
    house: Pick<Warehouse, 'name' | 'zone' | 'currency' | 'postcode' | 'country'> & { sender: Address },
  ): Promise<string> {
    const id = newId();
    const { name, zone, currency, postcode, country, sender } = house;
    await tx.insert(WarehouseEntity, [
      {
        id,
        code: 'MAIN',
        name,
        zone,
        currency,
        postcode,
        country,
        sender: JSON.stringify(sender),
        layout: JSON.stringify(FIRST_LAYOUT),
      },
    ]);
    return id;
  }

  async set(sql: Sql, name: string, value: unknown): Promise<void> {
    await setSetting(sql, name, JSON.stringify(value));
  }
}
