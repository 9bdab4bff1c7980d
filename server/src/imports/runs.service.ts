import { createHash } from 'node:crypto';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { ImportKind, ImportReport, ImportRun, ImportRunQuery } from '@auk/contract';
import { Injectable } from '@nestjs/common';
import { Db, type Doer, type Tx } from '../database/db.js';
import { Forbidden, Malformed, NotHere } from '../http/problem.js';
import { type Job, JobsService, type JobTurn } from '../jobs/jobs.module.js';
import { ImportFile } from './importFile.entity.js';
import { begun, ImportsService, PART, type Prepared } from './imports.service.js';
import { withMore } from './report.js';
import { forgetReports, lockChannel, type RunRow, runsNewestFirst } from './runs.queries.js';

const KIND = 'take in a file';
/** A file is tried again for this long when something is in the way. */
const TRY_HOURS = 1;
/** The most that is kept of a file, packed; the database holds 16 MB in one cell. */
const MOST_BYTES = 15_000_000;
const RECENT = 12;
/** A file that is taken in so soon needs no second question. */
const MOMENT_MS = 700;
/** Another server may take the job; what was read here for it is forgotten then. */
const READ_KEPT = 4;
const LEVEL = 1;
const pack = promisify(gzip) as (bytes: Buffer, options: { level: number }) => Promise<Buffer>;
const unpack = promisify(gunzip) as (bytes: Buffer) => Promise<Buffer>;

interface Question {
  channel: string;
  mapping?: string;
}

/**
 * Files that are taken in: the file is kept, and a job takes portions of whole things, each with how far it is in one transaction.
 * Killed on the way, another server goes on after the last whole portion; the end is the same as in one go.
 */
@Injectable()
export class ImportRuns {
  /** Files that this server has read to see that they can be taken in. */
  private readonly read = new Map<string, Prepared>();
  /** Who waits a moment for the end of a file. */
  private readonly ends = new Map<string, () => void>();

  constructor(
    private readonly db: Db,
    private readonly imports: ImportsService,
    private readonly jobs: JobsService,
  ) {
    jobs.register<object>({ kind: KIND, tryHours: TRY_HOURS, work: (job, turn) => this.work(job, turn) });
  }

  /** Keeps a file and puts a job on it. The same file again changes nothing; a mapping that was corrected is remembered for its source. */
  async begin(kind: ImportKind, q: ImportRunQuery, bytes: Buffer, doer: Doer): Promise<ImportRun> {
    if (await this.db.of(ImportFile).existsBy({ id: q.id })) return this.one(q.id);
    const p = await this.imports.prepare(kind, q, bytes);
    if (p.missing.length > 0 || !p.file)
      throw new Forbidden(
        `The file has no column for ${p.missing.map(f => f.words).join(', ')}. Its headings are: ${p.headings.slice(0, 20).join(', ').slice(0, 300)}.`,
        'Say which column holds it, or name the columns so that they can be recognised.',
      );
    const packed = await pack(bytes, { level: LEVEL });
    if (packed.length > MOST_BYTES)
      throw new Malformed(
        `The file is too large: ${Math.ceil(packed.length / 1_000_000)} MB packed, and at most ${MOST_BYTES / 1_000_000} are kept.`,
        'Bring it in as several files.',
      );
    const question: Question = { channel: q.channel, ...(q.mapping && { mapping: q.mapping }) };
    await this.db.tx(doer, async tx => {
      const added = await tx
        .of(ImportFile)
        .createQueryBuilder()
        .insert()
        .orIgnore()
        .values({
          id: q.id,
          channelId: p.importer.ofChannel ? p.channel.id : null,
          kind,
          name: q.name,
          digest: createHash('sha256').update(bytes).digest('hex'),
          at: tx.at,
          personId: tx.personId,
          counts: {} as never,
          question: question as never,
          bytes: packed,
          things: p.file!.things,
          report: begun(p, true) as never,
        })
        .execute();
      if (added.raw.affectedRows === 0) return;
      // Files of one source are taken in one after another: the same file dropped twice must not both times be new.
      await this.jobs.add(tx, [
        { kind: KIND, lane: `import ${p.channel.id || kind}`, payload: {}, subjectId: q.id },
      ]);
    });
    this.remember(q.id, p);
    await this.soon(q.id);
    return this.one(q.id);
  }

  /** Has the job begin at once, and waits a moment for it: a small file is done by then, and its report the answer. */
  private async soon(id: string): Promise<void> {
    let timer: NodeJS.Timeout | undefined;
    const moment = new Promise<void>(resolve => {
      timer = setTimeout(resolve, MOMENT_MS);
      this.ends.set(id, resolve);
    });
    this.jobs.soon();
    await moment;
    clearTimeout(timer);
    this.ends.delete(id);
  }

  async one(id: string): Promise<ImportRun> {
    const row = (await runsNewestFirst(this.db, id, 1))[0];
    if (!row) throw new NotHere('That file');
    const file = await this.db.of(ImportFile).findOne({ where: { id }, select: { id: true, report: true } });
    return toRun(row, file!.report as ImportReport | null);
  }

  /** The files that were dropped last, without their reports. */
  async recent(): Promise<ImportRun[]> {
    return (await runsNewestFirst(this.db, null, RECENT)).map(r => toRun(r, null));
  }

  /** Forgets the reports of files that were taken in so many days ago; that they were, stays. */
  forget(days: number): Promise<void> {
    return forgetReports(this.db, days);
  }

  private remember(id: string, p: Prepared): void {
    this.read.set(id, p);
    const [oldest] = this.read.keys();
    if (this.read.size > READ_KEPT) this.read.delete(oldest!);
  }

  private async work(job: Job<object>, turn: JobTurn): Promise<void> {
    const id = job.subjectId!;
    const file = await this.db.of(ImportFile).findOneByOrFail({ id });
    if (file.doneAt) return;
    const question = file.question as Question;
    const p =
      this.read.get(id) ??
      (await this.imports.prepare(file.kind as ImportKind, question, await unpack(file.bytes!)));
    let at: Pick<ImportFile, 'taken'> & { report: ImportReport } = {
      taken: file.taken,
      report: file.report as ImportReport,
    };
    while (at.taken < file.things) {
      if (turn.stopped()) return turn.later();
      const done = at;
      at = await this.db.tx({ personId: file.personId, at: new Date() }, async tx => {
        await turn.within(tx);
        return this.portion(tx, p, id, done);
      });
    }
    await this.db.tx({ personId: file.personId, at: new Date() }, async tx => {
      await turn.within(tx);
      await tx.of(ImportFile).update(id, { bytes: null, doneAt: tx.at });
      await this.imports.remember(tx, p);
      await tx.tell(p.importer.kind === 'orders' ? 'orders' : 'catalog', '');
      await tx.tell('imports', id);
    });
    this.read.delete(id);
    this.ends.get(id)?.();
  }

  /** Takes in the next portion, and notes in the same transaction how far the file is. */
  private async portion(
    tx: Tx,
    p: Prepared,
    id: string,
    done: { taken: number; report: ImportReport },
  ): Promise<{ taken: number; report: ImportReport }> {
    if (p.importer.ofChannel) await lockChannel(tx, p.channel.id);
    const outcomes = await p.file!.handle(tx, done.taken, done.taken + PART, true);
    const taken = Math.min(done.taken + PART, p.file!.things);
    const report = withMore(done.report, outcomes);
    const { new: news, changed, same, cannotChange } = report.counts;
    await tx.of(ImportFile).update(id, {
      taken,
      report: report as never,
      counts: { new: news, changed, same, cannotChange } as never,
    });
    await tx.tell('imports', id);
    return { taken, report };
  }
}

const toRun = (r: RunRow, report: ImportReport | null): ImportRun => ({
  id: r.id,
  name: r.name,
  kind: r.kind,
  channel: r.channel ?? '',
  person: r.person,
  at: r.at.toISOString(),
  state: r.doneAt ? 'done' : r.jobState === 'given up' ? 'given up' : 'under way',
  taken: r.taken,
  things: r.things,
  says: r.doneAt ? null : r.error,
  job: r.jobState === 'given up' ? r.jobId : null,
  report,
});
