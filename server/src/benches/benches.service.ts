import type { BenchesView, BenchIn, BenchOfDevice, BenchRow, PrinterIn, PrintJobRow } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, errnoOf, newId, type Sql, type Tx } from '../database/db.js';
import { NotHere, TooLate } from '../http/problem.js';
import { Bench } from './bench.entity.js';
import { BenchDevice } from './benchDevice.entity.js';
import { benchOfDevice, benchRows, nextBenchNumber, printerRows, trayRows } from './benches.queries.js';
import { Printer } from './printer.entity.js';

/** MariaDB: the row is there already; a row that is named is not there. */
const DUPLICATE = 1062;
const NO_SUCH = 1452;

/** Benches and their printers, and which device stands at which bench. */
@Injectable()
export class Benches {
  constructor(private readonly db: Db) {}

  async all(): Promise<BenchesView> {
    return { benches: await this.rows(), printers: await printerRows(this.db) };
  }

  private async rows(): Promise<BenchRow[]> {
    const rows = await benchRows(this.db);
    return rows.map(({ labelPrinterId, slipPrinterId, invoicePrinterId, scaleAt, ...b }) => ({
      ...b,
      label: labelPrinterId,
      slip: slipPrinterId,
      invoice: invoicePrinterId,
      scale: scaleAt,
      checkOnly: !!b.checkOnly,
      wantsPhoto: !!b.wantsPhoto,
    }));
  }

  /** Sets up a bench, or changes one. */
  async save({ id, name, label, slip, invoice, scale, ...choices }: BenchIn, doer: Doer): Promise<void> {
    const facts = {
      name,
      labelPrinterId: label,
      slipPrinterId: slip,
      invoicePrinterId: invoice,
      scaleAt: scale,
      ...choices,
    };
    await this.db.tx(doer, async tx => {
      await named(async () => {
        if (!id) await tx.insert(Bench, [{ id: newId(), code: `BE-${await nextBenchNumber(tx)}`, ...facts }]);
        else if ((await tx.of(Bench).update(id, facts)).affected === 0) await this.must(tx, id);
      }, `There is a bench “${name}” already, or one of its printers is gone.`);
      await tx.tell('prints', id ?? 'new');
    });
  }

  private async must(tx: Tx, id: string): Promise<void> {
    if (!(await tx.of(Bench).existsBy({ id }))) throw new NotHere('That bench', 'Look at the list again.');
  }

  async savePrinter({ id, name, url }: PrinterIn, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      await named(
        () =>
          id ? tx.of(Printer).update(id, { name, url }) : tx.insert(Printer, [{ id: newId(), name, url }]),
        `There is a printer “${name}” already.`,
      );
      await tx.tell('prints', id ?? 'new');
    });
  }

  /** A device stands at a bench from now on. */
  async take(code: string, device: string, doer: Doer): Promise<BenchOfDevice> {
    await this.db.tx(doer, async tx => {
      const bench = await tx.of(Bench).findOneBy({ code: code.toUpperCase() });
      if (!bench)
        throw new NotHere(
          `A bench with the code ${code.slice(0, 20)}`,
          'Scan the code that is stuck on the bench.',
        );
      await tx.of(BenchDevice).upsert({ device, benchId: bench.id, at: tx.at }, ['device']);
    });
    return this.of(device);
  }

  /** What the bench of a device chooses for the orders that are opened at it. */
  async choices(sql: Sql, device: string): Promise<{ checkOnly: boolean; photo: boolean }> {
    const known = await benchOfDevice(sql, device);
    const bench = known && (await sql.of(Bench).findOneBy({ id: known.id }));
    return { checkOnly: bench?.checkOnly ?? false, photo: bench?.wantsPhoto ?? false };
  }

  async of(device: string): Promise<BenchOfDevice> {
    const known = await benchOfDevice(this.db, device);
    return { bench: (known && (await this.rows()).find(b => b.id === known.id)) ?? null };
  }

  /** What waits for printers, and what came out of them. */
  async tray(printerId: string | null): Promise<PrintJobRow[]> {
    const rows = await trayRows(this.db, printerId);
    return rows.map(({ at, printedAt, parcelNo, orderNo, channelNumber, ...r }) => ({
      ...r,
      what: `${parcelNo === null ? `OR-${orderNo}` : `PA-${parcelNo}`}, ${channelNumber}`,
      at: at.toISOString(),
      printedAt: printedAt?.toISOString() ?? null,
    }));
  }
}

/** Says in words what the database's keys refuse. */
async function named(write: () => Promise<unknown>, says: string): Promise<void> {
  try {
    await write();
  } catch (error) {
    if (![DUPLICATE, NO_SUCH].includes(errnoOf(error) ?? 0)) throw error;
    throw new TooLate(says, 'Give it another name, or look at the list again.');
  }
}
