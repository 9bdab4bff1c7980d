import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { ChannelsService } from '../channels/channels.service.js';
import { Db, fromJson } from '../database/db.js';
import { DeparturePlanner } from '../departures/planner.js';
import { log } from '../http/log.js';
import { LiveService } from '../live/live.service.js';
import { event } from '../orders/events.js';
import { foldStageCounts } from '../orders/stages.js';
import { PurchaseService } from '../parcels/purchase.service.js';
import { Lots } from '../stock/lots.service.js';

const TICK_MS = 1_000;
const MINUTE_MS = 60_000;
const MOST_ATTEMPTS = 12;
/** A job taken for longer than this belongs to a server that died. */
const LEASE_MS = 30_000;

interface Job {
  id: string;
  kind: string;
  payload: string;
  attempts: number;
}

/** Long work: rows of the jobs table, taken one at a time and committed as taken before anything outside is asked. */
@Injectable()
export class JobsService implements OnApplicationShutdown {
  private timer: NodeJS.Timeout | null = null;
  private minute = 0;
  private stopped = false;
  private running: Promise<void> = Promise.resolve();
  private pulling: Promise<void> = Promise.resolve();
  private channelTimer: NodeJS.Timeout | null = null;

  constructor(
    private readonly db: Db,
    private readonly purchases: PurchaseService,
    private readonly planner: DeparturePlanner,
    private readonly live: LiveService,
    private readonly channels: ChannelsService,
    private readonly lots: Lots,
  ) {}

  /** Begins to work: recovers purchases at once, then ticks. */
  start(): void {
    const tick = async () => {
      try {
        await this.tick(new Date());
      } catch (error) {
        if (!this.stopped) log.warn({ err: error }, 'a round of jobs failed; it is tried again');
      }
      if (!this.stopped) this.timer = setTimeout(() => (this.running = tick()), TICK_MS);
    };
    this.running = tick();
    // Channels are asked beside the jobs: a slow channel must not keep a tracking number waiting.
    const ask = async () => {
      try {
        await this.askChannels(new Date());
      } catch (error) {
        if (!this.stopped) log.warn({ err: error }, 'a round with the channels failed; it is tried again');
      }
      if (!this.stopped) this.channelTimer = setTimeout(() => (this.pulling = ask()), TICK_MS);
    };
    this.pulling = ask();
  }

  /** One round with the channels: pulls and pushes whose time has come. */
  async askChannels(now: Date): Promise<void> {
    await this.channels.pullDue(now, () => this.stopped);
    if (!this.stopped) await this.channels.pushDue(now);
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    if (this.channelTimer) clearTimeout(this.channelTimer);
    await Promise.all([this.running, this.pulling]);
  }

  /** One round: every waiting job, and once a minute the recovery and the timetable. */
  async tick(now: Date): Promise<void> {
    if (now.getTime() - this.minute >= MINUTE_MS) {
      this.minute = now.getTime();
      await this.purchases.recover(now);
      await this.db.tx({ personId: null, at: now }, tx => this.planner.materialise(tx));
      await this.lots.sweep(now);
      await this.live.tidy(now);
      await this.db.tx({ personId: null, at: now }, tx => foldStageCounts(tx));
    }
    for (let job = await this.take(now); job && !this.stopped; job = await this.take(now))
      await this.work(job, now);
  }

  private take(now: Date): Promise<Job | null> {
    return this.db.tx({ personId: null, at: now }, async tx => {
      const job = await tx.one<Job>(
        "SELECT id, kind, payload, attempts FROM job WHERE state IN ('waiting', 'taken') AND runAt <= ? ORDER BY runAt LIMIT 1 FOR UPDATE SKIP LOCKED",
        [now],
      );
      if (job)
        await tx.run("UPDATE job SET state = 'taken', attempts = attempts + 1, runAt = ? WHERE id = ?", [
          new Date(now.getTime() + LEASE_MS),
          job.id,
        ]);
      return job;
    });
  }

  private async work(job: Job, now: Date): Promise<void> {
    try {
      if (job.kind === 'tell tracking')
        await this.tellTracking(fromJson<{ parcelId: string }>(job.payload).parcelId, now);
      await this.db.run("UPDATE job SET state = 'done' WHERE id = ?", [job.id]);
    } catch (error) {
      const wait = Math.min(300_000, 2_000 * 2 ** job.attempts);
      const state = job.attempts + 1 >= MOST_ATTEMPTS ? 'given up' : 'waiting';
      await this.db.run('UPDATE job SET state = ?, runAt = ?, error = ? WHERE id = ?', [
        state,
        new Date(now.getTime() + wait),
        String((error as Error).message).slice(0, 300),
        job.id,
      ]);
    }
  }

  /** Tells the channel of each order that travels in a parcel: the parcel's own, and those that were put together with it. */
  private async tellTracking(parcelId: string, now: Date): Promise<void> {
    const rows = await this.db.rows<{
      orderId: string;
      channelId: string;
      channel: string;
      channelNumber: string;
      carrier: string;
      tracking: string;
    }>(
      `SELECT o.id AS orderId, h.id AS channelId, h.code AS channel, o.channelNumber, b.carrierName AS carrier, b.tracking
       FROM parcel c JOIN orders o ON o.id = c.orderId OR o.mergedIntoId = c.orderId JOIN channel h ON h.id = o.channelId JOIN purchase b ON b.liveParcel = c.id WHERE c.id = ? ORDER BY o.no`,
      [parcelId],
    );
    for (const { orderId, channelId, ...told } of rows) {
      const key = rows.length === 1 ? parcelId : `${parcelId} ${told.channelNumber}`;
      const channelNumber = told.channelNumber.replace(/\/\d+$/, '');
      if (!(await this.channels.tellTracking(channelId, { key, ...told, channelNumber }))) continue;
      await this.db.tx({ personId: null, at: now }, async tx => {
        await tx.insert('orderEvent', [
          event(tx, orderId, 'told', `The channel was told the tracking number ${told.tracking}.`),
        ]);
        await tx.tell('orders', orderId);
      });
    }
  }
}
