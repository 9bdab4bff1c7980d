import { Injectable } from '@nestjs/common';
import { Db, fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { log } from '../http/log.js';
import { NotHere } from '../http/problem.js';
import { Leases, Rounds, type Turn } from '../leases/leases.module.js';

/** A job as its worker sees it. */
export interface Job<P = unknown> {
  id: string;
  kind: string;
  payload: P;
  subjectId: string | null;
}

/** A kind of long work. Its work may be done twice when a server dies on the way, and must then count once. */
export interface JobKind<P> {
  kind: string;
  /** How long it is tried before a person is asked, in hours. */
  tryHours: number;
  work: (job: Job<P>, turn: Turn) => Promise<void>;
}

/** A job to be done. Jobs of one lane are done one after another; a lane that fails holds up no other. */
export interface NewJob {
  kind: string;
  lane: string;
  payload: unknown;
  subjectId: string | null;
}

interface JobRow {
  id: string;
  kind: string;
  payload: string;
  subjectId: string | null;
  attempts: number;
  ageHours: number;
}

/** A lane is held for this long from its last job on. */
const LEASE_MS = 60_000;
const FIRST_WAIT_MS = 2_000;
const LONGEST_WAIT_MS = 300_000;
const KEEP_DAYS = 30;

/** Long work: rows of the jobs table, lane by lane. Features register the kinds they do. */
@Injectable()
export class JobsService {
  private readonly kinds = new Map<string, JobKind<unknown>>();

  constructor(
    private readonly db: Db,
    private readonly leases: Leases,
    rounds: Rounds,
  ) {
    rounds.register({
      name: 'jobs',
      everyMs: 1_000,
      leaseMs: LEASE_MS,
      lanes: () => this.lanes(),
      work: (lane, turn) => this.lane(lane, turn),
    });
    rounds.register({
      name: 'done jobs',
      everyMs: 3_600_000,
      leaseMs: LEASE_MS,
      lanes: async () => [''],
      work: () => this.tidy(),
    });
  }

  register<P>(kind: JobKind<P>): void {
    this.kinds.set(kind.kind, kind as JobKind<unknown>);
  }

  /** Puts jobs into the caller's transaction. A kind that no feature does is refused. */
  async add(tx: Tx, jobs: readonly NewJob[]): Promise<void> {
    const unknown = jobs.find(j => !this.kinds.has(j.kind));
    if (unknown) throw new Error(`No feature does jobs of the kind “${unknown.kind}”.`);
    await tx.insert(
      'job',
      jobs.map(j => ({
        id: newId(),
        kind: j.kind,
        lane: j.lane,
        payload: JSON.stringify(j.payload),
        subjectId: j.subjectId,
        state: 'waiting',
        createdAt: tx.at,
        runAt: tx.at,
      })),
    );
  }

  /** Tries a job again at once, as a person asks; one that was given up begins anew. */
  async retry(id: string, sql: Sql = this.db): Promise<void> {
    const n = await sql.run(
      "UPDATE job SET state = 'waiting', attempts = 0, createdAt = NOW(3), runAt = NOW(3) WHERE id = ? AND state IN ('waiting', 'given up')",
      [id],
    );
    if (n === 0) throw new NotHere('That piece of work', 'It was done meanwhile; look again.');
  }

  /** Waiting jobs of a lane are tried at once: what held them up is over. */
  hurry(sql: Sql, lane: string): Promise<number> {
    return sql.run("UPDATE job SET runAt = NOW(3) WHERE lane = ? AND state = 'waiting' AND runAt > NOW(3)", [
      lane,
    ]);
  }

  private async lanes(): Promise<string[]> {
    const rows = await this.db.rows<{ lane: string }>(
      "SELECT DISTINCT lane FROM job WHERE state IN ('waiting', 'taken') AND runAt <= NOW(3)",
    );
    return rows.map(r => r.lane);
  }

  /** Does the due jobs of a lane one by one; what fails waits, and the lane goes on with the next. */
  private async lane(lane: string, turn: Turn): Promise<void> {
    for (let job = await this.take(lane, turn); job && !turn.stopped(); job = await this.take(lane, turn))
      await this.work(job, turn);
  }

  private async take(lane: string, turn: Turn): Promise<JobRow | null> {
    if (!(await this.leases.renew(turn.lease, LEASE_MS))) return null;
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      await this.leases.must(tx, turn.lease);
      const job = await tx.one<JobRow>(
        "SELECT id, kind, payload, subjectId, attempts, TIMESTAMPDIFF(SECOND, createdAt, NOW(3)) / 3600 AS ageHours FROM job WHERE lane = ? AND state IN ('waiting', 'taken') AND runAt <= NOW(3) ORDER BY runAt, id LIMIT 1 FOR UPDATE",
        [lane],
      );
      if (job)
        await tx.run(
          "UPDATE job SET state = 'taken', attempts = attempts + 1, runAt = NOW(3) + INTERVAL ? MICROSECOND WHERE id = ?",
          [LEASE_MS * 1000, job.id],
        );
      return job;
    });
  }

  private async work(job: JobRow, turn: Turn): Promise<void> {
    const kind = this.kinds.get(job.kind);
    try {
      if (!kind) throw new Error(`No feature does jobs of the kind “${job.kind}”.`);
      const { id, payload, subjectId } = job;
      await kind.work({ id, kind: job.kind, payload: fromJson(payload), subjectId }, turn);
      await this.end(turn, job.id, "state = 'done', error = NULL", []);
    } catch (error) {
      const over = !kind || job.ageHours >= kind.tryHours;
      if (over) log.error({ err: error, job: job.id, kind: job.kind }, 'a job was given up');
      await this.end(turn, job.id, 'state = ?, runAt = NOW(3) + INTERVAL ? MICROSECOND, error = ?', [
        over ? 'given up' : 'waiting',
        Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.min(job.attempts, 20)) * 1000,
        String((error as Error).message).slice(0, 400),
      ]);
    }
  }

  private async end(turn: Turn, id: string, set: string, params: unknown[]): Promise<void> {
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await this.leases.must(tx, turn.lease);
      await tx.run(`UPDATE job SET ${set} WHERE id = ?`, [...params, id]);
    });
  }

  private tidy(): Promise<number> {
    return this.db.run(
      "DELETE FROM job WHERE state = 'done' AND runAt < NOW(3) - INTERVAL ? DAY LIMIT 5000",
      [KEEP_DAYS],
    );
  }
}
