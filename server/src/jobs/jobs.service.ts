import { Injectable } from '@nestjs/common';
import { Db, fromJson, newId, type Sql, type Tx } from '../database/db.js';
import { log } from '../http/log.js';
import { NotHere } from '../http/problem.js';
import { Leases, Rounds, type Turn } from '../leases/leases.module.js';
import { Job as JobEntity } from './job.entity.js';
import {
  beginAnew,
  beginAnewOf,
  dueLanes,
  endJob,
  forgetDone,
  hurryLane,
  type JobRow,
  lockNextJob,
  putOff,
  takeJob,
} from './jobs.queries.js';

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
  work: (job: Job<P>, turn: JobTurn) => Promise<void>;
}

/** What a job may ask while it works. */
export interface JobTurn {
  /** True when the server is asked to stop: the job ends at its next whole step by `later`. */
  stopped: () => boolean;
  /** Makes sure within a transaction that nobody else has the job by now, and keeps it from others for another while. */
  within: (tx: Tx) => Promise<void>;
  /** Ends the job for now; it goes on later, here or on another server. */
  later: () => never;
}

class Later extends Error {}

/** A job to be done. Jobs of one lane are done one after another; a lane that fails holds up no other. */
export interface NewJob {
  kind: string;
  lane: string;
  payload: unknown;
  subjectId: string | null;
}

/** So many lanes of one name are at work at once: thousands of orders at a time would take all connections from those who scan. */
const LANES = 4;

/** The lane of a name for one thing; what is about the same thing goes one after another. `laneOf('buy', orderId)` is "buy 2", say. */
export const laneOf = (name: string, id: string): string =>
  `${name} ${Number.parseInt(id.slice(-2), 16) % LANES}`;

/** A lane is held for this long from its last job on. */
const LEASE_MS = 60_000;
const FIRST_WAIT_MS = 2_000;
const LONGEST_WAIT_MS = 300_000;
const ROUND = 'jobs';

/** Long work: rows of the jobs table, lane by lane. Features register the kinds they do. */
@Injectable()
export class JobsService {
  private readonly kinds = new Map<string, JobKind<unknown>>();

  constructor(
    private readonly db: Db,
    private readonly leases: Leases,
    private readonly rounds: Rounds,
  ) {
    rounds.register({
      name: ROUND,
      everyMs: 1_000,
      leaseMs: LEASE_MS,
      lanes: () => this.lanes(),
      work: (lane, turn) => this.lane(lane, turn),
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
      JobEntity,
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
    if (jobs.length > 0) tx.hurry(ROUND);
  }

  /** Tries a job again at once, as a person asks; one that was given up begins anew. */
  async retry(id: string, sql: Sql = this.db): Promise<void> {
    const n = await beginAnew(sql, id);
    if (n === 0) throw new NotHere('That piece of work', 'It was done meanwhile; look again.');
  }

  /** The job about something is tried at once, also one that was given up; false when there is none that is not done. */
  async retryOf(sql: Sql, kind: string, subjectId: string): Promise<boolean> {
    return (await beginAnewOf(sql, kind, subjectId)) > 0;
  }

  /** Waiting jobs of a lane are tried at once: what held them up is over. */
  hurry(sql: Sql, lane: string): Promise<number> {
    return hurryLane(sql, lane);
  }

  /** Looks for work at once, without waiting for the next round. */
  soon(): void {
    void this.rounds.once(ROUND);
  }

  private async lanes(): Promise<string[]> {
    const rows = await dueLanes(this.db);
    return rows.map(r => r.lane);
  }

  /** Does the due jobs of a lane one by one; what fails waits, and the lane goes on with the next. */
  private async lane(lane: string, turn: Turn): Promise<void> {
    while (!turn.stopped()) {
      const job = await this.take(lane, turn);
      if (!job) return;
      await this.work(job, turn);
    }
  }

  private async take(lane: string, turn: Turn): Promise<JobRow | null> {
    if (!(await this.leases.renew(turn.lease, LEASE_MS))) return null;
    return this.db.tx({ personId: null, at: new Date() }, async tx => {
      await this.leases.must(tx, turn.lease);
      const job = await lockNextJob(tx, lane);
      if (job) await takeJob(tx, LEASE_MS * 1000, job.id);
      return job;
    });
  }

  private async work(job: JobRow, turn: Turn): Promise<void> {
    const kind = this.kinds.get(job.kind);
    try {
      if (!kind) throw new Error(`No feature does jobs of the kind “${job.kind}”.`);
      const { id, payload, subjectId } = job;
      await kind.work(
        { id, kind: job.kind, payload: fromJson(payload), subjectId },
        {
          stopped: turn.stopped,
          within: tx => this.leases.keep(tx, turn.lease, LEASE_MS),
          later: () => {
            throw new Later();
          },
        },
      );
      await this.end(turn, tx => endJob(tx, job.id));
    } catch (error) {
      if (error instanceof Later) return await this.end(turn, tx => putOff(tx, job.id, 'waiting', 0, null));
      const over = !kind || job.ageHours >= kind.tryHours;
      if (over) log.error({ err: error, job: job.id, kind: job.kind }, 'a job was given up');
      const waitMs = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.min(job.attempts, 20));
      const why = String((error as Error).message).slice(0, 400);
      await this.end(turn, tx => putOff(tx, job.id, over ? 'given up' : 'waiting', waitMs * 1000, why));
    }
  }

  private async end(turn: Turn, note: (tx: Tx) => Promise<unknown>): Promise<void> {
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      await this.leases.must(tx, turn.lease);
      await note(tx);
    });
  }

  /** Forgets jobs that were done so many days ago, some thousands at a time. */
  async forget(days: number): Promise<void> {
    await forgetDone(this.db, days);
  }
}
