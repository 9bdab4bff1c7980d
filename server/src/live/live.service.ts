import type { LiveMessage } from '@auk/contract';
import { Injectable, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { Observable, Subject } from 'rxjs';
import { Db } from '../database/db.js';
import { log } from '../http/log.js';
import { type Lease, Leases, Rounds } from '../leases/leases.module.js';
import { Counter } from './counter.entity.js';
import { messagesAfter, newestPosition, place, ROWS, streamEnds, unplaced } from './live.queries.js';

const POLL_MS = 200;
const KEEP_HOURS = 24;
const TIDY_EVERY_MS = 60_000;
/** The sequencer holds its lease for this long; when its server dies, another goes on after it. */
const SEQUENCE_MS = 3_000;
const SEQUENCE = 'live sequence';

/** What a client is told that is further behind than can be told again: it asks everything anew. */
const ANEW: Omit<LiveMessage, 'id'> = { topic: 'all', ref: '' };

/**
 * Hands on what changed. A message gets its position only after its transaction has committed, by one sequencer among all servers, so
 * that positions are told without gaps and whoever comes back with the last one misses nothing.
 */
@Injectable()
export class LiveService implements OnApplicationBootstrap, OnApplicationShutdown {
  private readonly messages = new Subject<LiveMessage>();
  private position: number | null = null;
  private lease: Lease | null = null;
  private askedAt = 0;
  private timer: NodeJS.Timeout | null = null;
  private round: Promise<void> = Promise.resolve();
  private stopped = false;

  constructor(
    private readonly db: Db,
    private readonly leases: Leases,
    rounds: Rounds,
  ) {
    rounds.register({
      name: 'old messages',
      everyMs: TIDY_EVERY_MS,
      leaseMs: TIDY_EVERY_MS,
      lanes: async () => [''],
      work: () => this.db.forgetTold(KEEP_HOURS),
    });
  }

  /** Reads from the first moment on, so that whoever listens misses nothing that happens after. */
  async onApplicationBootstrap(): Promise<void> {
    await this.turn();
    this.later();
  }

  /** Messages after a position, then those that come; without one, from now on. Ends when the server does. */
  stream(after: number | null): Observable<LiveMessage> {
    return new Observable(listener => {
      let last = after ?? -1;
      // What comes while the missed is read waits behind it.
      let waiting: LiveMessage[] | null = after === null ? null : [];
      const tell = (m: LiveMessage) => {
        if (m.id <= last && m.topic !== ANEW.topic) return;
        last = m.id;
        listener.next(m);
      };
      const coming = this.messages.subscribe({
        next: m => (waiting ? waiting.push(m) : tell(m)),
        complete: () => listener.complete(),
      });
      if (after !== null)
        void this.missed(after).then(
          missed => {
            for (const m of [...missed, ...(waiting ?? [])]) tell(m);
            waiting = null;
          },
          error => listener.error(error),
        );
      return () => coming.unsubscribe();
    });
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopped = true;
    if (this.timer) clearTimeout(this.timer);
    await this.round;
    if (this.lease) await this.leases.free(this.lease);
    this.messages.complete();
  }

  /** What was told after a position; one message that says to ask everything anew when that is too much or forgotten already. */
  private async missed(after: number): Promise<LiveMessage[]> {
    const { first, newest } = (await streamEnds(this.db))!;
    if (after === newest) return [];
    const canBeTold = first !== null && first <= after + 1 && after < newest && newest - after <= ROWS;
    if (!canBeTold) return [{ id: newest, ...ANEW }];
    return this.after(after);
  }

  private after(position: number): Promise<LiveMessage[]> {
    return messagesAfter(this.db, position);
  }

  private later(): void {
    this.timer = setTimeout(() => {
      this.round = this.turn().finally(() => {
        if (!this.stopped) this.later();
      });
    }, POLL_MS);
  }

  private async turn(): Promise<void> {
    try {
      await this.sequence();
      this.position ??= (await newestPosition(this.db))!.n;
      const rows = await this.after(this.position);
      for (const m of rows) this.messages.next(m);
      this.position = rows.at(-1)?.id ?? this.position;
    } catch (error) {
      if (!this.stopped) log.warn({ err: error }, 'reading the live stream failed; it is tried again');
    }
  }

  /** Gives positions to what has committed, in the order of their making, while this server is the sequencer. */
  private async sequence(): Promise<void> {
    if (this.lease && !(await this.leases.renew(this.lease, SEQUENCE_MS))) this.lease = null;
    if (!this.lease) {
      const now = performance.now();
      if (now - this.askedAt < SEQUENCE_MS / 3 && this.askedAt > 0) return;
      this.askedAt = now;
      this.lease = await this.leases.take(SEQUENCE, SEQUENCE_MS);
    }
    const { lease } = this;
    if (!lease) return;
    await this.db.tx({ personId: null, at: new Date() }, async tx => {
      const fresh = await unplaced(tx);
      if (fresh.length === 0) return;
      await this.leases.must(tx, lease);
      const { value } = (await tx
        .of(Counter)
        .findOne({ where: { name: 'live' }, select: { value: true }, lock: { mode: 'pessimistic_write' } }))!;
      const ids = fresh.map(r => r.id);
      await place(tx, ids, value);
      await tx.of(Counter).update({ name: 'live' }, { value: value + ids.length });
    });
  }
}
