import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { CHANNEL_LINK, type ChannelLink } from '../channels/channel.js';
import { Db, fromJson } from '../database/db.js';
import { DeparturePlanner } from '../departures/planner.js';
import { log } from '../http/log.js';
import { LiveService } from '../live/live.service.js';
import { event } from '../orders/events.js';
import { PurchaseService } from '../parcels/purchase.service.js';

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

  constructor(
    private readonly db: Db,
    private readonly purchases: PurchaseService,
    private readonly planner: DeparturePlanner,
    private readonly live: LiveService,
    @Inject(CHANNEL_LINK) private readonly channel: ChannelLink,
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
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    await this.running;
  }

  /** One round: every waiting job, and once a minute the recovery and the timetable. */
  async tick(now: Date): Promise<void> {
    if (now.getTime() - this.minute >= MINUTE_MS) {
      this.minute = now.getTime();
      await this.purchases.recover(now);
      await this.db.tx({ personId: null, at: now }, tx => this.planner.materialise(tx));
      await this.live.tidy(now);
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

  private async tellTracking(parcelId: string, now: Date): Promise<void> {
    const row = (await this.db.one<{
      orderId: string;
      channel: string;
      channelNumber: string;
      carrier: string;
      tracking: string;
    }>(
      `SELECT c.orderId, h.code AS channel, o.channelNumber, b.carrierName AS carrier, b.tracking FROM parcel c JOIN orders o ON o.id = c.orderId JOIN channel h ON h.id = o.channelId JOIN purchase b ON b.liveParcel = c.id WHERE c.id = ?`,
      [parcelId],
    ))!;
    const { orderId, ...told } = row;
    await this.channel.tellTracking({ key: parcelId, ...told });
    await this.db.tx({ personId: null, at: now }, async tx => {
      await tx.insert('orderEvent', [
        event(tx, orderId, 'told', `The channel was told the tracking number ${row.tracking}.`),
      ]);
      await tx.tell('orders', orderId);
    });
  }
}
