import type {
  CarrierAccountIn,
  CarrierKind,
  CarrierView,
  ClosedDay,
  ConnectCarrier,
  SheetTaken,
} from '@auk/contract';
import { type RateSheet, readRateSheet } from '@auk/core';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, newId, type Tx } from '../database/db.js';
import { HouseService } from '../house/house.module.js';
import { mustLeadOutside } from '../http/outside.js';
import { Forbidden, NotHere } from '../http/problem.js';
import { seal } from '../reference/sealing.js';
import { readCsv } from '../reference/table.js';
import { CarrierRow } from './carrier.entity.js';
import { CarrierAccount } from './carrierAccount.entity.js';
import { CarrierClosed } from './carrierClosed.entity.js';
import { CarrierServiceRow } from './carrierService.entity.js';
import { collections } from './carriers.queries.js';
import { CARRIER_KINDS } from './kinds.js';
import { publicHolidays } from './publicHolidays.js';
import { RateSheetRow } from './rateSheet.entity.js';

const NOT_HERE = 'Look at the list of carriers again.';

/** Carriers as they are kept in Setup: how they are reached, who pays, what it costs, what is in use. */
@Injectable()
export class CarriersService {
  constructor(
    private readonly db: Db,
    private readonly house: HouseService,
  ) {}

  kinds(): CarrierKind[] {
    return CARRIER_KINDS.map(({ kind, name, about }) => ({ kind, name, about }));
  }

  async list(now: Date): Promise<CarrierView[]> {
    const today = await this.house.today(this.db, now);
    const rows = await this.db.of(CarrierRow).find({ order: { position: 'ASC', code: 'ASC' } });
    const accounts = await this.db.of(CarrierAccount).find({ order: { number: 'ASC' } });
    const services = await this.db.of(CarrierServiceRow).find({ order: { name: 'ASC' } });
    const sheets = await this.db.of(RateSheetRow).find({
      order: { fromDay: 'DESC', at: 'DESC' },
      select: { id: true, accountId: true, name: true, currency: true, fromDay: true, sheet: true as never },
    });
    const weekly = await collections(this.db);
    const sheetsOf = (accountId: string) => {
      const own = sheets.filter(s => s.accountId === accountId);
      const counts = own.find(s => s.fromDay <= today);
      return own.map(s => ({
        id: s.id,
        name: s.name,
        currency: s.currency,
        from: s.fromDay,
        services: (s.sheet as RateSheet).services.length,
        counts: s === counts,
      }));
    };
    return rows.map(({ code, name, kind, address, inUse, latin, planUpToMg }) => ({
      code,
      name,
      kind,
      address,
      inUse,
      latin,
      planUpToMg,
      accounts: accounts
        .filter(a => a.carrier === code)
        .map(({ id, name, number, rates, inUse }) => ({
          id,
          name,
          number,
          rates,
          inUse,
          sheets: sheetsOf(id),
        })),
      services: services
        .filter(s => s.carrier === code)
        .map(({ service, name, inUse }) => ({ service, name, inUse })),
      collections: weekly
        .filter(w => w.carrier === code)
        .map(({ id, name, weekdays, cutOff, freight }) => ({
          id,
          name,
          cutOff,
          weekdays: weekdays.split(',').map(Number),
          freight: !!freight,
        })),
    }));
  }

  /** Connects a carrier, or changes how it is reached. A new one gets the house's own account, whose prices it is asked for. */
  async connect({ key, ...wish }: ConnectCarrier, doer: Doer): Promise<void> {
    if (!CARRIER_KINDS.some(k => k.kind === wish.kind))
      throw new Forbidden(
        `There are no carriers of the kind ${wish.kind}.`,
        'Choose one of the kinds offered.',
      );
    const address = wish.address.replace(/\/$/, '');
    await mustLeadOutside(address);
    await this.db.tx(doer, async tx => {
      const known = await this.locked(tx, wish.code);
      const keySealed = key === '' ? (known?.keySealed ?? null) : seal(key);
      const position = known?.position ?? (await tx.of(CarrierRow).count()) + 1;
      await tx.of(CarrierRow).upsert({ ...wish, address, keySealed, position }, ['code']);
      if (!known)
        await this.addAccount(tx, wish.code, {
          name: 'House account',
          number: '',
          rates: 'asked',
          inUse: true,
        });
      await tx.tell('carriers', wish.code);
    });
  }

  /** Adds an account of a carrier, or changes the one with its number. */
  async account(code: string, wish: CarrierAccountIn, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      if (!(await this.locked(tx, code))) throw new NotHere(`The carrier ${code}`, NOT_HERE);
      await this.addAccount(tx, code, wish);
      await tx.tell('carriers', code);
    });
  }

  private async addAccount(tx: Tx, carrier: string, wish: CarrierAccountIn): Promise<string> {
    const { number } = wish;
    const known = await tx.of(CarrierAccount).findOneBy({ carrier, number });
    const id = known?.id ?? newId();
    if (known) await tx.of(CarrierAccount).update(id, wish);
    else await tx.insert(CarrierAccount, [{ id, carrier, ...wish }]);
    return id;
  }

  /** Takes a rate sheet in for an account. A sheet with a bad row is not taken, and every bad row is named. */
  async takeSheet(accountId: string, bytes: Buffer, doer: Doer): Promise<SheetTaken> {
    const read = readRateSheet(readCsv(bytes));
    if (!read.ok) return { taken: false, name: '', services: 0, bad: read.problem.slice(0, 100) };
    await this.db.tx(doer, tx => this.keepSheet(tx, accountId, read.value, bytes));
    return { taken: true, name: read.value.name, services: read.value.services.length, bad: [] };
  }

  /** Keeps a sheet that was read; its services are known from then on. */
  async keepSheet(tx: Tx, accountId: string, sheet: RateSheet, text: Buffer): Promise<void> {
    const account = await tx.of(CarrierAccount).findOneBy({ id: accountId });
    if (!account) throw new NotHere('This account', NOT_HERE);
    const { name, currency, from: fromDay } = sheet;
    await this.mustConvert(tx, currency);
    await tx.insert(RateSheetRow, [
      {
        id: newId(),
        accountId,
        name,
        currency,
        fromDay,
        sheet: JSON.stringify(sheet),
        text,
        at: tx.at,
        personId: tx.personId,
      },
    ]);
    const services = sheet.services.map(s => ({
      carrier: account.carrier,
      service: s.service,
      name: s.name,
    }));
    await tx.upsert(CarrierServiceRow, services, ['name']);
    await tx.tell('carriers', account.carrier);
  }

  /** A sheet in a currency that nothing can be converted from would never be compared. */
  private async mustConvert(tx: Tx, currency: string): Promise<void> {
    const { currency: house } = await this.house.warehouse(tx);
    if (
      currency === house ||
      (await this.house.exchangeRates(tx, await this.house.today(tx, tx.at))).has(currency)
    )
      return;
    throw new Forbidden(
      `The sheet is in ${currency}, and no rate to ${house} is known.`,
      'Enter what it is worth under Setup > Carriers, then take the sheet in.',
    );
  }

  /** The file that a sheet was read from. */
  async sheetFile(id: string): Promise<{ name: string; text: Buffer }> {
    const row = await this.db.of(RateSheetRow).findOneBy({ id });
    if (!row) throw new NotHere('This rate sheet', NOT_HERE);
    return { name: row.name, text: row.text };
  }

  /** Offers a service, or offers it no more. */
  async serve(carrier: string, service: string, inUse: boolean, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      const done = await tx.of(CarrierServiceRow).update({ carrier, service }, { inUse });
      if (done.affected === 0) throw new NotHere(`The service ${service}`, NOT_HERE);
      await tx.tell('carriers', carrier);
    });
  }

  async closedDays(): Promise<ClosedDay[]> {
    return this.db.of(CarrierClosed).find({ order: { day: 'ASC' } });
  }

  /** Public holidays of the house's country in the year to come that are not days off yet. */
  async proposedDays(now: Date): Promise<ClosedDay[]> {
    const { country } = await this.house.warehouse(this.db);
    const today = await this.house.today(this.db, now);
    const inAYear = `${Number(today.slice(0, 4)) + 1}${today.slice(4)}`;
    const known = new Set((await this.closedDays()).map(d => d.day));
    return publicHolidays(country, today, inAYear).filter(d => !known.has(d.day));
  }

  /** All days off at once; those that are not named are working days again. */
  async setClosedDays(days: readonly ClosedDay[], doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      await tx.of(CarrierClosed).createQueryBuilder().delete().execute();
      await tx.upsert(CarrierClosed, days, ['name']);
      await tx.tell('carriers', 'days');
    });
  }

  private locked(tx: Tx, code: string): Promise<CarrierRow | null> {
    return tx.of(CarrierRow).findOne({ where: { code }, lock: { mode: 'pessimistic_write' } });
  }
}
