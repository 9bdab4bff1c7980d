import type { BenchesView, BenchIn, BenchOfDevice, BenchRow, PrinterIn, PrintJobRow } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, errnoOf, isDuplicate, newId, type Sql, Stale } from '../database/db.js';
import { NotHere, TooLate } from '../http/problem.js';
import { Bench } from './bench.entity.js';
import { BenchDevice } from './benchDevice.entity.js';
import { benchOfDevice, benchRows, nextBenchCode, printerRows, trayRows } from './benches.queries.js';
import { Printer } from './printer.entity.js';

/** MariaDB: a row that is named is not there. */
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
      takesFirst: !!b.takesFirst,
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
      await named(
        async () => {
          if (!id) await tx.insert(Bench, [{ id: newId(), code: await nextBenchCode(tx), ...facts }]);
          else if ((await tx.of(Bench).update(id, facts)).affected === 0)
            throw new NotHere('That bench', LOOK);
        },
        `There is a bench “${name}” already, or one of its printers is gone.`,
        // Two benches at once want the same code: the second is given the next.
        async () => id !== undefined || (await tx.of(Bench).existsBy({ name })),
      );
      await tx.tell('prints', id ?? 'new');
    });
  }

  async savePrinter({ id, name, url }: PrinterIn, doer: Doer): Promise<void> {
    await this.db.tx(doer, async tx => {
      await named(async () => {
        if (!id) await tx.insert(Printer, [{ id: newId(), name, url }]);
        else if ((await tx.of(Printer).update(id, { name, url })).affected === 0)
          throw new NotHere('That printer', LOOK);
      }, `There is a printer “${name}” already.`);
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

const LOOK = 'Look at the list again.';

/** Says in words what the database's keys refuse; where a duplicate is of no name, the act is tried again. */
async function named(
  write: () => Promise<void>,
  says: string,
  isName: () => Promise<boolean> = async () => true,
): Promise<void> {
  try {
    await write();
  } catch (error) {
    if (!isDuplicate(error) && errnoOf(error) !== NO_SUCH) throw error;
    if (isDuplicate(error) && !(await isName())) throw new Stale('The code was given meanwhile.');
    throw new TooLate(says, 'Give it another name, or look at the list again.');
  }
}
