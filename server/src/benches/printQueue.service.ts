import type { PaperKind } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import { Db, type Doer, fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { NotHere } from '../http/problem.js';
import { readBounded } from '../http/readBounded.js';
import { JobsService } from '../jobs/jobs.module.js';
import { ParcelsQueries } from '../parcels/parcels.module.js';
import { drawTags, PrintingService, type Tag } from '../printing/printing.module.js';
import { Bench } from './bench.entity.js';
import { benchOfDevice, benchOfOrder, forgetPrinted, notePrinted, noteTried } from './benches.queries.js';
import { Printer } from './printer.entity.js';
import { PrintJob } from './printJob.entity.js';

const KIND = 'print';
/** Longest that a printer may take to answer. */
const LONGEST_MS = 15_000;
/** Most bytes of what it says. */
const LONGEST_ANSWER = 10_000;

const PRINTER_OF: Record<PaperKind, (b: Bench) => string | null> = {
  label: b => b.labelPrinterId,
  slip: b => b.slipPrinterId,
  invoice: b => b.invoicePrinterId,
  // Papers for customs are sheets as invoices are.
  customs: b => b.invoicePrinterId ?? b.slipPrinterId,
  unit: b => b.labelPrinterId,
};

/** A label for units, and how many of it. */
export type TagsToPrint = Tag & { count: number };

/**
 * Papers on their way to printers. What is to be printed is stored with what caused it, and tried until the printer has taken it; each
 * printer has its lane, so that one without paper holds up no other. Printing again is a person's wish, never a guess.
 */
@Injectable()
export class PrintQueue {
  constructor(
    private readonly db: Db,
    private readonly jobs: JobsService,
    private readonly printing: PrintingService,
    private readonly parcels: ParcelsQueries,
  ) {
    jobs.register<{ printJobId: string }>({
      kind: KIND,
      tryHours: 24,
      work: job => this.print(job.payload.printJobId),
    });
  }

  /** Puts a paper of an order into the tray of the bench it was packed at; nothing where that bench has no printer for it. */
  async add(tx: Tx, kind: PaperKind, orderId: string, parcelNo: number | null = null): Promise<void> {
    const bench = await benchOfOrder(tx, orderId);
    if (kind === 'customs' && !(await this.parcels.wantsPapers(tx, parcelNo!))) return;
    const printerId = bench && PRINTER_OF[kind](bench);
    if (!printerId) return;
    const id = newId();
    await tx.insert(PrintJob, [
      { id, printerId, benchId: bench.id, kind, orderId, parcelNo, at: tx.at, personId: tx.personId },
    ]);
    await this.send(tx, id, printerId);
  }

  /** Puts labels for units into the tray of the bench that a device stands at; gives false where that has no printer for labels. */
  async addTags(
    tx: Tx,
    { device, orderId }: { device: string; orderId: string },
    tags: TagsToPrint,
  ): Promise<boolean> {
    const bench = await this.benchAt(tx, device);
    const printerId = bench && PRINTER_OF.unit(bench);
    if (!printerId) return false;
    const id = newId();
    const { personId, at } = tx;
    await tx.insert(PrintJob, [
      { id, printerId, benchId: bench.id, kind: 'unit', orderId, tags: JSON.stringify(tags), at, personId },
    ]);
    await this.send(tx, id, printerId);
    return true;
  }

  /** The printer for labels at the bench that a device stands at; null where there is none. */
  async labelPrinterAt(sql: Sql, device: string): Promise<string | null> {
    const bench = await this.benchAt(sql, device);
    const id = bench && PRINTER_OF.unit(bench);
    return id ? (await sql.of(Printer).findOneByOrFail({ id })).name : null;
  }

  private async benchAt(sql: Sql, device: string): Promise<Bench | null> {
    const stands = await benchOfDevice(sql, device);
    return stands && sql.of(Bench).findOneBy({ id: stands.id });
  }

  /** Prints a paper once more. */
  again(id: string, doer: Doer): Promise<void> {
    return this.db.tx(doer, async tx => {
      const job = await tx.of(PrintJob).findOne({ where: { id }, lock: { mode: 'pessimistic_write' } });
      if (!job) throw new NotHere('That paper', 'Look at the tray again.');
      // What waits is on its way already, or was given up: it is tried at once, and comes out once.
      if (job.state === 'waiting' && (await this.jobs.retryOf(tx, KIND, id))) return;
      if (job.state === 'printed') await tx.of(PrintJob).update(id, { state: 'waiting', at: tx.at });
      await this.send(tx, id, job.printerId);
    });
  }

  /** A label that was given back is not printed any more, where it still waits. */
  async callOff(tx: Tx, parcelNo: number): Promise<void> {
    await tx.of(PrintJob).delete({ kind: In(['label', 'customs']), parcelNo, state: 'waiting' });
    await tx.tell('prints', String(parcelNo));
  }

  /** Forgets papers that came out so many days ago; what waits is never forgotten. */
  async forget(days: number): Promise<void> {
    await forgetPrinted(this.db, days);
  }

  private async send(tx: Tx, printJobId: string, lane: string): Promise<void> {
    await this.jobs.add(tx, [{ kind: KIND, lane, payload: { printJobId }, subjectId: printJobId }]);
    await tx.tell('prints', printJobId);
  }

  /** Draws a paper and hands it to its printer; the id of the job tells the printer what it has had already. */
  private async print(id: string): Promise<void> {
    const job = await this.db.of(PrintJob).findOneBy({ id });
    if (!job || job.state === 'printed') return;
    const printer = (await this.db.of(Printer).findOneBy({ id: job.printerId }))!;
    try {
      const pdf = await this.draw(job);
      const answer = await fetch(printer.url, {
        method: 'POST',
        headers: { 'content-type': 'application/pdf', 'idempotency-key': `${id}-${job.copies}` },
        body: new Uint8Array(pdf),
        redirect: 'error',
        signal: AbortSignal.timeout(LONGEST_MS),
      });
      const said = await readBounded(answer, LONGEST_ANSWER);
      if (!answer.ok) throw new Error(said.slice(0, 200) || `It answered ${answer.status}.`);
    } catch (error) {
      await noteTried(this.db, id, whyOf(printer, error));
      await this.tell(id);
      throw error;
    }
    await notePrinted(this.db, id);
    await this.tell(id);
  }

  private tell(id: string): Promise<void> {
    return this.db.tx({ personId: null, at: new Date() }, tx => tx.tell('prints', id));
  }

  private draw(job: PrintJob): Promise<Buffer> {
    if (job.kind === 'label') return this.printing.label(job.parcelNo!);
    if (job.kind === 'unit') {
      const { count, ...tag } = fromJson<TagsToPrint>(job.tags);
      return drawTags(
        Array.from({ length: count }, () => tag),
        'thermal',
      );
    }
    if (job.kind === 'customs') return this.printing.customs(job.parcelNo!);
    return job.kind === 'slip' ? this.printing.slip(job.orderId) : this.printing.invoice(job.orderId);
  }
}

function whyOf(printer: Printer, error: unknown): string {
  const { name, message } = error as Error;
  if (name === 'TimeoutError') return `${printer.name} does not answer.`;
  return message === 'fetch failed'
    ? `${printer.name} cannot be reached.`
    : `${printer.name}: ${message}`.slice(0, 300);
}
