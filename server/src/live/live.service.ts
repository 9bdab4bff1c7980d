import type { LiveMessage } from '@auk/contract';
import { Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { Observable, Subject } from 'rxjs';
import { Db } from '../database/db.js';
import { log } from '../http/log.js';
import { Rounds } from '../leases/leases.module.js';

const POLL_MS = 200;
const KEEP_HOURS = 24;
const TIDY_EVERY_MS = 60_000;

/** Ids below the newest that are read again: a row may become visible after a later one, when its transaction ended later. */
const LOOK_BACK = 200;

/** Reads the outbox once for all listeners of this server and hands on what changed. */
@Injectable()
export class LiveService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly messages = new Subject<LiveMessage>();
  /** Ids already handed on, within the look-back. Null before the first reading, which hands on nothing. */
  private sent: Set<number> | null = null;
  private newest = 0;
  private timer: NodeJS.Timeout | null = null;
  private stopped = false;

  constructor(
    private readonly db: Db,
    rounds: Rounds,
  ) {
    rounds.register({
      name: 'old messages',
      everyMs: TIDY_EVERY_MS,
      leaseMs: TIDY_EVERY_MS,
      lanes: async () => [''],
      work: () => this.tidy(),
    });
  }

  /** Reads from the first moment on, so that whoever listens misses nothing that happens after. */
  async onApplicationBootstrap(): Promise<void> {
    await this.read();
    this.later();
  }

  /** Messages from now on; ends when the server does. */
  stream(): Observable<LiveMessage> {
    return this.messages.asObservable();
  }

  onApplicationShutdown(): void {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    this.messages.complete();
  }

  /** Forgets what every listener has long seen. */
  private tidy(): Promise<number> {
    return this.db.forgetTold(KEEP_HOURS);
  }

  private later(): void {
    this.timer = setTimeout(() => void this.round(), POLL_MS);
  }

  private async round(): Promise<void> {
    try {
      await this.read();
    } catch (error) {
      if (!this.stopped) log.warn({ err: error }, 'reading the live stream failed; it is tried again');
    }
    if (!this.stopped) this.later();
  }

  private async read(): Promise<void> {
    if (this.sent === null)
      this.newest = (await this.db.one<{ id: number }>('SELECT COALESCE(MAX(id), 0) AS id FROM outbox'))!.id;
    const rows = await this.db.rows<LiveMessage>(
      'SELECT id, topic, ref FROM outbox WHERE id > ? ORDER BY id LIMIT 1000',
      [this.newest - LOOK_BACK],
    );
    const sent = this.sent ?? new Set(rows.map(r => r.id));
    for (const r of rows) if (!sent.has(r.id)) this.messages.next(r);
    this.newest = Math.max(this.newest, rows.at(-1)?.id ?? 0);
    this.sent = new Set([...sent, ...rows.map(r => r.id)].filter(id => id > this.newest - LOOK_BACK));
  }
}
