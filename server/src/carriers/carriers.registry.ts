import type { RateSheet } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { In, IsNull, LessThanOrEqual, Not } from 'typeorm';
import { Db, fromJson, type Sql } from '../database/db.js';
import { unseal } from '../reference/sealing.js';
import { CarrierRow } from './carrier.entity.js';
import type { Carrier } from './carrier.js';
import { CarrierAccount } from './carrierAccount.entity.js';
import { CarrierClosed } from './carrierClosed.entity.js';
import { CarrierServiceRow } from './carrierService.entity.js';
import { CARRIER_KINDS } from './kinds.js';
import { RateSheetRow } from './rateSheet.entity.js';

/** A carrier with one of its accounts, and the sheet that counts for it where its prices are not asked for. */
export interface ServingAccount {
  carrier: Carrier;
  account: Pick<CarrierAccount, 'id' | 'name' | 'number' | 'rates'>;
  sheet: RateSheet | null;
  /** The carrier takes addresses in Latin letters only. */
  latin: boolean;
}

/** The carriers of this house, as they are kept in the database. */
@Injectable()
export class CarrierRegistry {
  /** Sheets never change once they are taken in, so that each is read once. */
  private readonly sheets = new Map<string, RateSheet>();

  constructor(private readonly db: Db) {}

  /** A carrier by its code, in use or not: what was bought from it must be found out and given back. */
  async get(code: string, sql: Sql = this.db): Promise<Carrier | undefined> {
    const row = await sql.of(CarrierRow).findOneBy({ code });
    return row ? opened(row) : undefined;
  }

  /** Carriers that orders are planned with before a label is bought, by the weight up to which they are, the lightest first. */
  async planning(sql: Sql): Promise<{ code: string; upToMg: number }[]> {
    const rows = await sql.of(CarrierRow).findBy({ inUse: true });
    return rows
      .flatMap(r => (r.planUpToMg === null ? [] : [{ code: r.code, upToMg: r.planUpToMg }]))
      .sort((a, b) => a.upToMg - b.upToMg || a.code.localeCompare(b.code));
  }

  /** Whether a carrier that orders are planned with takes addresses in Latin letters only. */
  plansLatin(sql: Sql): Promise<boolean> {
    return sql.of(CarrierRow).existsBy({ inUse: true, latin: true, planUpToMg: Not(IsNull()) });
  }

  /** All accounts in use of carriers in use, each with its sheet of a day, in the order of the carriers. */
  async serving(sql: Sql, day: string): Promise<ServingAccount[]> {
    const carriers = await sql
      .of(CarrierRow)
      .find({ where: { inUse: true }, order: { position: 'ASC', code: 'ASC' } });
    const accounts = await sql.of(CarrierAccount).find({ where: { inUse: true }, order: { number: 'ASC' } });
    const sheets = await sql.of(RateSheetRow).find({
      where: { fromDay: LessThanOrEqual(day) },
      order: { fromDay: 'DESC', at: 'DESC' },
      select: { id: true, accountId: true },
    });
    await this.read(
      sql,
      sheets.map(s => s.id),
    );
    return carriers.flatMap(row => {
      const carrier = opened(row);
      return accounts
        .filter(a => a.carrier === row.code)
        .flatMap((account): ServingAccount[] => {
          if (!carrier) return [];
          const sheet = sheets.find(s => s.accountId === account.id);
          return [
            { carrier, account, sheet: (sheet && this.sheets.get(sheet.id)) ?? null, latin: row.latin },
          ];
        });
    });
  }

  private async read(sql: Sql, ids: readonly string[]): Promise<void> {
    const unknown = ids.filter(id => !this.sheets.has(id));
    if (unknown.length === 0) return;
    const rows = await sql
      .of(RateSheetRow)
      .find({ where: { id: In(unknown) }, select: { id: true, sheet: true as never } });
    for (const { id, sheet } of rows) this.sheets.set(id, fromJson<RateSheet>(sheet));
  }

  /** Services that are not offered any more, as `CARRIER SERVICE`. */
  async shut(sql: Sql): Promise<Set<string>> {
    const rows = await sql.of(CarrierServiceRow).findBy({ inUse: false });
    return new Set(rows.map(r => `${r.carrier} ${r.service}`));
  }

  /** Days on which carriers neither collect nor deliver. */
  async closedDays(sql: Sql): Promise<Set<string>> {
    return new Set((await sql.of(CarrierClosed).find()).map(r => r.day));
  }
}

function opened(row: CarrierRow): Carrier | undefined {
  const { code, name, address, keySealed } = row;
  const kind = CARRIER_KINDS.find(k => k.kind === row.kind);
  return kind?.open({ code, name, address, key: keySealed ? unseal(keySealed) : '' });
}
